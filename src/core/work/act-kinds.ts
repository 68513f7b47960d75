/** What kind of thing a person changed. */
export const ACT_KINDS = ['watch', 'sieve', 'brief', 'holding', 'marks', 'shortlist', 'settings', 'crawl'] as const;
