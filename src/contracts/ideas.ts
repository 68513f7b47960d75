import { z } from 'zod';
import { JOINTS } from '../core/ideas/pattern';
import { StoredIdeaPatternSchema } from '../core/ideas/pattern-schema';
import { IDEA_PARTS } from '../core/ideas/score';
import type { Calls } from './call';
import { FitSchema } from './fit';
import { CsvProblemSchema } from './formats';
import { JobViewSchema } from './jobs';
import { Endings } from './parts';
import { countOf, idOf, textOf } from './query';

const IdeaWord = z.string().regex(/^[a-z0-9]{1,40}$/, 'a word of a name has letters a to z and digits');

const IdeaPatternSchema = z.object({
  slots: z
    .array(
      z.object({
        title: z.string().max(60),
        words: z.array(IdeaWord).max(20_000),
        isOptional: z.boolean().default(false),
      }),
    )
    .min(1, 'a pattern has at least one slot')
    .max(6),
  isAnyOrder: z.boolean().default(false),
  withTwins: z.boolean().default(false),
  joints: z.array(z.enum(JOINTS)).min(1, 'say how words are put together').default(['joined']),
  endings: Endings.refine((endings) => endings.length > 0, 'name at least one ending'),
  mostLetters: z.number().int().min(2).max(63).default(20),
});

export const IdeasSchema = z.object({ briefId: z.number().int(), pattern: IdeaPatternSchema });

/** A pattern that was run for a brief. */
export const IdeaRunSchema = z.object({
  id: z.number(),
  briefId: z.number(),
  pattern: StoredIdeaPatternSchema,
  /** Labels that were judged; null: it has not ended. */
  made: z.number().nullable(),
  createdAt: z.number(),
  doneAt: z.number().nullable(),
});

/** One ending of an idea, with what is known of it. */
export const IdeaEndingSchema = z.object({
  ending: z.string(),
  name: z.string(),
  /** null: nobody has asked yet. */
  phase: z.string().nullable(),
  phaseAt: z.number().nullable(),
  isShortlisted: z.boolean(),
});
export type IdeaEnding = z.infer<typeof IdeaEndingSchema>;

export const IdeaViewSchema = z
  .object({
    rank: z.number(),
    label: z.string(),
    words: z.array(z.string()),
    joint: z.enum(JOINTS),
    score: z.number(),
    parts: z.record(z.enum(IDEA_PARTS), z.number()),
    /** What it reads as, where that is not what it was made from. */
    readsAs: z.string().nullable(),
    /** By names alike that were sold, with the first ending, in the user's currency; null: not judged. */
    worthLowMinor: z.number().nullable(),
    worthHighMinor: z.number().nullable(),
    /** A trademark that it is like, and why; null: none was found or looked for. */
    mark: z.string().nullable(),
    endings: z.array(IdeaEndingSchema),
    /** The label under other common endings, where somebody is known to have it. */
    sisters: z.array(
      z.object({
        name: z.string(),
        phase: z.string(),
        phaseAt: z.number().nullable(),
      }),
    ),
    /** How well the name alone suits the brief, 0 to 100, with what it may be once links and a past are known. */
    fit: FitSchema.omit({ cappedAt: true }),
  })
  .meta({ id: 'Idea' });
export type IdeaView = z.infer<typeof IdeaViewSchema>;

export const ideasCalls = {
  'GET /ideas': {
    summary: 'Patterns that were run for a brief',
    query: { brief: idOf('Number of the brief; else the current one') },
    answer: z.object({
      runs: z.array(IdeaRunSchema),
    }),
  },
  'POST /ideas': {
    summary: 'Make names from a pattern of slots, judge them and keep the best',
    body: IdeasSchema,
    status: 202,
    answer: z.object({
      id: z.number(),
      job: JobViewSchema,
    }),
  },
  'GET /ideas/{id}': {
    summary: 'The best of a run, with what is known of each ending',
    query: { offset: countOf('Rows to pass over', 0), limit: countOf('Rows, at most 500', 100, 500) },
    answer: z.object({
      rows: z.array(IdeaViewSchema),
      kept: z.number(),
      run: IdeaRunSchema,
    }),
  },
  'POST /ideas/places': {
    summary: 'Take a table of places that names may say: place, people, growth',
    file: true,
    query: { name: textOf('What the table is called', 'a table') },
    status: 201,
    answer: z.object({
      taken: z.number(),
      setAside: z.number(),
      aside: z.array(CsvProblemSchema),
    }),
  },
} satisfies Calls;
