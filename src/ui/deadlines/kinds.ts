import type { DeadlineKind } from '../../core/deadlines/deadline';

export const KIND_TITLES: Record<DeadlineKind, string> = {
  closing: 'Closings',
  'price-step': 'Price steps',
  answer: 'Buyers who wait',
  drop: 'Drops',
  renewal: 'Renewals of mine',
  expiry: 'Expiries',
  're-check': 'Re-checks',
};
