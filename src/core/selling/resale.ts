import type { InquiryState } from './talk';

/** Where the sale of an owned domain stands: with us, on its way, offered, over. */
export const RESALE_STATES = [
  'by hand',
  'dry run',
  'queued',
  'sent',
  'listed',
  'sold',
  'withdrawn',
  'refused',
] as const;
export type ResaleState = (typeof RESALE_STATES)[number];

/** What a venue says of a sale. */
export const VENUE_SALE_STATES = ['listed', 'sold', 'withdrawn', 'refused'] as const;

const OPEN: ReadonlySet<ResaleState> = new Set(['by hand', 'queued', 'sent', 'listed']);
export const isResaleOpen = (state: ResaleState): boolean => OPEN.has(state);

const MINUTE = 60_000;

/**
 * When to ask the venue again: soon while a buyer thinks, every quarter of an hour while one waits for us, else by the hour.
 *
 * @returns ms since 1970 UTC; null: never again.
 */
export function nextSaleLook(state: ResaleState, inquiries: readonly InquiryState[], now: number): number | null {
  if (!isResaleOpen(state) || state === 'by hand') return null;
  if (inquiries.includes('countered')) return now + 5 * MINUTE;
  return now + (inquiries.includes('open') ? 15 : 60) * MINUTE;
}
