/** Why a name is watched: a person wants it, or it is nearly to be had. */
export const WATCH_REASONS = ['by hand', 'near miss'] as const;
