import { z } from 'zod';
import { STEP_STATES, type Step } from '../core/rebuild/checklist';
import type { SiteOutline } from '../core/rebuild/outline';
import type { CarryingSubject, OldPage, PlannedPage } from '../core/rebuild/plan';
import type { Calls } from './call';
import { StepChangeSchema } from './portfolio';
import { OldAddressSchema } from './redirects';
import { PhraseWorthSchema } from './worth';

export const StepChangesSchema = z.object({
  steps: z
    .array(
      z.object({
        key: z
          .string()
          .regex(/^(page:\/|step:|own:).+|^page:\/$/, 'a step is a page, a common step or an own one')
          .max(2000),
        state: z.enum(STEP_STATES).nullable(),
        words: z.string().trim().min(1).max(300).nullable().optional(),
      }),
    )
    .min(1)
    .max(1000),
});

export const OldPageSchema = OldAddressSchema.extend({
  readers: z.number(),
}) satisfies z.ZodType<OldPage>;

export const PlannedPageSchema = OldPageSchema.extend({
  phrases: z.array(PhraseWorthSchema),
  visits: z.number(),
  share: z.number(),
  upTo: z.number(),
  isSuggested: z.boolean(),
}) satisfies z.ZodType<PlannedPage>;

export const CarryingSubjectSchema = z.object({
  subject: z.string().nullable(),
  share: z.number(),
  paths: z.array(z.string()),
}) satisfies z.ZodType<CarryingSubject>;

export const SiteOutlineSchema = z.object({
  at: z.number(),
  title: z.string(),
  parts: z.array(z.string()),
  headings: z.array(
    z.object({
      level: z.number(),
      text: z.string(),
      words: z.number(),
    }),
  ),
}) satisfies z.ZodType<SiteOutline>;

export const StepSchema = z
  .object({
    key: z.string(),
    words: z.string(),
    state: z.enum(STEP_STATES),
    at: z.number().nullable(),
  })
  .meta({ id: 'Step' }) satisfies z.ZodType<Step>;

export const rebuildCalls = {
  'GET /domains/{name}/rebuild': {
    summary: 'What to bring back of a site: pages by what they carry, subjects, former outline, checklist',
    answer: z.object({
      isOwned: z.boolean(),
      pages: z.array(PlannedPageSchema),
      pageCount: z.number(),
      unplaced: z.array(PhraseWorthSchema),
      measures: z.array(z.enum(['links', 'readers', 'visits'])),
      subjects: z.array(CarryingSubjectSchema.extend({ title: z.string() })),
      outline: SiteOutlineSchema.nullable(),
      steps: z.array(StepSchema),
      progress: z.object({
        done: z.number(),
        all: z.number(),
      }),
      currency: z.string(),
      worth: z
        .object({
          monthMinor: z.number(),
          sources: z.array(z.string()),
          asOf: z.number().nullable(),
        })
        .nullable(),
      linksAt: z.number().nullable(),
    }),
  },
  'PATCH /domains/{name}/rebuild': {
    summary: 'Decide on steps of the checklist, or add one; null takes it back',
    body: StepChangesSchema,
    answer: z.object({
      before: z.array(StepChangeSchema),
    }),
  },
  'GET /domains/{name}/rebuild/file': {
    media: ['text/markdown'],
    summary: 'The plan of a rebuild as Markdown',
  },
} satisfies Calls;
