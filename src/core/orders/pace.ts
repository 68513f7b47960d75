import type { OrderState } from './order';

const SECOND = 1000;
const MINUTE = 60 * SECOND;
const HOUR = 60 * MINUTE;

/** Pauses between questions about an order that was sent and not answered: longer each time. */
const RETRY_MS = [2 * SECOND, 5 * SECOND, 15 * SECOND, MINUTE, 5 * MINUTE];

/** When an order whose answer did not come is asked about again, from how often it was. */
export function retryAt(attempts: number, now: number): number {
  return now + RETRY_MS[Math.min(Math.max(0, attempts - 1), RETRY_MS.length - 1)];
}

/**
 * When a venue is asked again where an order stands: the closer to the end, the oftener. Null: there is nothing more to hear.
 *
 * @param closesAt ms since 1970 UTC; null: it is not known.
 */
export function nextLookAt(state: OrderState, closesAt: number | null, now: number): number | null {
  switch (state) {
    case 'waiting':
    case 'countered':
      return closesAt !== null && closesAt > now ? Math.min(closesAt, now + 5 * MINUTE) : now + 5 * MINUTE;
    case 'leading':
    case 'outbid': {
      if (closesAt === null) return now + 5 * MINUTE;
      const rest = closesAt - now;
      if (rest <= 0) return now + 2 * SECOND;
      if (rest < 15 * MINUTE) return Math.min(closesAt, now + 5 * SECOND);
      if (rest < 2 * HOUR) return Math.min(closesAt, now + MINUTE);
      return Math.min(closesAt - 15 * MINUTE, now + 15 * MINUTE);
    }
    default:
      return null;
  }
}
