export const PURPOSES = ['resell', 'rebuild', 'redirect', 'prospect'] as const;
