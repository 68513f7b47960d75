import type { Phase } from '../core/lifecycle/phase';

/** Phases as people say them. */
export const PHASE_WORDS: Record<Phase, string> = {
  free: 'free',
  'pending-delete': 'pending delete',
  redemption: 'in redemption',
  'auto-renew': 'in auto-renew period',
  active: 'taken',
  'not-registrable': 'not registrable',
  unknown: 'unknown',
};
