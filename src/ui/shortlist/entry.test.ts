import { describe, expect, it } from 'vitest';
import { type Entry, sorted } from './entry';

const entry = (
  domainId: number,
  part: {
    fit?: number | null;
    sure?: number;
    closing?: number | null;
    drop?: number | null;
    bid?: number | null;
    oldest?: number | null;
  },
) =>
  ({
    domainId,
    addedAt: domainId,
    fit: { score: part.fit ?? null, least: part.sure ?? part.fit ?? 0 },
    domain: { closingAt: part.closing ?? null, dropAt: part.drop ?? null },
    maximumBidMinor: part.bid ?? null,
    oldestAt: part.oldest ?? null,
  }) as unknown as Entry;
const ids = (entries: Entry[]) => entries.map(({ domainId }) => domainId);

describe('the order of a shortlist', () => {
  const entries = [
    entry(1, { fit: 20, closing: 900, bid: 50, oldest: 500 }),
    entry(2, { fit: null, closing: null, drop: 100 }),
    entry(3, { fit: 90, closing: 400, bid: 70, oldest: 100 }),
    // as good by what is known, of which there is hardly anything
    entry(4, { fit: 90, sure: 12 }),
  ];

  it('is that of adding, of fit, of what ends first, of the highest maximum or of what is stalest', () => {
    expect(ids(sorted(entries, 'added'))).toEqual([1, 2, 3, 4]);
    expect(ids(sorted(entries, 'fit'))).toEqual([3, 1, 4, 2]);
    expect(ids(sorted(entries, 'closing'))).toEqual([2, 3, 1, 4]);
    expect(ids(sorted(entries, 'maximum bid'))).toEqual([3, 1, 2, 4]);
    expect(ids(sorted(entries, 'stalest'))).toEqual([2, 4, 3, 1]);
  });
});
