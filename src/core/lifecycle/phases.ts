/** Where a domain stands in its life. `not-registrable`: the registry or the law keeps it from being had. */
export const PHASES = [
  'free',
  'pending-delete',
  'redemption',
  'auto-renew',
  'active',
  'not-registrable',
  'unknown',
] as const;
export type Phase = (typeof PHASES)[number];
