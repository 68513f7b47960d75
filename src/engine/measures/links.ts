import { registrableDomain } from '../../core/names/domain';
import { type Store, write } from '../../store/base/database';
import { findDomain, readDomains, trustPathOf } from '../../store/domains/domains';
import { forwarders, pastOf, putInspection, readInspection } from '../../store/links/inspections';
import { eachLinkTotal, readersByDomain } from '../../store/links/link-walks.sql';
import { type LinkTotals, linkTotalsOf } from '../../store/links/links';
import { addMeasurement, putMeasure } from '../../store/links/measures';
import { keepLapsedTargets, referringOf } from '../../store/links/referring';
import { lapsedTargetsOfAll } from '../../store/links/referring-walks.sql';
import { activePoints } from '../../store/links/spam-points';
import { listBriefs } from '../../store/shortlist/briefs';
import { type JobContext, RateMeter, throwIfStopped } from '../runner/context';
import { borrowedFrom, countsOf, type ScoreBase, scoreDomain } from './score';
import { freshWalk, type Walk, WalkReader } from './walk';

const BATCH = 500;

/**
 * Strength, trust, effective referrers and spam risk, from all links known; where few links are new, of what they reach.
 *
 * @param isAll writes those of all domains all the same. @param also ids of domains to be written besides.
 */
export function measureLinks(context: JobContext, isAll: boolean, also: readonly number[]): void {
  const { store, settings, signal } = context;
  context.progress({ done: 0, total: null, unit: 'domains', rate: 0, message: 'walking the link graph' });
  const trusted = [...new Set(listBriefs(store).flatMap((brief) => brief.trustedSites))];
  const idOf = (name: string) => (registrableDomain(name) ? (findDomain(store, name)?.id ?? null) : null);
  const { walk, targets, before } = freshWalk(store, trusted, idOf);
  const reader = new WalkReader(
    walk,
    trusted.flatMap((name) => idOf(name) ?? []),
  );
  const at = store.now();
  noteMeasurement(store, walk, reader, at);
  const readers = readersByDomain(store);
  const lapsed = lapsedTargetsOfAll(store);
  write(store, () => keepLapsedTargets(store, lapsed));
  const base: ScoreBase = { settings, points: activePoints(store), lapsedTargets: (id) => lapsed.get(id) ?? 0 };
  const totals =
    isAll || targets === null || before === null
      ? [...eachLinkTotal(store)]
      : linkTotalsOf(store, [...new Set([...targets, ...reader.movedSince(before), ...also])]).filter(
          ({ backlinks }) => backlinks > 0,
        );
  const meter = new RateMeter();
  for (let start = 0; start < totals.length; start += BATCH) {
    throwIfStopped(signal);
    const part = totals.slice(start, start + BATCH);
    write(store, () => writePart(store, part, reader, readers, base, at));
    context.changed(part.map((total) => total.toId));
    const done = start + part.length;
    context.progress({
      done,
      total: totals.length,
      unit: 'domains',
      rate: meter.rate(done),
      message: 'writing measures',
    });
  }
  context.changed(measureForwarders(store, reader));
  const size = `${walk.state.nodeCount.toLocaleString('en')} domains and ${walk.edges.toLocaleString('en')} links`;
  const message =
    targets === null
      ? `strength and trust from one walk over ${size}`
      : `new links folded into the walk over ${size}, strengths off by at most ${(100 * walk.state.bound).toFixed(1)}%`;
  context.progress({ done: totals.length, total: totals.length, unit: 'domains', rate: 0, message });
}

function noteMeasurement(store: Store, walk: Walk, reader: WalkReader, at: number): void {
  addMeasurement(store, {
    at,
    nodes: walk.state.nodeCount,
    edges: walk.edges,
    steps: walk.steps,
    change: walk.change,
    trusted: walk.trusted,
    floor: reader.floor,
  });
}

function writePart(
  store: Store,
  part: LinkTotals[],
  reader: WalkReader,
  readers: ReadonlyMap<number, number>,
  base: ScoreBase,
  at: number,
): void {
  const rows = new Map(
    readDomains(
      store,
      part.map((total) => total.toId),
    ).map((row) => [row.id, row]),
  );
  const nameOf = (id: number) => rows.get(id)?.name ?? readDomains(store, [id])[0]?.name ?? '';
  for (const total of part) {
    const row = rows.get(total.toId);
    if (!row) continue;
    const score = reader.of(row.id);
    const counted = row.in_pool
      ? countsOf(store, row.id, total, base.settings)
      : { ...total, from: null, factor: null };
    putMeasure(
      store,
      {
        id: row.id,
        backlinks: counted.backlinks,
        referringDomains: counted.referringDomains,
        strength: score?.strength ?? null,
        trust: score?.trust ?? null,
        trustPath: reader.pathTo(row.id)?.map(nameOf) ?? null,
        readers: readers.get(row.id) ?? null,
      },
      at,
    );
    if (!row.in_pool && !readInspection(store, row.id)) continue;
    scoreDomain(store, row, base, score, at);
    putInspection(store, row.id, { count_from: counted.from, count_factor: counted.factor });
  }
}

/**
 * Domains that send their visitors on: their strength is that of the links they earned themselves, beside the one that they show with the
 * target's. @returns their ids.
 */
function measureForwarders(store: Store, reader: WalkReader): number[] {
  const found = forwarders(store);
  const borrowed = new Map<number, number[]>();
  for (const { id } of found)
    borrowed.set(
      id,
      borrowedFrom(
        referringOf(store, id, () => 0),
        pastOf(readInspection(store, id)),
      ),
    );
  const own = reader.without(borrowed);
  write(store, () => {
    for (const { id, targetId } of found) {
      const score = own?.get(id);
      if (score !== undefined) putOwnStrength(store, id, score);
      putInspection(store, id, { strength_with: targetId === null ? null : reader.together(id, targetId) });
    }
  });
  return found.map(({ id }) => id);
}

function putOwnStrength(store: Store, id: number, strength: number): void {
  const row = readDomains(store, [id])[0];
  if (row && row.strength !== strength)
    putMeasure(
      store,
      {
        id,
        backlinks: row.backlinks ?? 0,
        referringDomains: row.referring_domains ?? 0,
        strength,
        trust: row.trust,
        trustPath: trustPathOf(row),
        readers: row.readers,
      },
      row.links_at ?? store.now(),
    );
}
