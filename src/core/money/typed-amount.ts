/** Reads an amount as a person types it: "140", "1,250.50", "12,5". @returns minor units, null for none, undefined for what is no amount. */
export function readAmount(text: string): number | null | undefined {
  const trimmed = text.trim().replace(/[ ,](?=\d{3}(\D|$))/g, '');
  if (trimmed === '') return null;
  if (!/^\d{1,9}([.,]\d{1,2})?$/.test(trimmed)) return undefined;
  return Math.round(Number(trimmed.replace(',', '.')) * 100);
}
