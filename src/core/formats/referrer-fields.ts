/** What a column of a referrer file means. */
export const REFERRER_FIELDS = [
  'domain',
  'strength',
  'last-seen',
  'country',
  'language',
  'address',
  'links',
  'ignore',
] as const;
export type ReferrerField = (typeof REFERRER_FIELDS)[number];

/** What stays of a referrer file. An empty list or null keeps everything. */
export interface ReferrerCuts {
  leastStrength: number | null;
  /** Days before now that it was last seen. */
  seenWithinDays: number | null;
  endingsOut: string[];
  /** Two-letter codes, lower case. */
  countries: string[];
  languages: string[];
  family: 4 | 6 | null;
  /** Whether rows stay that do not say what a cut asks for. */
  keepUnknown: boolean;
}
