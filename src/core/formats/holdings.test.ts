import { describe, expect, it } from 'vitest';
import { readHoldings } from './holdings';

describe('a list of what is owned', () => {
  it('is read by its titles, and needs no more than the domain', () => {
    const { holdings, aside } = readHoldings(
      'Domain,Bought,Paid,Currency,Expires,Renewal,Registrar\nwww.pellgatehives.org,2024-03-01,"1,200.50",EUR,2027-03-01,14.90,Coombe Names\ntarnwick.com,,,,,,\n',
    );
    expect(aside).toEqual([]);
    expect(holdings[0]).toMatchObject({
      name: 'pellgatehives.org',
      boughtAt: Date.UTC(2024, 2, 1),
      costMinor: 120_050,
      currency: 'EUR',
      renewsAt: Date.UTC(2027, 2, 1),
      renewalMinor: 1490,
      seller: 'Coombe Names',
    });
    expect(holdings[1]).toMatchObject({ name: 'tarnwick.com', boughtAt: null, costMinor: 0, seller: 'brought in' });
  });

  it.each([
    ['nothing,2024-01-01,5', 'no registrable domain'],
    ['a.org,yesterday,5', 'is no date'],
    ['a.org,2024-01-01,dear', 'is no price'],
  ])('sets %s aside with its reason', (row, reason) => {
    const { holdings, aside } = readHoldings(`domain,bought,cost\n${row}\n`);
    expect(holdings).toEqual([]);
    expect(aside).toMatchObject([{ line: 2, reason: expect.stringContaining(reason) }]);
  });

  it('without a column for the domain is told so', () => {
    expect(readHoldings('a,b\n1,2\n').problem).toBe('No line of titles names a column for domain.');
  });
});
