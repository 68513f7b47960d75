import type { LifePhase } from '../../core/lifecycle/moves';
import { type Store, statement } from '../base/database';

/** What is remembered of a name's life where its row does not tell it: while it lapses, and over looks without an answer. Times in ms since 1970 UTC. */
export interface LifeMemory {
  /** The last phase that a server told; `unknown` is none. */
  phase: LifePhase;
  /** The first and the last look that found it. */
  seenFirstAt: number;
  seenLastAt: number;
  /** The last look that found the phase before it; null: there was none. */
  beforeAt: number | null;
  /** What the registry stated of its deletion and release. */
  deletesAt: number | null;
  freeAt: number | null;
  /** The rules by which its drop is expected, as they were; null: it is not. */
  policy: string | null;
}

/** null: no server has told anything yet. */
export function lifeOf(store: Store, domainId: number): LifeMemory | null {
  const row = statement(
    store.raw,
    `SELECT phase, seen_first_at AS seenFirstAt, seen_last_at AS seenLastAt, before_at AS beforeAt, deletes_at AS deletesAt,
       free_at AS freeAt, policy FROM lives WHERE domain_id = ?`,
  ).get(domainId) as LifeMemory | undefined;
  return row ?? null;
}

/** Call inside a write transaction. */
export function putLifeMemory(store: Store, domainId: number, memory: LifeMemory): void {
  statement(
    store.raw,
    `INSERT OR REPLACE INTO lives (domain_id, phase, seen_first_at, seen_last_at, before_at, deletes_at, free_at, policy)
     VALUES (@domainId, @phase, @seenFirstAt, @seenLastAt, @beforeAt, @deletesAt, @freeAt, @policy)`,
  ).run({ domainId, ...memory });
}

/** Call inside a write transaction. */
export function dropLifeMemory(store: Store, domainId: number): void {
  statement(store.raw, 'DELETE FROM lives WHERE domain_id = ?').run(domainId);
}
