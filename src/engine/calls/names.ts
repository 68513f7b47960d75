import { refit, unfit } from '../measures/refit';
import { readName, subjectsOfNames } from '../pool/name-facts';
import type { EngineParts, Handlers } from './parts';

type NamePath = '/names/read' | '/names/subjects' | '/worth/resale' | '/spam/refit' | '/spam/unfit';

/** What names say and would bring, and the points of the spam rules. */
export const nameCalls = ({ store, pool, valuer, runner }: EngineParts): Handlers<NamePath> => {
  const rescore = () => runner.addOnce({ kind: 'rescore', sourceId: null, params: {} });
  return {
    '/names/read': ({ names }) => ({ readings: names.map(({ name, ending }) => readName(name, ending, pool.splits)) }),
    '/names/subjects': ({ names }) => ({ subjects: subjectsOfNames(names, pool.splits) }),
    '/worth/resale': ({ names }) => ({ worths: valuer.resale(names, pool.splits) }),
    '/spam/refit': () => {
      const report = refit(store);
      rescore();
      return report;
    },
    '/spam/unfit': () => {
      unfit(store);
      rescore();
      return {};
    },
  };
};
