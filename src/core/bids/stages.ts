/** Where a shortlisted domain stands with its buyer. */
export const STAGES = ['to inspect', 'wanted', 'to act on', 'waiting', 'had', 'let go'] as const;
