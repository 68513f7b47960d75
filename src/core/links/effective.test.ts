import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { BLANKET_FROM, DISCOUNTS, type Referring, weighReferrers } from './effective';
import { hamming, simhash } from './simhash';
import { templatePrint } from './template';

const referrer = (site: string, more: Partial<Referring> = {}): Referring => ({
  site,
  pages: 1,
  followed: true,
  indexable: true,
  standing: 'unknown',
  lapsedTargets: 0,
  registrant: null,
  nameServers: [`ns1.${site}`],
  addressBlock: '127.0.1',
  trackingIds: [],
  fingerprint: null,
  ...more,
});
const weights = (referrers: Referring[]) =>
  weighReferrers(referrers).referrers.map(({ weight }) => Math.round(weight * 100) / 100);

describe('weighReferrers', () => {
  it('counts a site once, however many pages of it link', () => {
    expect(weighReferrers([referrer('a.org', { pages: 900 }), referrer('b.org', { pages: 2 })])).toMatchObject({
      effective: 2,
      pages: 902,
      siteWide: 900,
    });
  });
  it.each([
    ['nofollow', { followed: false }],
    ['unindexed', { indexable: false }],
    ['gone', { standing: 'gone' as const }],
  ])('counts nothing that is %s, and says so', (kind, more) => {
    const found = weighReferrers([referrer('a.org', more), referrer('b.org')]);
    expect(found.effective).toBe(1);
    expect(found.taken[kind as 'gone']).toBe(1);
    expect(found.referrers[0].discounts).toEqual([expect.objectContaining({ kind, factor: 0 })]);
  });
  it('keeps what was found still there', () =>
    expect(weights([referrer('a.org', { standing: 'there' })])).toEqual([1]));
  it('lets a referrer that links to everything count for little', () => {
    expect(
      weights([
        referrer('a.org', { lapsedTargets: BLANKET_FROM }),
        referrer('b.org', { lapsedTargets: 10 * BLANKET_FROM }),
      ]),
    ).toEqual([1, 0.1]);
  });
  it.each([
    ['registrant', { registrant: 'Tarn Holding' }],
    ['name servers', { nameServers: ['NS2.tarn.net', 'ns1.tarn.net'], addressBlock: '127.9.9' }],
    ['tracking id', { trackingIds: ['UA-77001'] }],
    ['near-identical', { fingerprint: '00000000000000ff' }],
  ])('takes sites of one owner for one vote, by %s', (sign, more) => {
    const { effective, networks } = weighReferrers([
      referrer('a.org', more),
      referrer('b.org', more),
      referrer('c.org'),
      referrer('d.org', more),
    ]);
    expect(effective).toBe(2);
    expect(networks).toHaveLength(1);
    expect(networks[0].sites).toEqual(['a.org', 'b.org', 'd.org']);
    expect(networks[0].signs.join()).toContain(sign);
  });
  it('does not take neighbours at one host for one owner, nor those who hide', () => {
    const shared = { nameServers: ['ns1.coombe.net'] };
    expect(
      weights([
        referrer('a.org', { ...shared, addressBlock: '127.1.1' }),
        referrer('b.org', { ...shared, addressBlock: '127.2.2' }),
      ]),
    ).toEqual([1, 1]);
    expect(
      weights([referrer('a.org', { addressBlock: '127.1.1' }), referrer('b.org', { addressBlock: '127.1.1' })]),
    ).toEqual([1, 1]);
    const hidden = { registrant: 'REDACTED FOR PRIVACY' };
    expect(weights([referrer('a.org', hidden), referrer('b.org', hidden)])).toEqual([1, 1]);
  });
  it('takes servers for a sign only as far as they are rare', () => {
    const on = (site: string, serverSites: number | null, more: Partial<Referring> = {}) =>
      referrer(site, { nameServers: ['ns1.tarn.net'], addressBlock: '127.9.9', serverSites, ...more });
    expect(weights([on('a.org', 3), on('b.org', 3)])).toEqual([0.5, 0.5]);
    expect(weights([on('a.org', 4000), on('b.org', 4000)])).toEqual([1, 1]);
    // all that is known there links here
    const many = Array.from({ length: 30 }, (_, n) => on(`s${n}.org`, 60));
    expect(weighReferrers(many).effective).toBe(1);
    expect(weighReferrers(many).networks[0].signs[0]).toContain('30 of the 60 domains known there');
    // neighbours who give their names
    expect(weights([on('a.org', null, { registrant: 'Tarn' }), on('b.org', null, { registrant: 'Lode' })])).toEqual([
      1, 1,
    ]);
    expect(
      weights([on('a.org', null, { trackingIds: ['UA-1'] }), on('b.org', null, { trackingIds: ['UA-2'] })]),
    ).toEqual([1, 1]);
  });
  it.each([
    'Privacy service',
    'WHOIS protected',
    'Domain Admin',
    'Identity protection',
    'n/a',
    'Data Redacted',
    'Diffusion restreinte',
  ])('does not take %s for an owner', (registrant) =>
    expect(weights([referrer('a.org', { registrant }), referrer('b.org', { registrant })])).toEqual([1, 1]),
  );
  it('knows an owner and an account by any spelling', () => {
    expect(
      weights([
        referrer('a.org', { registrant: 'Tarn Media Ltd.' }),
        referrer('b.org', { registrant: 'TARN MEDIA, LTD' }),
      ]),
    ).toEqual([0.5, 0.5]);
    expect(
      weights([referrer('a.org', { trackingIds: ['UA-77001-1'] }), referrer('b.org', { trackingIds: ['UA-77001-4'] })]),
    ).toEqual([0.5, 0.5]);
  });
  it('takes a crowd on one server, where nobody counted, for the customers of a host', () => {
    const on = (many: number) =>
      weighReferrers(
        Array.from({ length: many }, (_, n) =>
          referrer(`s${n}.org`, { nameServers: ['ns1.tarn.net'], addressBlock: '127.9.9' }),
        ),
      ).effective;
    expect(on(12)).toBe(1);
    expect(on(60)).toBe(60);
  });
  it("takes an id that several owners share for nobody's", () => {
    const theme = { trackingIds: ['UA-9'] };
    expect(
      weights([
        referrer('a.org', { ...theme, registrant: 'Tarn' }),
        referrer('b.org', { ...theme, registrant: 'Lode' }),
      ]),
    ).toEqual([1, 1]);
  });
  it('joins a network through different signs', () => {
    const chain = [
      referrer('a.org', { registrant: 'Tarn' }),
      referrer('b.org', { registrant: 'Tarn', trackingIds: ['UA-1'] }),
      referrer('c.org', { trackingIds: ['UA-1'] }),
    ];
    expect(weighReferrers(chain).networks[0].sites).toHaveLength(3);
  });
  it('does not let a link without a vote make a network', () => {
    const own = { registrant: 'Tarn' };
    expect(weights([referrer('a.org', own), referrer('b.org', { ...own, followed: false })])).toEqual([1, 0]);
  });
  it('accounts for every referrer: what was taken and what is left make them all', () => {
    const any = fc.record({
      pages: fc.integer({ min: 1, max: 50 }),
      followed: fc.boolean(),
      indexable: fc.boolean(),
      standing: fc.constantFrom<Referring['standing']>('there', 'gone', 'unknown'),
      lapsedTargets: fc.nat(300),
      registrant: fc.constantFrom(null, 'Tarn', 'Coombe'),
      trackingIds: fc.subarray(['UA-1', 'UA-2']),
      fingerprint: fc.constantFrom(null, '0000000000000000', 'ffffffffffffffff', '0000000000000001'),
    });
    fc.assert(
      fc.property(fc.array(any, { maxLength: 25 }), (parts) => {
        const referrers = parts.map((part, n) => referrer(`s${n}.org`, part));
        const found = weighReferrers(referrers);
        const taken = DISCOUNTS.reduce((sum, kind) => sum + found.taken[kind], 0);
        const left = found.referrers.reduce((sum, { weight }) => sum + weight, 0);
        expect(taken + left).toBeCloseTo(referrers.length, 9);
        for (const { weight, discounts } of found.referrers)
          expect(weight).toBeCloseTo(
            discounts.reduce((product, { factor }) => product * factor, 1),
            12,
          );
        for (const { sites } of found.networks) expect(sites.length).toBeGreaterThan(1);
      }),
    );
  });
});

describe('templatePrint', () => {
  const page = (place: string, price: number) =>
    `Welcome to ${place}. Our experts in ${place} compare the best offers from ${price} pounds, write about loans and gather what helps you to choose. Ask ${place} today.`;
  it('is the same for pages that were filled in from one form', () => {
    expect(templatePrint(page('Tarnbeck', 20))).toBe(templatePrint(page('Ossenmere', 450)));
    expect(templatePrint(page('Tarnbeck', 20))).not.toBeNull();
    const other =
      'We keep hens on grass and sell eggs at the gate; the pullets come in June and the hatching rota is full.';
    expect(templatePrint(other)).not.toBe(templatePrint(page('Tarnbeck', 20)));
  });
  it('leaves out the names of the sites', () => {
    const text = 'here at tarnbeck we gather news about gardens and what grows in them, week for week';
    expect(templatePrint(text, ['tarnbeck.org'])).toBe(templatePrint(text.replace('tarnbeck', 'lode'), ['lode.com']));
  });
  it('tells the same few words', () => {
    expect(templatePrint('Oakford loans, compared for you today by us')).toBe(
      templatePrint('Tarnbeck loans, compared for you today by us'),
    );
    expect(templatePrint('Oakford loans, compared for you today by us')).not.toBe(
      templatePrint('Oakford walks along the river with our dog'),
    );
  });
  it('says nothing of little', () => expect(templatePrint('Oak 12 and Ash 13')).toBeNull());
});

describe('simhash', () => {
  const text =
    'the honest notes of a village club that keeps bees and writes down every season what the hives have brought';
  it('is the same for the same words, near for nearly the same, far for others', () => {
    const own = simhash(text) as string;
    expect(hamming(own, simhash(text.toUpperCase()) as string)).toBe(0);
    expect(hamming(own, simhash(`${text} in 2019`) as string)).toBeLessThan(20);
    expect(
      hamming(
        own,
        simhash(
          'slots and poker and roulette with a bonus of more than ten spins for every new player of the week',
        ) as string,
      ),
    ).toBeGreaterThan(16);
    expect(simhash('too short')).toBeNull();
  });
  it('counts bits', () => {
    const bits = fc.bigInt({ min: 0n, max: (1n << 64n) - 1n });
    fc.assert(
      fc.property(bits, bits, (a, b) => {
        const hex = (value: bigint) => value.toString(16).padStart(16, '0');
        expect(hamming(hex(a), hex(b))).toBe((a ^ b).toString(2).replaceAll('0', '').length);
      }),
    );
  });
});
