import type { News, NewsKind } from '../../core/news/news';
import type { Store } from '../../store/base/database';
import { readSettings } from '../../store/base/settings';
import { readDomains } from '../../store/domains/domains';
import { myDeadlines } from '../../store/lifecycle/deadlines';
import { recentEvents } from '../../store/lifecycle/verdicts';
import { outcomesSince } from '../../store/orders/order-log';
import { listSieves, newHits } from '../../store/pool/sieves';

const MOST = 200;
const MINUTE = 60_000;

/**
 * What happened since a moment, of the wanted kinds, the latest last. A deadline is news when the time that Settings remind before it has come;
 * one that passed in the meantime is none.
 */
export function newsSince(store: Store, since: number, kinds: readonly NewsKind[]): News[] {
  const now = store.now();
  const news = kinds.flatMap((kind) => FINDERS[kind](store, since, now));
  return news.sort((a, b) => a.at - b.at).slice(-MOST);
}

const FINDERS: Record<NewsKind, (store: Store, since: number, now: number) => News[]> = {
  hits: (store, since) =>
    listSieves(store).flatMap(({ id, name, inDigest }) => {
      if (!inDigest) return [];
      const hits = newHits(store, id, since, MOST);
      const names = new Map(
        readDomains(
          store,
          hits.map(({ domainId }) => domainId),
        ).map((row) => [row.id, row.name]),
      );
      return hits.flatMap(({ domainId, at }) => {
        const domain = names.get(domainId);
        return domain
          ? [{ id: `hit ${id} ${domainId} ${at}`, kind: 'hits', at, domain, words: `New in ${name}.` }]
          : [];
      });
    }),
  changes: (store, since) =>
    recentEvents(store, since + 1, MOST).map(({ id, at, name, words }) => ({
      id: `change ${id}`,
      kind: 'changes',
      at,
      domain: name,
      words,
    })),
  orders: (store, since) =>
    outcomesSince(store, since, MOST).map(({ id, at, name, venue, words }) => ({
      id: `order ${id}`,
      kind: 'orders',
      at,
      domain: name,
      words: `${words[0].toUpperCase()}${words.slice(1)} (${venue}).`,
    })),
  deadlines: (store, since, now) => {
    const ahead = readSettings(store).reminderMinutes * MINUTE;
    if (ahead === 0) return [];
    return myDeadlines(store, now, false).flatMap(({ uid, at, name, words }) =>
      at >= now && at - ahead > since && at - ahead <= now
        ? [{ id: `deadline ${uid} ${at}`, kind: 'deadlines', at, domain: name, words }]
        : [],
    );
  },
};
