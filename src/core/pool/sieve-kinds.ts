/** What of what is new in a kept sieve is measured: nothing, checks and links, or the costly measures as well. */
export const SIEVE_DEPTHS = ['nothing', 'links', 'everything'] as const;

/** When a kept sieve runs by itself. */
export const SIEVE_RUNS = ['off', 'daily', 'imports'] as const;
