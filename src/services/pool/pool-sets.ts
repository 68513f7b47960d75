import type { SetChoices } from '../../contracts/pool';
import { AREAS, SUBJECTS } from '../../core/topics/subjects';
import type { Store } from '../../store/base/database';
import { listTags } from '../../store/domains/marks';
import { listSieves } from '../../store/pool/sieves';
import type { Brief } from '../../store/shortlist/briefs';
import { listSources } from '../../store/sources/sources';

/** What domains can belong to, as conditions name it. */
export function setChoices(store: Store, briefs: Brief[]): SetChoices {
  const named = (rows: { id: number; name: string }[]) => rows.map(({ id, name }) => ({ id, name }));
  return {
    source: named(listSources(store).filter((source) => source.kind !== 'links')),
    tag: named(listTags(store)),
    shortlist: named(briefs),
    fresh: named(listSieves(store)),
    subjects: SUBJECTS.map(({ title }) => title).sort(),
    areas: AREAS.map(({ title }) => title).sort(),
  };
}
