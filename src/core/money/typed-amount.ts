import { fixed } from '../formats/figures';

/**
 * Reads an amount as a person types it: "140", "1,250.50", "1.250,50", "1,25,050", "12,5". Three digits behind a sign are thousands, in whatever way one
 * writes them.
 *
 * @returns minor units, null for none, undefined for what is no amount.
 */
export function readAmount(text: string): number | null | undefined {
  const trimmed = text.trim().replace(/[ ,.'’\u00a0\u202f](?=(\d{2},)*\d{3}(\D|$))/g, '');
  if (trimmed === '') return null;
  if (!/^\d{1,9}([.,]\d{1,2})?$/.test(trimmed)) return undefined;
  return Math.round(Number(trimmed.replace(',', '.')) * 100);
}

/** An amount as it stands in a field, "1,140" or "12.50", in the way of whoever types; empty for none. `readAmount` reads it. */
export function typedAmount(minor: number | null): string {
  if (minor === null) return '';
  return fixed(minor / 100, minor % 100 === 0 ? 0 : 2);
}
