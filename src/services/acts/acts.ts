import type { LastAct } from '../../contracts/acts';
import type { EnginePort } from '../../contracts/engine-port';
import type { Store } from '../../store/base/database';
import { type ActKind, listActs } from '../../store/domains/acts';
import { type Act, lastActions, listTags } from '../../store/domains/marks';
import { freshIn, listSieves } from '../../store/pool/sieves';
import { listBriefs } from '../../store/shortlist/briefs';

const SHOWN = 60;

/** Acts and actions on domains, the latest first. */
export function listLastActs(store: Store): LastAct[] {
  const tags = new Map(listTags(store).map(({ id, name }) => [id, name]));
  const briefs = new Map(listBriefs(store).map(({ id, name }) => [id, name]));
  const acts = listActs(store, SHOWN).map(({ id, at, words, undoneAt, who }) => ({
    key: `act ${id}`,
    at,
    words,
    undoneAt,
    who,
    kind: 'act' as const,
    id,
  }));
  const actions = lastActions(store, SHOWN).map(({ id, at, act, domains, first, undoneAt, who }) => ({
    key: `action ${id}`,
    at,
    words: `${domains === 1 ? first : `${domains} domains`}: ${actWords(act, tags, briefs)}`,
    undoneAt,
    who,
    kind: 'action' as const,
    id,
  }));
  return [...acts, ...actions].sort((a, b) => b.at - a.at || b.id - a.id).slice(0, SHOWN);
}

function actWords(act: Act, tags: ReadonlyMap<number, string>, briefs: ReadonlyMap<number, string>): string {
  switch (act.kind) {
    case 'judge':
      return act.judged === 'not-yet' ? 'judged no more' : `judged ${act.judged}`;
    case 'tag':
      return `tagged ${tags.get(act.tag) ?? ''}`;
    case 'untag':
      return `not tagged ${tags.get(act.tag) ?? ''} any more`;
    case 'shortlist':
      return `put on the shortlist of ${briefs.get(act.brief) ?? 'a brief'}`;
    case 'unshortlist':
      return `removed from the shortlist of ${briefs.get(act.brief) ?? 'a brief'}`;
    case 'watch':
      return 'watched';
    case 'unwatch':
      return 'watched no more';
  }
}

/** Lets the engine know of what was changed beside it. */
export async function tellEngine(store: Store, engine: EnginePort, kind: ActKind): Promise<void> {
  if (kind === 'sieve')
    for (const { id } of listSieves(store)) {
      await engine.setMembers('fresh', id, null, false);
      await engine.setMembers('fresh', id, freshIn(store, id), true);
    }
  if (kind === 'settings') await engine.settingsChanged();
  if (kind === 'brief') await engine.briefsChanged();
}
