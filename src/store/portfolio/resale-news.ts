import { Refusal } from '../../core/refusal';
import type { Inquiry } from '../../core/selling/talk';

/** A sale that is not taken, with why in words. */
export class ResaleRefused extends Refusal {
  constructor(message: string, options: ErrorOptions = {}) {
    super('sale-refused', `${message[0].toUpperCase()}${message.slice(1)}.`, options);
  }
}

/** A line for the log; null: nothing is new. */
export function newsOf(
  before: Inquiry | undefined,
  { buyer, words, offerMinor, state }: Inquiry,
  currency: string,
): string | null {
  if (before?.state === state && before.offerMinor === offerMinor) return null;
  const offer = offerMinor === null ? '' : `, offers ${(offerMinor / 100).toFixed(2)} ${currency}`;
  return `${buyer} ${words}${state === 'open' ? offer : ''}`;
}
