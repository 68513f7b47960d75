import type { DeadlineKind } from '../../core/deadlines/deadline';

export const KIND_TITLES: Record<DeadlineKind, string> = {
  closing: 'Closings',
  'price-step': 'Price drops',
  answer: 'Buyer inquiries',
  drop: 'Drops',
  renewal: 'Renewals of mine',
  expiry: 'Expiries',
  're-check': 'Re-checks',
};
