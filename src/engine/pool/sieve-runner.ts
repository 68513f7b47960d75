import type { Logger } from 'pino';
import { parseView } from '../../core/pool/conditions';
import { actingAs } from '../../core/work/actor';
import type { Store } from '../../store/base/database';
import { checkAndMeasure, type JobRow } from '../../store/base/jobs';
import { actOn, beginAction } from '../../store/domains/marks';
import { dueSieves, endRun, listSieves, noteHits, readSieve, type Sieve } from '../../store/pool/sieves';
import type { JobRunner } from '../runner/runner';
import type { PoolHost } from './host';

/** Jobs after which the pool holds something else. */
const IMPORTS = new Set<JobRow['kind']>([
  'list',
  'venue',
  'crawl',
  'zones',
  'cut',
  'links',
  'search',
  'check',
  'measure',
  'undo',
]);
const HITS_AT_ONCE = 2000;
/** Several imports that end together are one. */
const REST_MS = 2000;

export interface SieveRun {
  total: number;
  fresh: number[];
}

/** Runs kept sieves, by their schedule and after imports, and does with what is new what their owner wants. */
export class SieveRunner {
  private timer: NodeJS.Timeout | null = null;
  private readonly busy = new Set<number>();

  constructor(
    private readonly store: Store,
    private readonly pool: PoolHost,
    private readonly runner: JobRunner,
    private readonly changed: () => void,
    private readonly log: Logger,
  ) {
    runner.on('job', (job) => {
      if (job.state === 'done' && IMPORTS.has(job.kind)) this.afterImport();
    });
  }

  /** Runs what is due. */
  turn(): void {
    for (const id of dueSieves(this.store, this.store.now())) void this.runSafely(id);
  }

  private afterImport(): void {
    if (this.timer) return;
    this.timer = setTimeout(() => {
      this.timer = null;
      if (!this.store.raw.open) return;
      for (const { id, runs } of listSieves(this.store)) if (runs === 'imports') void this.runSafely(id);
    }, REST_MS);
    this.timer.unref();
  }

  private async runSafely(id: number): Promise<void> {
    try {
      await this.run(id);
    } catch (error) {
      this.log.error({ err: error, sieve: id }, 'a kept sieve could not run');
    }
  }

  /** @returns null when there is no such sieve or it runs already. */
  async run(id: number): Promise<SieveRun | null> {
    const sieve = readSieve(this.store, id);
    if (!sieve || this.busy.has(id)) return null;
    this.busy.add(id);
    try {
      return await this.runOnce(sieve);
    } finally {
      this.busy.delete(id);
    }
  }

  private async runOnce(sieve: Sieve): Promise<SieveRun> {
    const { store, pool } = this;
    const at = store.now();
    const ids = await pool.idsOf({ parts: parseView(new URLSearchParams(sieve.view)).parts });
    const fresh: number[] = [];
    for (let start = 0; start < ids.length; start += HITS_AT_ONCE) {
      fresh.push(...noteHits(store, sieve.id, ids.subarray(start, start + HITS_AT_ONCE), at, sieve.lastAt === null));
      await new Promise((resolve) => setImmediate(resolve));
    }
    endRun(store, sieve.id, at, ids.length, fresh.length);
    if (fresh.length > 0) {
      pool.setMembers('fresh', sieve.id, fresh, true);
      this.pass(sieve, fresh);
    }
    this.changed();
    return { total: ids.length, fresh };
  }

  /** What is new goes on to the shortlist and to what costs more. */
  private pass({ name, shortlistBrief, depth }: Sieve, fresh: number[]): void {
    const { store, pool, runner } = this;
    if (shortlistBrief !== null) {
      const act = { kind: 'shortlist', brief: shortlistBrief } as const;
      const added = actingAs(`the sieve ${name}`, () => actOn(store, beginAction(store, act), act, fresh));
      pool.setMembers('shortlist', shortlistBrief, added, true);
    }
    const inspection = depth === 'everything' ? { wantedBy: `sieve ${name}`, isByHand: false } : null;
    if (depth !== 'nothing') runner.addOnce(checkAndMeasure({ ids: fresh }, {}, inspection));
  }
}
