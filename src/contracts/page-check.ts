import { z } from 'zod';
import type { Calls } from './call';
import { LinkVerdictSchema, PageHeadSchema } from './crawl';
import { JobViewSchema } from './jobs';

export const PageCheckSchema = z.object({ url: z.string().trim().min(1, 'name a page').max(2000) });

/** One link of a page that is looked at, as far as it is known. */
export const CheckedLinkSchema = LinkVerdictSchema.extend({
  phase: z.string().nullable(),
  /** Known pages that link to a dead one, and to its domain; null: it is not dead. */
  known: z
    .object({
      toPage: z.number(),
      toDomain: z.number(),
    })
    .nullable(),
});
export type CheckedLink = z.infer<typeof CheckedLinkSchema>;

export const PageCheckViewSchema = z.object({
  job: JobViewSchema,
  /** null: the page has not been read yet, or could not be. */
  head: PageHeadSchema.nullable(),
  links: z.array(CheckedLinkSchema),
});
export type PageCheckView = z.infer<typeof PageCheckViewSchema>;

export const pageCheckCalls = {
  'POST /pages/check': {
    summary: 'Begin to look at one page and ask each of its outside links',
    body: PageCheckSchema,
    status: 202,
    answer: z.object({
      job: JobViewSchema,
    }),
  },
  'GET /pages/check/{id}': {
    summary: 'How far the look at a page has come, with every link as far as it is known',
    answer: PageCheckViewSchema,
  },
} satisfies Calls;
