/** What a domain is looked for. */
export const PURPOSES = ['resell', 'rebuild', 'redirect', 'prospect'] as const;
export type Purpose = (typeof PURPOSES)[number];
