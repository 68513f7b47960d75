/** What is read of a search result: its whole site, the page that was found, or nothing. */
export const GATES = ['site', 'page', 'none'] as const;
export type Gate = (typeof GATES)[number];

/** One result, and how much of its site is about the subject. */
export interface SearchRow {
  phrase: string;
  url: string;
  title: string;
  site: string;
  gate: Gate;
  /** Why. */
  because: string;
  /** Readers that the page itself claims. */
  readers: number | null;
}
