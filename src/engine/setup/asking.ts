import type { Settings } from '../../core/settings/settings';
import type { Tried, TryOutcome } from '../../core/setup/tried';
import type { Store } from '../../store/base/database';
import type { HeardHttp } from './heard-http';

/** What one question found out. */
export type Found = Pick<Tried, 'outcome' | 'asked' | 'understood' | 'problem'> & { came?: string };

export interface Asking {
  store: Store;
  /** As they would be, also where they are not kept yet. */
  settings: Settings;
  http: HeardHttp;
  /** A domain, or words. */
  question: string;
  signal: AbortSignal;
  /** How long one answer may take. */
  timeoutMs: number;
}

export const REFUSING = new Set([401, 402, 403, 407, 429, 503]);

/** What went wrong on the way to an answer, or with it. */
export function failedBy(
  http: HeardHttp,
  field: keyof Settings,
  words: string,
  given?: TryOutcome,
): Omit<Found, 'asked'> {
  const outcome = given ?? outcomeOf(http);
  return { outcome, understood: [], problem: { field: fieldOf(words, field), words } };
}

export function outcomeOf({ failed, status }: HeardHttp): TryOutcome {
  if (failed === 'private-address' || failed === 'wrong-port') return 'refused';
  if (failed === 'bad-encoding' || failed === 'too-large' || failed === 'headers-too-large') return 'nonsense';
  if (failed !== null) return 'silent';
  return REFUSING.has(status) ? 'refused' : 'nonsense';
}

/** The field that puts it right: an address inside has to be allowed first, whoever named it. */
export const fieldOf = (words: string, field: keyof Settings | null): string | null =>
  /is a private address/.test(words) ? 'allowedPrivate' : field;
