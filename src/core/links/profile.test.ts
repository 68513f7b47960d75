import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { countryOfEnding } from './countries';
import { byCountry, byEnding, byLanguage, byStrength, gainedAndLost, type ProfileReferrer } from './profile';

const at = (date: string) => Date.parse(`${date}T00:00:00Z`);
const referrer = (site: string, more: Partial<ProfileReferrer> = {}): ProfileReferrer => ({
  site,
  strength: 5,
  weight: 1,
  language: null,
  firstSeenAt: null,
  lostAt: null,
  ...more,
});

describe('what referring domains are, taken together', () => {
  it('counts them by strength in steps of ten, with what is left of their votes; the unmeasured last', () => {
    expect(
      byStrength([
        referrer('a.org', { strength: 3 }),
        referrer('b.org', { strength: 9.99, weight: 0.5 }),
        referrer('c.org', { strength: 20, weight: 0 }),
        referrer('d.org', { strength: null }),
      ]),
    ).toEqual([
      { from: 0, to: 10, domains: 2, votes: 1.5 },
      { from: 10, to: 20, domains: 0, votes: 0 },
      { from: 20, to: 30, domains: 1, votes: 0 },
      { from: null, to: null, domains: 1, votes: 1 },
    ]);
    expect(byStrength([referrer('a.org', { strength: 100 })]).at(-1)).toMatchObject({ from: 90, to: 100, domains: 1 });
  });

  it('groups them by ending, by country of the ending, and by language', () => {
    const sites = [
      referrer('tarn.co.uk', { language: 'en' }),
      referrer('fell.org.uk'),
      referrer('wald.de', { language: 'de' }),
      referrer('vale.com', { language: 'en' }),
    ];
    expect(byEnding(sites).map(({ title, domains }) => `${title} ${domains}`)).toEqual([
      '.co.uk 1',
      '.com 1',
      '.de 1',
      '.org.uk 1',
    ]);
    expect(byCountry(sites).map(({ title, domains }) => `${title} ${domains}`)).toEqual([
      'United Kingdom 2',
      'Germany 1',
      'no country by its TLD 1',
    ]);
    expect(byLanguage(sites, (code) => code).map(({ title, domains }) => `${title} ${domains}`)).toEqual([
      'en 2',
      'de 1',
      'not read 1',
    ]);
  });

  it('takes no ending for a country that all the world uses', () => {
    expect([countryOfEnding('co.uk'), countryOfEnding('de'), countryOfEnding('io'), countryOfEnding('org')]).toEqual([
      'GB',
      'DE',
      null,
      null,
    ]);
  });

  it('tells by quarter how many came and went, with the quarters between', () => {
    expect(
      gainedAndLost([
        referrer('a.org', { firstSeenAt: at('2025-02-03'), lostAt: at('2025-09-30') }),
        referrer('b.org', { firstSeenAt: at('2025-03-31') }),
        referrer('c.org'),
      ]),
    ).toEqual([
      { from: at('2025-01-01'), to: at('2025-04-01'), gained: 2, lost: 0 },
      { from: at('2025-04-01'), to: at('2025-07-01'), gained: 0, lost: 0 },
      { from: at('2025-07-01'), to: at('2025-10-01'), gained: 0, lost: 1 },
    ]);
    expect(gainedAndLost([referrer('a.org')])).toEqual([]);
  });

  it('loses none of them in any grouping', () => {
    const any = fc.record({
      site: fc.constantFrom('a.org', 'b.co.uk', 'c.de', 'd.com', 'e.io'),
      strength: fc.option(fc.double({ min: 0, max: 100, noNaN: true })),
      weight: fc.double({ min: 0, max: 1, noNaN: true }),
      language: fc.option(fc.constantFrom('en', 'de')),
      firstSeenAt: fc.option(fc.integer({ min: at('2005-01-01'), max: at('2026-01-01') })),
      lostAt: fc.option(fc.integer({ min: at('2005-01-01'), max: at('2026-01-01') })),
    });
    fc.assert(
      fc.property(fc.array(any, { maxLength: 60 }), (referrers) => {
        const sum = (groups: { domains: number }[]) => groups.reduce((all, { domains }) => all + domains, 0);
        for (const groups of [
          byStrength(referrers),
          byEnding(referrers),
          byCountry(referrers),
          byLanguage(referrers, String),
        ])
          expect(sum(groups)).toBe(referrers.length);
        const spans = gainedAndLost(referrers);
        expect(spans.reduce((all, { gained }) => all + gained, 0)).toBe(
          referrers.filter((one) => one.firstSeenAt !== null).length,
        );
        for (let n = 1; n < spans.length; n++) expect(spans[n].from).toBe(spans[n - 1].to);
      }),
    );
  });
});
