import type { Logger } from 'pino';
import type { EngineHealth } from '../../contracts/engine';
import type { EngineAnswer, EnginePath, Read } from '../../contracts/engine-calls';
import type { Store } from '../../store/base/database';
import { readSettings } from '../../store/base/settings';
import type { Valuer } from '../measures/worth';
import type { Digest } from '../notify/digest';
import type { Outbox } from '../orders/outbox';
import type { PoolHost } from '../pool/host';
import type { SieveRunner } from '../pool/sieve-runner';
import type { EngineEvent } from '../protocol';
import type { JobRunner } from '../runner/runner';
import type { ResaleSync } from '../selling/resale-sync';

/** What the handlers of calls work with. */
export interface EngineParts {
  store: Store;
  pool: PoolHost;
  runner: JobRunner;
  sieves: SieveRunner;
  digest: Digest;
  venues: { outbox: Outbox; resales: ResaleSync };
  valuer: Valuer;
  log: Logger;
  startedAt: number;
  state(): EngineHealth['state'];
  mended(): EngineHealth['mended'];
  announce(key: string, event: EngineEvent): void;
  /** Ends the engine, so that it starts again with a copy in place. */
  end(): void;
}

/** One handler a path; what is asked has been read by its contract. */
export type Handlers<Path extends EnginePath> = {
  [P in Path]: (question: Read<P>) => EngineAnswer<P> | Promise<EngineAnswer<P>>;
};

export function announcePool({ pool, announce }: EngineParts): void {
  announce('pool', { type: 'pool', version: pool.version, size: pool.size });
}

/** Rows of domains were changed beside the index. */
export function taken(parts: EngineParts, ids: Iterable<number>, source: number | null): void {
  parts.pool.refresh(ids, source);
  announcePool(parts);
}

/** How long who gave an order waits for the venue's word; the order goes on without. */
const WORD_MS = 6000;

/** What comes of it, or what is known when it takes long. */
export function soon<T>(work: Promise<T>, meanwhile: T): Promise<T> {
  return Promise.race([work, new Promise<T>((resolve) => setTimeout(() => resolve(meanwhile), WORD_MS).unref())]);
}

/** As reading one page wants it. */
export function pageContext(parts: EngineParts, signal: AbortSignal) {
  const { store, log } = parts;
  const changed = (ids: Iterable<number>, source?: number) => taken(parts, ids, source ?? null);
  return { store, settings: readSettings(store), log, signal, changed };
}
