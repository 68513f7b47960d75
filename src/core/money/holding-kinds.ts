/** What is meant to be done with it, and how it stands. */
export const PLANS = ['undecided', 'rebuild', 'redirect', 'resell', 'keep'] as const;

export const STATUSES = ['owned', 'in use', 'for sale', 'sold', 'given up'] as const;
