import type { LifePhase } from '../../core/lifecycle/moves';
import type { Store } from '../base/database';
import { camel, columns, knex, pick, prepared } from '../base/query';

const LIVES = columns('lives');

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

const LIFE = prepared(({ domainId }: { domainId: number }) =>
  pick(
    knex('lives'),
    camel(LIVES, 'phase', 'seen_first_at', 'seen_last_at', 'before_at', 'deletes_at', 'free_at', 'policy'),
  ).where('domain_id', domainId),
);

/** null: no server has told anything yet. */
export function lifeOf(store: Store, domainId: number): LifeMemory | null {
  return LIFE.first(store, { domainId }) ?? null;
}

const PUT = prepared((memory: LifeMemory & { domainId: number }) =>
  knex('lives')
    .insert({
      domain_id: memory.domainId,
      phase: memory.phase,
      seen_first_at: memory.seenFirstAt,
      seen_last_at: memory.seenLastAt,
      before_at: memory.beforeAt,
      deletes_at: memory.deletesAt,
      free_at: memory.freeAt,
      policy: memory.policy,
    })
    .onConflict('domain_id')
    .merge(),
);

/** Call inside a write transaction. */
export function putLifeMemory(store: Store, domainId: number, memory: LifeMemory): void {
  PUT.run(store, { domainId, ...memory });
}

/** Call inside a write transaction. */
export function dropLifeMemory(store: Store, domainId: number): void {
  DROP.run(store, { domainId });
}
const DROP = prepared(({ domainId }: { domainId: number }) => knex('lives').where('domain_id', domainId).delete());
