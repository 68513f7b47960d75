import type { DropWindow } from './drop-window';
import type { Phase } from './phase';

const MINUTE = 60_000;
const HOUR = 60 * MINUTE;
const DAY = 24 * HOUR;

/** In its drop window a watched name is asked about so often. */
export const IN_WINDOW_MS = 10 * MINUTE;

/** A name that a person watches is asked about in its window no oftener than this, and so often that a window takes as many looks. */
const CLOSELY_LEAST_MS = 5000;
const CLOSELY_LOOKS = 2000;

/**
 * When a watched name is to be asked about again: rarely far from its expiry, daily near it, often in the drop window, and of a name
 * that a person watches there as often as its registry allows.
 *
 * @param life `failures`: looks in a row that got no answer; `closelyMs`: how often its registry may be asked, ms, where a person
 *   watches it; null: it is watched by itself.
 * @returns ms since 1970 UTC.
 */
export function nextLook(
  life: {
    phase: Phase;
    expiresAt: number | null;
    window: DropWindow | null;
    failures: number;
    closelyMs?: number | null;
  },
  now: number,
): number {
  const { phase, expiresAt, window, failures, closelyMs = null } = life;
  if (closelyMs !== null && window && !window.isConditional && now >= window.from && phase !== 'free') {
    // an overdue name may go any moment: asked as closely for as long again as its window was wide
    const width = Math.max(HOUR, window.to - window.from);
    const every = Math.max(closelyMs, CLOSELY_LEAST_MS, width / CLOSELY_LOOKS) * 2 ** Math.min(6, failures);
    if (now < window.to + width) return now + Math.min(every, HOUR);
  }
  if (phase === 'unknown') {
    const later = now + Math.min(DAY, 30 * MINUTE * 2 ** Math.min(10, failures));
    return window && !window.isConditional && window.from > now ? Math.min(later, window.from) : later;
  }
  const regular = now + usual(phase, expiresAt, now);
  if (!window || window.isConditional) return regular;
  if (window.to <= now + DAY && window.to - window.from > 2 * DAY) return Math.min(regular, now + 6 * HOUR);
  if (now >= window.from) {
    // a wide window is many days long: often only where it is narrow
    const width = window.to - window.from;
    return Math.min(regular, now + Math.max(IN_WINDOW_MS, Math.min(6 * HOUR, width / 24)));
  }
  // the first look stands at the window's beginning, where the one before would jump over it
  return Math.min(regular, Math.max(now + MINUTE, window.from));
}

function usual(phase: Phase, expiresAt: number | null, now: number): number {
  switch (phase) {
    case 'active': {
      if (expiresAt === null) return 14 * DAY;
      const left = expiresAt - now;
      // a quarter of the way that is left: closer and closer
      return Math.max(DAY, Math.min(30 * DAY, left / 4));
    }
    case 'auto-renew':
    case 'redemption':
      return DAY;
    case 'pending-delete':
      return 6 * HOUR;
    case 'free':
      return 12 * HOUR;
    default:
      return 30 * DAY;
  }
}
