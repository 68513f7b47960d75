/** What is read of a search result: its whole site, the page that was found, or nothing. */
export const GATES = ['site', 'page', 'none'] as const;
export type Gate = (typeof GATES)[number];
