import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { askingPrice, roundUp } from './asking';
import { type SellingFacts, sellingSentences, sellingText } from './listing-text';
import { isResaleOpen, nextSaleLook } from './resale';
import { adviseAnswer, INQUIRY_STATES } from './talk';

const minor = fc.integer({ min: 1, max: 5_000_000 });

describe('what to ask', () => {
  const inputs = { renewalMinor: null, venuePercent: 10, marginPercent: 20 };

  it('asks the high end with room to haggle, and lets it go for the low end or what it cost', () => {
    const cheap = askingPrice({ ...inputs, lowMinor: 20_000, highMinor: 50_000, costMinor: 5000 });
    expect(cheap).toMatchObject({ askMinor: 58_000, floorMinor: 20_000, warnings: [] });
    expect(cheap?.leftAtFloorMinor).toBe(13_000);
    const dear = askingPrice({ ...inputs, lowMinor: 2000, highMinor: 5000, costMinor: 9000 });
    expect(dear?.floorMinor).toBe(12_000);
    expect(dear?.askMinor).toBeGreaterThanOrEqual(12_000);
    expect(dear?.warnings[0]).toContain('may never sell');
  });

  it('says so where no worth is known, and nothing where there is nothing to go by', () => {
    expect(askingPrice({ ...inputs, lowMinor: null, highMinor: null, costMinor: 9000 })?.warnings[0]).toContain(
      'what it cost',
    );
    expect(askingPrice({ ...inputs, lowMinor: null, highMinor: null, costMinor: 0 })).toBeNull();
  });

  it('never lets it go at a loss, and never asks less than it takes', () => {
    fc.assert(
      fc.property(
        minor,
        minor,
        minor,
        fc.integer({ min: 0, max: 60 }),
        fc.integer({ min: 0, max: 100 }),
        (a, b, costMinor, venuePercent, marginPercent) => {
          const price = askingPrice({
            lowMinor: Math.min(a, b),
            highMinor: Math.max(a, b),
            costMinor,
            renewalMinor: 100,
            venuePercent,
            marginPercent,
          });
          expect(price?.askMinor).toBeGreaterThanOrEqual(price?.floorMinor ?? Infinity);
          expect(price?.leftAtFloorMinor).toBeGreaterThanOrEqual(0);
          expect(Number.isSafeInteger(price?.askMinor)).toBe(true);
        },
      ),
    );
  });

  it('rounds up to what one would say', () => {
    expect([1234, 56_700, 999_900, 100, 0].map(roundUp)).toEqual([1300, 57_000, 1_000_000, 100, 0]);
  });
});

describe('what to answer', () => {
  const advise = (offerMinor: number | null, askedMinor: number | null = null) =>
    adviseAnswer({ offerMinor, askedMinor }, 50_000, 20_000);

  it('takes what is near, declines what is nothing, and meets half-way above the floor', () => {
    expect(advise(49_000)).toMatchObject({ act: 'accept', amountMinor: 49_000 });
    expect(advise(4000)).toMatchObject({ act: 'decline' });
    expect(advise(30_000)).toMatchObject({ act: 'counter', amountMinor: 40_000 });
    expect(advise(6000, 26_000)).toMatchObject({ act: 'counter', amountMinor: 20_000 });
    expect(advise(30_000, 30_000)).toMatchObject({ act: 'accept' });
    expect(advise(null)).toMatchObject({ act: 'counter', amountMinor: 50_000 });
  });

  it('never accepts or asks under the floor, and never asks more than before', () => {
    fc.assert(
      fc.property(minor, minor, minor, fc.option(minor), (offer, ask, floor, asked) => {
        fc.pre(ask >= floor && (asked === null || asked >= floor));
        const { act, amountMinor } = adviseAnswer({ offerMinor: offer, askedMinor: asked }, ask, floor);
        if (act === 'decline') expect(offer).toBeLessThan(floor);
        else expect(amountMinor).toBeGreaterThanOrEqual(floor);
        if (act === 'accept') expect(amountMinor).toBe(offer);
        if (act === 'counter') expect(amountMinor).toBeLessThanOrEqual(asked ?? ask);
      }),
    );
  });
});

describe('what is said of it', () => {
  const nothing: SellingFacts = {
    name: 'umberleycombs.org', words: [], label: 'umberleycombs', registeredAt: null, firstSeenAt: null, contentYears: null, subject: null,
    subjectConfidence: null, effective: null, referringDomains: null, seenLinking: [], visits: null, visitSource: null, wordMarks: null,
    drops: null, drift: null, linksAt: null, pastAt: null, recordAt: null, marksAt: null, visitsAt: null,
  }; // biome-ignore format: facts of nothing

  it('says nothing that is not known', () => {
    expect(sellingSentences(nothing).map(({ key }) => key)).toEqual(['name']);
    expect(
      sellingSentences({
        ...nothing,
        subject: 'Bees',
        subjectConfidence: 0.4,
        effective: 1,
        drops: 2,
        pastAt: 5,
        wordMarks: 3,
        marksAt: 5,
      }),
    ).toHaveLength(1);
  });

  it('does not hide that the last site was another', () => {
    const told = sellingSentences({ ...nothing, subject: 'Bees', subjectConfidence: 0.9, drift: 0.9 });
    expect(told[1].words).toBe('Mainly its pages and links were about: Bees; the last site was another.');
  });

  it('says what is, with where it comes from; estimates name who estimates', () => {
    const all = sellingSentences({
      ...nothing, words: ['umberley', 'combs'], registeredAt: Date.UTC(2009, 3), firstSeenAt: Date.UTC(2009, 5), contentYears: 11.24,
      subject: 'Beekeeping', subjectConfidence: 0.93, effective: 12.5, referringDomains: 40, seenLinking: ['a.org', 'b.org', 'c.org', 'd.org'],
      visits: 120.4, visitSource: 'Vale Ranks', wordMarks: 0, drops: 0, linksAt: 7, pastAt: 5, recordAt: 6, marksAt: 8, visitsAt: 9,
    }); // biome-ignore format: facts
    expect(all.map(({ key }) => key)).toEqual([
      'name',
      'registered',
      'past',
      'drops',
      'subject',
      'links',
      'linking',
      'visits',
      'marks',
    ]);
    const text = sellingText(all, ['links', 'visits']);
    expect(text).toContain('12.5 effective referring domains of 40');
    expect(text).toContain('by the estimate of Vale Ranks');
    expect(text).not.toContain('Registered');
    expect(sellingText(all, null)).toContain('a.org, b.org, c.org.');
    for (const { evidence } of all) expect(evidence).not.toBe('');
  });
});

describe('how often a venue is asked', () => {
  it('asks the sooner the more is to be heard, and never once it is over', () => {
    expect(nextSaleLook('listed', ['gone', 'countered', 'open'], 0)).toBe(300_000);
    expect(nextSaleLook('listed', ['open'], 0)).toBe(900_000);
    expect(nextSaleLook('listed', [], 0)).toBe(3_600_000);
    for (const state of ['sold', 'withdrawn', 'refused', 'dry run', 'by hand'] as const)
      expect(nextSaleLook(state, [...INQUIRY_STATES], 0)).toBeNull();
    expect(isResaleOpen('by hand')).toBe(true);
  });
});
