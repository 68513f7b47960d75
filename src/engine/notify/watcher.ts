import type { Logger } from 'pino';
import { type NearMiss, rankNearMisses } from '../../core/lifecycle/near-miss';
import type { SievePart } from '../../core/pool/conditions';
import { type Store, writeIfFree } from '../../store/base/database';
import { type DomainRow, readDomains } from '../../store/domains/domains';
import { askDue, nearMissIds, setWatched } from '../../store/lifecycle/watching';
import { listBriefs } from '../../store/shortlist/briefs';
import type { PoolHost } from '../pool/host';

/** Questions put in one turn of the clock; more wait for the next second. */
const MOST_DUE = 500;
const MISSES_EVERY_MS = 10 * 60_000;
/** As long as there are none. */
const FIRST_MISSES_MS = 30_000;
/** When the database was being written to. */
const BUSY_MISSES_MS = 5_000;
/** Names that are ranked, and how many of them are watched. */
const LOOKED_AT = 1500;
const MOST_MISSES = 200;
const MOST_OF_BRIEF = 60;
/** Weaker names are no near miss. */
const LEAST_STRENGTH = 5;

const LAPSING: SievePart[] = [
  { type: 'choice', fact: 'phase', values: ['auto-renew', 'redemption', 'pending-delete'], not: false, keepUnknown: false },
  { type: 'range', fact: 'strength', min: LEAST_STRENGTH, max: null, keepUnknown: false },
]; // biome-ignore format: a condition a line

/** Looks again at watched names when it is time, and watches what is nearly to be had. */
export class Watcher {
  private missesAt = 0;
  private isLooking = false;

  constructor(
    private readonly store: Store,
    private readonly pool: Pick<PoolHost, 'query' | 'size'>,
    private readonly changed: (ids: number[]) => void,
    private readonly log: Pick<Logger, 'error'>,
  ) {}

  /** One turn of the clock. */
  turn(): void {
    askDue(this.store, this.store.now(), MOST_DUE);
    if (this.isLooking || performance.now() < this.missesAt || this.pool.size === 0) return;
    this.missesAt = performance.now() + MISSES_EVERY_MS;
    this.isLooking = true;
    void this.watchNearMisses()
      .then((count) => {
        if (!count) this.missesAt = performance.now() + (count === null ? BUSY_MISSES_MS : FIRST_MISSES_MS);
      })
      .catch((error: Error) => this.log.error({ err: error }, 'near misses could not be looked for'))
      .finally(() => {
        this.isLooking = false;
      });
  }

  /**
   * Names that are lapsing, ranked by their worth against the time until they are free: of each brief those with its words in them,
   * then the best of all.
   *
   * @returns how many are watched; null: somebody else was writing, so that nothing changed.
   */
  async watchNearMisses(): Promise<number | null> {
    const { store } = this;
    const wanted = new Set<number>();
    for (const { subjectWords } of listBriefs(store)) {
      const values = subjectWords.flatMap((words) => words.toLowerCase().split(/[^\p{L}\p{N}]+/u)).filter(Boolean);
      if (values.length === 0) continue;
      for (const id of await this.best(
        [{ type: 'text', fact: 'name', mode: 'wordish', values, not: false }],
        MOST_OF_BRIEF,
      ))
        wanted.add(id);
    }
    for (const id of await this.best([], MOST_MISSES)) if (wanted.size < MOST_MISSES) wanted.add(id);
    const before = nearMissIds(store);
    const at = store.now();
    const changed: number[] = [];
    const isWritten = writeIfFree(store, () => {
      changed.push(
        ...before.filter((id) => !wanted.has(id) && setWatched(store, id, null, at)),
        ...[...wanted].filter((id) => setWatched(store, id, 'near miss', at)),
      );
    });
    if (!isWritten) return null;
    if (changed.length > 0) this.changed(changed);
    return wanted.size;
  }

  private async best(parts: SievePart[], limit: number): Promise<number[]> {
    const sorts = [{ fact: 'trust' as const, descending: true }];
    const query = { parts: [...LAPSING, ...parts], sorts, offset: 0, limit: LOOKED_AT, histograms: [] };
    const { ids } = await this.pool.query(query);
    const rows = readDomains(this.store, [...ids]);
    return rankNearMisses(rows.map(nearMissOf), this.store.now(), limit).map(({ id }) => id);
  }
}

export function nearMissOf(row: DomainRow): NearMiss {
  return {
    id: row.id,
    phase: row.phase,
    strength: row.strength,
    trust: row.trust,
    spamRisk: row.spam_risk,
    freeAt: row.drop_to ?? row.drop_at,
  };
}
