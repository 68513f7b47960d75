import { z } from 'zod';
import type { NameFacts } from '../core/names/domain';
import type { SpellingRisk } from '../core/names/spelling';
import type { Split } from '../core/names/word-split';
import { SubjectVerdictSchema } from './topics';

/** A name to be read: its label, or the whole domain, and what it ends with. */
export interface NameToRead {
  name: string;
  ending: string;
}

export const NameFactsSchema = z.object({
  label: z.string(),
  length: z.number(),
  hyphens: z.number(),
  digits: z.number(),
}) satisfies z.ZodType<NameFacts>;

export const SplitSchema = z.object({
  words: z.array(z.string()),
  starts: z.array(z.number()),
  confidence: z.number(),
  runnerUp: z.array(z.string()).nullable(),
}) satisfies z.ZodType<Split>;

export const SpellingRiskSchema = z.object({
  kind: z.enum(['number', 'hyphen', 'doubled', 'silent', 'sounds-alike', 'joint', 'plural']),
  why: z.string(),
  label: z.string().nullable(),
}) satisfies z.ZodType<SpellingRisk>;

/** What a name says by itself. */
export const NameReadingSchema = z.object({
  /** The label that was read, before the ending. */
  label: z.string(),
  split: SplitSchema,
  /** 0 to 100. */
  sayability: z.number(),
  /** Runs of letters that are hard to say. */
  hard: z.array(z.string()),
  spelling: z.array(SpellingRiskSchema),
  /** The label in the other number; null: it has none. */
  twin: z.string().nullable(),
  subject: SubjectVerdictSchema.omit({ known: true }),
});
export type NameReading = z.infer<typeof NameReadingSchema>;

/** What the grid shows of a name. */
export const NameSaidSchema = z.object({
  sayability: z.number(),
  /** Title of the subject that its words tell; null: none that shows. */
  subject: z.string().nullable(),
});
export type NameSaid = z.infer<typeof NameSaidSchema>;
