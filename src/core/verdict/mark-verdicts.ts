export const MARK_VERDICTS = ['clear', 'conflict', 'unsure'] as const;
