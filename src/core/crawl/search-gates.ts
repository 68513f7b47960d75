import { z } from 'zod';

/** What is read of a search result: its whole site, the page that was found, or nothing. */
export const GATES = ['site', 'page', 'none'] as const;
export type Gate = (typeof GATES)[number];

/** One result, and how much of its site is about the subject. */
export const SearchRow = z.object({
  phrase: z.string(),
  url: z.string(),
  title: z.string(),
  site: z.string(),
  gate: z.enum(GATES),
  /** Why. */
  because: z.string(),
  /** Readers that the page itself claims. */
  readers: z.number().nullable(),
});
export type SearchRow = z.infer<typeof SearchRow>;
