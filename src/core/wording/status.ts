import type { Phase } from '../lifecycle/phase';

/** What a status is called. */
export const STATUS_NAMES: Record<Phase, string> = {
  free: 'available',
  'pending-delete': 'pending delete',
  redemption: 'redemption',
  'auto-renew': 'grace period',
  active: 'registered',
  'not-registrable': 'reserved',
  unknown: 'unknown',
};

/** What is said of a name that has it: "it is in redemption". */
export const STATUS_WORDS: Record<Phase, string> = {
  ...STATUS_NAMES,
  redemption: 'in redemption',
  'auto-renew': 'in its grace period',
};

/** The same for one that came as a text; what is none stays as it is. */
export const statusName = (phase: string): string => (STATUS_NAMES as Record<string, string>)[phase] ?? phase;
export const statusWords = (phase: string): string => (STATUS_WORDS as Record<string, string>)[phase] ?? phase;
