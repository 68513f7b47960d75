/**
 * A walk over all links between the pages of a crawl. Hand-written SQL, read as bare arrays: 200,000 pages take 0.67 s so, and 0.89 s as rows
 * by name.
 */
import type { Store } from '../base/database';
import { knex, prepared } from '../base/query';
import type { Row } from '../base/schema';

/** Page ids as ascending differences of seven bits a byte, the high bit saying that more follows. */
export function packIds(ids: readonly number[]): Buffer {
  const sorted = new Float64Array(ids).sort();
  // a difference of 53 bits takes at most 8 bytes
  const bytes = Buffer.allocUnsafe(sorted.length * 8);
  let length = 0;
  let before = 0;
  for (const id of sorted) {
    let difference = id - before;
    if (difference === 0) continue;
    before = id;
    for (; difference > 127; difference = Math.floor(difference / 128)) bytes[length++] = (difference % 128) | 128;
    bytes[length++] = difference;
  }
  return bytes.subarray(0, length);
}

export function unpackIds(bytes: Uint8Array): number[] {
  const ids: number[] = [];
  let before = 0;
  let value = 0;
  let factor = 1;
  for (const byte of bytes) {
    value += (byte & 127) * factor;
    if (byte & 128) {
      factor *= 128;
      continue;
    }
    before += value;
    ids.push(before);
    value = 0;
    factor = 1;
  }
  return ids;
}

export function putEdges(
  store: Store,
  sourceId: number,
  pageId: number,
  targets: readonly number[],
  isRedirect: boolean,
): void {
  const packed = packIds(targets);
  if (packed.length === 0) return;
  EDGES.run(store, { pageId, sourceId, redirect: isRedirect ? 1 : 0, targets: packed });
}

const EDGES = prepared((row: { pageId: number; sourceId: number; redirect: 0 | 1; targets: Uint8Array }) =>
  knex('page_edges')
    .insert({ page_id: row.pageId, source_id: row.sourceId, redirect: row.redirect, targets: row.targets })
    .onConflict('page_id')
    .merge(),
);

/**
 * Gives every page of a crawl its true depth, the fewest links from a seed, whatever the order was in which pages were read;
 * pages that turn out to be within `depth` and were set aside as too deep join the queue. A redirect's target is as deep as
 * the redirect. Depths of seeds are 0; `seedDepths` names how deep each site may be read where that is not `depth`.
 *
 * @returns how many pages joined the queue.
 */
export function assignDepths(
  store: Store,
  sourceId: number,
  depth: number,
  seedDepths: ReadonlyMap<string, number>,
): number {
  const rows = store.raw
    .prepare('SELECT id, site, depth, state FROM pages WHERE source_id = ?')
    .raw()
    .all(sourceId) as [number, string, number, Row<'pages'>['state']][];
  const place = new Map(rows.map(([id], index) => [id, index]));
  const shortest = new Int32Array(rows.length).fill(-1);
  const edges = new Map<number, { redirect: number; targets: Uint8Array }>();
  for (const [page, redirect, targets] of store.raw
    .prepare('SELECT page_id, redirect, targets FROM page_edges WHERE source_id = ?')
    .raw()
    .iterate(sourceId) as Iterable<[number, number, Uint8Array]>)
    edges.set(page, { redirect, targets });
  let level = rows.flatMap(([, , at], index) => (at === 0 ? [index] : []));
  for (let at = 0; level.length > 0; at++) {
    const next: number[] = [];
    // redirects lead to pages of the same level, so it grows while it is walked
    for (let i = 0; i < level.length; i++) {
      const index = level[i];
      if (shortest[index] >= 0) continue;
      shortest[index] = at;
      const found = edges.get(rows[index][0]);
      if (!found) continue;
      for (const target of unpackIds(found.targets)) {
        const to = place.get(target);
        if (to !== undefined && shortest[to] < 0) (found.redirect ? level : next).push(to);
      }
    }
    level = next;
  }
  let joined = 0;
  rows.forEach(([id, site, before, state], index) => {
    const now = shortest[index];
    if (now < 0 || (now >= before && state !== 'beyond')) return;
    const isWithin = now <= (seedDepths.get(site) ?? depth);
    const joins = state === 'beyond' && isWithin;
    if (!joins && now === before) return;
    if (joins) joined++;
    DEEPEN.run(store, { id, depth: now, state: joins ? 'queued' : state });
  });
  return joined;
}
const DEEPEN = prepared((page: Pick<Row<'pages'>, 'id' | 'depth' | 'state'>) =>
  knex('pages').where('id', page.id).update({ depth: page.depth, state: page.state }),
);
