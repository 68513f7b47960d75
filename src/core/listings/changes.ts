import type { Listing, ListingState } from './listing';

export const CHANGE_KINDS = [
  'listed',
  'bid',
  'price',
  'step',
  'extended',
  'shortened',
  'reserve',
  'sold',
  'closed',
  'withdrawn',
  'relisted',
] as const;
export type ChangeKind = (typeof CHANGE_KINDS)[number];

/** One thing that changed: what it was and is now, as they are stored (minor units, ms, words); null: not known. */
export interface ListingChange {
  what: ChangeKind;
  was: number | string | null;
  is: number | string | null;
}

const ENDS: Record<Exclude<ListingState, 'open'>, ChangeKind> = {
  sold: 'sold',
  closed: 'closed',
  withdrawn: 'withdrawn',
};

/** What a later look at a listing shows that an earlier one did not. @param before null: it was not there. */
export function compareListings(before: Listing | null, after: Listing): ListingChange[] {
  if (before === null) return [{ what: 'listed', was: null, is: after.priceMinor }];
  const changes: ListingChange[] = [];
  const note = (what: ChangeKind, was: number | string | null, is: number | string | null) =>
    changes.push({ what, was, is });
  if (before.state !== 'open' && after.state === 'open') note('relisted', before.state, after.priceMinor);
  const hasNewBids = (after.bids ?? 0) > (before.bids ?? 0);
  if (hasNewBids) note('bid', before.bids, after.bids);
  if (after.priceMinor !== before.priceMinor) note(priceChange(before, after), before.priceMinor, after.priceMinor);
  if (after.closingAt !== before.closingAt && after.closingAt !== null && before.closingAt !== null)
    note(after.closingAt > before.closingAt ? 'extended' : 'shortened', before.closingAt, after.closingAt);
  if (after.reserve !== before.reserve && after.reserve !== null) note('reserve', before.reserve, after.reserve);
  if (before.state === 'open' && after.state !== 'open') note(ENDS[after.state], before.priceMinor, after.priceMinor);
  return changes;
}

function priceChange(before: Listing, after: Listing): ChangeKind {
  const fell = (after.priceMinor ?? 0) < (before.priceMinor ?? 0);
  return after.kind === 'falling' && fell ? 'step' : 'price';
}
