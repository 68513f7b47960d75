/** How often something is looked at again, in minutes; 0: only when asked to. */
export const INTERVALS = [
  [0, 'only when asked to'],
  [5, 'every 5 minutes'],
  [15, 'every 15 minutes'],
  [60, 'every hour'],
  [360, 'every 6 hours'],
  [1440, 'every day'],
] as const;
