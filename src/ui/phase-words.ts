import type { Phase } from '../core/lifecycle/phase';

/** Phases as people say them. */
export const PHASE_WORDS: Record<Phase, string> = {
  free: 'available',
  'pending-delete': 'pending delete',
  redemption: 'in redemption',
  'auto-renew': 'in its grace period',
  active: 'registered',
  'not-registrable': 'reserved',
  unknown: 'unknown',
};

/** A phase that came as a text, in its words. */
export const phaseName = (phase: string): string => (PHASE_WORDS as Record<string, string>)[phase] ?? phase;
