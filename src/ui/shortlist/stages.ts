/** Where a shortlisted domain stands, in order, and what to do next. */
export const STAGE_STEPS = [
  ['to inspect', 'read its dossier'],
  ['wanted', 'set a maximum bid'],
  ['to act on', 'bid, backorder or register'],
  ['waiting', 'wait for the outcome'],
  ['had', 'it is yours'],
  ['let go', 'nothing more'],
] as const;

export type StageName = (typeof STAGE_STEPS)[number][0];

/** Reads what a person types as a bid: "140", "1,250.50". @returns minor units, null for none, undefined for nonsense. */
export function readBid(text: string): number | null | undefined {
  const trimmed = text.trim().replace(/[ ,](?=\d{3}(\D|$))/g, '');
  if (trimmed === '') return null;
  if (!/^\d{1,9}([.,]\d{1,2})?$/.test(trimmed)) return undefined;
  return Math.round(Number(trimmed.replace(',', '.')) * 100);
}
