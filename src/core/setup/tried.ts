import { z } from 'zod';
import { ABILITIES, type Ability } from './abilities';

/**
 * What came of a question. `refused`: the other side is there, and says no. `nonsense`: what it says is not what it should. `silent`: nobody
 * answers. `unset`: nobody is named who could be asked.
 * `unread`: it answered, and nothing says yet what of it stands where.
 */
export const TRY_OUTCOMES = ['works', 'refused', 'nonsense', 'silent', 'unset', 'unread'] as const;
export type TryOutcome = (typeof TRY_OUTCOMES)[number];

export const TriedSchema = z.object({
  ability: z.enum(ABILITIES),
  /** ms since 1970 UTC. */
  at: z.number(),
  outcome: z.enum(TRY_OUTCOMES),
  /** What was asked, of whom, in words. */
  asked: z.string(),
  /** What came back, as it came, cut; empty: nothing. */
  came: z.string(),
  elapsedMs: z.number(),
  /** What was understood, in sentences. */
  understood: z.array(z.string()),
  /** What is wrong, and the setting that it can be put right by; null: nothing, or none. */
  problem: z.object({ field: z.string().nullable(), words: z.string() }).nullable(),
  /** The settings that it was asked by, without keys. */
  setBy: z.string(),
});
export type Tried = z.infer<typeof TriedSchema>;

/** The last try of each ability that was tried. */
export const TriesSchema = z.partialRecord(z.enum(ABILITIES), TriedSchema);
export type Tries = z.infer<typeof TriesSchema>;

/** How an ability stands, for a person. */
export interface AbilityState {
  ability: Ability;
  /** `untried`: it is set, and nobody has tried it as it is set now. */
  state: 'works' | 'fails' | 'untried' | 'unset';
  /** Why, in a sentence. */
  words: string;
  /** When that was found out, ms since 1970 UTC; null: nothing was asked. */
  at: number | null;
}
