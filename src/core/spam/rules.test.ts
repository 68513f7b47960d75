import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { fitPoints, judgeRisks } from './fit';
import type { SpamInput, SpamLink, SpamPast } from './input';
import { pastSigns } from './past-signs';
import { reach, SPAM_RULES } from './rules';
import { rescore, SHIPPED_POINTS, scoreSpam, valuesOf } from './scorecard';
import { SPAM_FROM } from './threshold';
import { votesOf } from './votes';

const DAY = 86_400_000;
const link = (i: number, part: Partial<SpamLink> = {}): SpamLink => ({
  fromSite: `site${i}.org`,
  anchor: 'Ossenmere Bee Club',
  nofollow: false,
  firstSeenAt: Date.UTC(2010, 0, 1) + i * 90 * DAY,
  ...part,
});
const many = (count: number, make: (i: number) => Partial<SpamLink> = () => ({})) =>
  Array.from({ length: count }, (_, i) => link(i, make(i)));
const input = (part: Partial<SpamInput>): SpamInput => ({
  name: 'ossenmerebeeclub.org',
  links: [],
  strengthRank: null,
  trustRank: null,
  drops: null,
  past: null,
  votes: null,
  ...part,
});
const result = (rule: string, part: Partial<SpamInput>) =>
  scoreSpam(input(part)).results.find((entry) => entry.rule === rule)!;
/** Whether a rule has come all the way. */
const full = (rule: string, part: Partial<SpamInput>) =>
  reach(SPAM_RULES.find(({ id }) => id === rule)!, result(rule, part).value) === 1;

const past = (part: Partial<SpamPast>): SpamPast => ({
  captures: 10, parked: 0, redirected: 0, risky: 0, laced: 0, own: { script: null, sells: [], subject: null, titles: [] }, languageSwitches: 0, subjectSwitches: 0, drift: 0,
  notes: { parked: [], redirected: [], risky: [], switches: [], laced: [] }, ...part,
}); // biome-ignore format: a row

describe('scoreSpam', () => {
  it('has at least six rules, whose names differ', () => {
    expect(new Set(SPAM_RULES.map((rule) => rule.id)).size).toBe(SPAM_RULES.length);
    expect(SPAM_RULES.length).toBeGreaterThanOrEqual(6);
  });
  it('knows nothing of a domain without links', () => {
    expect(scoreSpam(input({})).risk).toBeNull();
  });
  it('gives an honest club next to nothing', () => {
    const card = scoreSpam(input({ links: many(40), strengthRank: 1e-5, trustRank: 9e-6, drops: 0 }));
    expect(card.risk).toBeLessThanOrEqual(2);
  });
  it('gives a casino page a high risk', () => {
    const links = many(40, () => ({ anchor: 'best casino bonus', firstSeenAt: Date.UTC(2025, 1, 3), nofollow: false }));
    expect(scoreSpam(input({ links, strengthRank: 1e-5, trustRank: 1e-8, drops: 1 })).risk).toBeGreaterThanOrEqual(75);
  });
  it('raises money-word points with the share, and names the anchors', () => {
    const some = result('money-anchors', { links: many(20, (i) => (i < 4 ? { anchor: 'cheap pills' } : {})) });
    const more = result('money-anchors', { links: many(20, (i) => (i < 8 ? { anchor: 'cheap pills' } : {})) });
    expect(some.value).toBeCloseTo(0.2);
    expect(more.points).toBeGreaterThan(some.points);
    expect(some.evidence[0]).toContain('cheap pills');
  });
  it('does not take a money word inside another word', () => {
    expect(result('money-anchors', { links: many(20, () => ({ anchor: 'alphabet betterment pillow' })) }).value).toBe(
      0,
    );
  });
  it('asks script of the history of the site, not of its name', () => {
    const russian = (from: number) => many(20, (i) => (i < from ? {} : { anchor: 'расписание уроков' }));
    // a Russian school with Russian anchors
    expect(result('foreign-script-anchors', { links: russian(0) }).value).toBe(0);
    // Russian anchors where all were in Latin letters before
    expect(result('foreign-script-anchors', { links: russian(10) }).value).toBe(0.5);
    const own = { script: 'Cyrillic', sells: [], subject: 'education.schools', titles: [] };
    expect(result('foreign-script-anchors', { links: russian(10), past: past({ own }) }).value).toBe(0);
  });
  it('forgives the own name as one phrase, not what people search for', () => {
    expect(result('dominant-anchor', { links: many(20) }).points).toBe(0);
    expect(full('dominant-anchor', { links: many(20, () => ({ anchor: 'cheap garden sheds' })) })).toBe(true);
    // also where the name is the phrase that sells
    const links = many(20, () => ({ anchor: 'payday loans' }));
    expect(full('dominant-anchor', { links, name: 'paydayloans.com' })).toBe(true);
  });
  it('counts domains, not pages', () => {
    const links = [...many(10), ...Array.from({ length: 90 }, () => link(99, { anchor: 'cheap pills' }))];
    expect(result('money-anchors', { links }).value).toBeCloseTo(1 / 11);
    expect(result('money-anchors', { links: many(4).flatMap((one) => [one, one, one]) }).value).toBeNull();
  });
  it('sees phrases on every page of a site, not the name of a maker there', () => {
    const links = (anchor: string) => many(20, (i) => ({ anchor: i < 8 ? anchor : 'here', pages: i < 8 ? 400 : 1 }));
    expect(result('site-wide', { links: links('cheap car hire') }).value).toBe(0.4);
    expect(result('site-wide', { links: links('site by Ossenmere Bee Club') }).value).toBe(0);
  });
  it('finds the densest 45 days of nameless links', () => {
    const dated = (anchor: string) =>
      many(20, (i) => ({
        anchor: `${anchor}${i}`,
        firstSeenAt: i < 12 ? Date.UTC(2020, 3, 1 + i) : Date.UTC(2005 + i, 1),
      }));
    expect(result('link-burst', { links: dated('read this now ') })).toMatchObject({ value: 0.6 });
    expect(result('link-burst', { links: dated('read this now ') }).evidence[0]).toContain('2020-04-01');
    // news names what it links to
    expect(result('link-burst', { links: dated('Ossenmere Bee Club') }).value).toBe(0);
  });
  it('leaves out what a site began with', () => {
    const links = many(20, () => ({ anchor: 'poker league' }));
    const own = { script: 'Latin', sells: ['gambling' as const], subject: 'games.boardgames', titles: [] };
    expect(result('money-anchors', { links }).value).toBe(1);
    expect(result('money-anchors', { links, past: past({ own }) }).value).toBe(0);
  });
  it('judges the same links anew for another name or past', () => {
    const links = many(20, () => ({ anchor: 'Casino Rats' }));
    expect(result('money-anchors', { links, name: 'bees.org' }).value).toBe(1);
    expect(result('money-anchors', { links, name: 'thecasinorats.com' }).value).toBe(0);
    expect(result('unnamed', { links, name: 'thecasinorats.com' }).value).toBe(0);
  });
  it('reads linking pages: what they sell, and comments', () => {
    const read = (text: string) => many(10, (i) => ({ text, anchor: `my homepage ${i}` }));
    expect(
      result('bad-company', { links: read('Casino and poker, viagra and payday loans in our guide.') }).value,
    ).toBe(1);
    expect(result('bad-company', { links: read('Hives, swarms and the village show.') }).value).toBe(0);
    expect(result('comments', { links: read('Great post! Thanks for sharing.') }).value).toBe(1);
    expect(result('comments', { links: many(10) }).value).toBeNull();
  });
  it('measures spam mass from both walks', () => {
    const far = result('spam-mass', { links: many(9), strengthRank: 1e-4, trustRank: 1e-7 });
    expect(far.value).toBeGreaterThan(0.99);
    expect(far.points).toBe(far.maxPoints);
    expect(result('spam-mass', { links: many(9), strengthRank: 1e-5, trustRank: 3e-5 }).points).toBe(0);
  });
  it('counts links without a vote and former drops', () => {
    expect(full('nofollow-share', { links: many(10, (i) => ({ nofollow: true, anchor: `my page ${i}` })) })).toBe(true);
    expect(result('nofollow-share', { links: many(10, () => ({ nofollow: true })) }).value).toBe(0);
    expect(full('drops', { links: many(10), drops: 3 })).toBe(true);
  });
  it('sees anchors that name the site, an address, or nothing', () => {
    const anchors = ['Ossenmere Bee Club', 'click here', 'http://ossenmerebeeclub.org/', 'bee club', 'garden sheds'];
    const links = many(10, (i) => ({ anchor: anchors[i % 5] }));
    expect(result('unnamed', { links })).toMatchObject({ value: 0.2, evidence: ['"garden sheds" from 2 domains'] });
  });
  it('counts votes that went to networks and to who links to everything', () => {
    const votes = {
      referring: 20,
      network: 14,
      blanket: 3,
      notes: { network: ['12 sites: registrant Tarn'], blanket: [] },
    };
    expect(result('network', { votes })).toMatchObject({ value: 0.7, evidence: ['12 sites: registrant Tarn'] });
    expect(result('blanket', { votes }).value).toBeCloseTo(0.15);
    expect(result('network', { votes: { ...votes, referring: 4 } }).value).toBeNull();
  });
  it.each([
    ['risky-content', { risky: 0.4 }],
    ['parked-captures', { parked: 0.95 }],
    ['redirects', { redirected: 0.6 }],
    ['switches', { languageSwitches: 1, subjectSwitches: 1, drift: 0.9 }],
    ['laced', { laced: 0.5 }],
    ['turned', { drift: 0.95, languageSwitches: 1 }],
  ])('reads %s from the past', (rule, part) => {
    expect(full(rule, { past: past(part) })).toBe(true);
    expect(result(rule, { past: past({}) }).points).toBe(0);
    expect(result(rule, {}).value).toBeNull();
  });
  it('says of every rule what would change its points', () => {
    const links = many(20, (i) => (i < 4 ? { anchor: 'cheap pills' } : {}));
    expect(result('money-anchors', { links }).change).toBe('none under 5%, all from 40%');
    expect(result('money-anchors', { links: many(20) }).change).toBe('none up to 5%');
    expect(result('network', {}).change).toContain('would count from 15%');
  });
  it('never exceeds 100', () => {
    const links = many(40, () => ({ anchor: 'казино casino', nofollow: true, fromSite: 'a.org', firstSeenAt: 0 }));
    expect(scoreSpam(input({ links, strengthRank: 1, trustRank: 0, drops: 9 })).risk).toBeLessThanOrEqual(100);
  });
});

describe('rescore', () => {
  it('gives the same values other points, and back', () => {
    const card = scoreSpam(input({ links: many(20, () => ({ anchor: 'casino bonus' })), drops: 2 }));
    const none = rescore(card, { points: {}, fittedOn: '' });
    expect(none.risk).toBe(0);
    expect(valuesOf(none)).toEqual(valuesOf(card));
    expect(rescore(none, SHIPPED_POINTS)).toEqual(card);
  });
});

describe('pastSigns', () => {
  it('counts captures by what they show, with examples', () => {
    const capture = (kind: 'content' | 'parked' | 'redirect', subject: string | null, year: number) => ({
      at: Date.UTC(year, 1, 1), kind, subject, title: 'T', redirectTo: kind === 'redirect' ? 'x.com' : null, terms: new Map(),
    }); // biome-ignore format: a row
    const signs = pastSigns(
      [
        capture('content', 'farming.beekeeping', 2010),
        capture('content', 'games.gambling', 2020),
        capture('parked', null, 2021),
        capture('redirect', null, 2022),
      ],
      { languageSwitches: 0, subjectSwitches: 1, drift: 0.8, eras: [] },
    );
    expect(signs).toMatchObject({ captures: 4, parked: 0.25, redirected: 0.25, risky: 0.25, subjectSwitches: 1 });
    expect(signs?.notes.risky[0]).toContain('2020: Gambling');
    expect(signs?.notes.redirected).toEqual(['2022: to x.com']);
    expect(pastSigns([], { languageSwitches: 0, subjectSwitches: 0, drift: null, eras: [] })).toBeNull();
  });
});

describe('votesOf', () => {
  it('passes on what weighing took, with examples', () => {
    const votes = votesOf({
      effective: 1, pages: 3, siteWide: 0, taken: { nofollow: 0, unindexed: 0, gone: 0, network: 1.5, blanket: 0.5 },
      networks: [{ sites: ['a.org', 'b.org'], signs: ['registrant Tarn'] }],
      referrers: [{ site: 'c.org', weight: 0.5, discounts: [{ kind: 'blanket', factor: 0.5, why: 'links to 50 lapsed domains' }] }],
    }); // biome-ignore format: a row
    expect(votes).toEqual({
      referring: 1,
      network: 1.5,
      blanket: 0.5,
      notes: { network: ['2 sites: registrant Tarn'], blanket: ['c.org links to 50 lapsed domains'] },
    });
  });
});

describe('fitPoints', () => {
  const example = (values: Record<string, number | null>, isSpam: boolean) => ({ values, isSpam });
  const examples = [
    ...Array.from({ length: 40 }, (_, n) => example({ 'money-anchors': 0.5, drops: n % 2 }, true)),
    ...Array.from({ length: 40 }, (_, n) => example({ 'money-anchors': 0, drops: n % 2 }, false)),
  ];
  it('gives points to what tells, and none to what does not', () => {
    const { points } = fitPoints(examples, 'a test');
    expect(points['money-anchors']).toBeGreaterThan(SPAM_FROM);
    expect(points.drops).toBeLessThan(points['money-anchors'] / 4);
    expect(points['link-burst']).toBe(0);
  });
  it('lets few marks move the points a little, and many more', () => {
    const marks = (many: number) =>
      Array.from({ length: many }, (_, n) =>
        example({ 'link-burst': n % 2 ? 0.9 : 0, 'spam-mass': n % 2 ? null : 0.98 }, n % 2 === 1),
      );
    const near = { ridge: 10, near: SHIPPED_POINTS };
    const [few, more] = [fitPoints(marks(6), 'marks', near), fitPoints(marks(400), 'marks', near)];
    const moved = (rule: string, { points }: { points: Record<string, number> }) =>
      points[rule] - SHIPPED_POINTS.points[rule];
    expect(moved('link-burst', few)).toBeGreaterThan(0);
    expect(moved('link-burst', more)).toBeGreaterThan(moved('link-burst', few));
    expect(moved('spam-mass', more)).toBeLessThan(0);
    expect(few.points['foreign-script-anchors']).toBeCloseTo(SHIPPED_POINTS.points['foreign-script-anchors'], 0);
  });
  it('has no points below zero, whatever the examples', () => {
    const any = fc.array(
      fc.record({
        values: fc.dictionary(
          fc.constantFrom(...SPAM_RULES.map(({ id }) => id)),
          fc.double({ min: 0, max: 1, noNaN: true }),
        ),
        isSpam: fc.boolean(),
      }),
      { minLength: 2, maxLength: 20 },
    );
    fc.assert(
      fc.property(any, (some) => {
        fc.pre(some.some(({ isSpam }) => isSpam) && some.some(({ isSpam }) => !isSpam));
        for (const value of Object.values(fitPoints(some, 'x').points)) expect(value).toBeGreaterThanOrEqual(0);
      }),
      { numRuns: 15 },
    );
  });
  it('does not fit on one kind alone', () => {
    expect(() => fitPoints(examples.slice(0, 40), 'x')).toThrow(RangeError);
  });
});

describe('judgeRisks', () => {
  it('measures the area under the ROC curve as counting all pairs does', () => {
    const cases = fc.array(
      fc.record({ risk: fc.integer({ min: 0, max: 10 }).map((value) => value * 10), isSpam: fc.boolean() }),
      { minLength: 2, maxLength: 40 },
    );
    fc.assert(
      fc.property(cases, (some) => {
        const spam = some.filter(({ isSpam }) => isSpam);
        const clean = some.filter(({ isSpam }) => !isSpam);
        fc.pre(spam.length > 0 && clean.length > 0);
        let wins = 0;
        for (const a of spam) for (const b of clean) wins += a.risk > b.risk ? 1 : a.risk === b.risk ? 0.5 : 0;
        const report = judgeRisks(some);
        expect(report.area).toBeCloseTo(wins / (spam.length * clean.length), 9);
        expect(report.falseAlarms).toBeCloseTo(clean.filter(({ risk }) => risk >= SPAM_FROM).length / clean.length, 9);
      }),
    );
  });
});
