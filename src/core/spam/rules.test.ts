import { describe, expect, it } from 'vitest';
import { SPAM_RULES, type SpamInput, type SpamLink, scoreSpam } from './rules';

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
  ...part,
});
const result = (rule: string, part: Partial<SpamInput>) =>
  scoreSpam(input(part)).results.find((entry) => entry.rule === rule)!;

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
  it('measures foreign script against the script of the name', () => {
    const links = many(10, () => ({ anchor: 'казино онлайн' }));
    expect(result('foreign-script-anchors', { links }).value).toBe(1);
    expect(result('foreign-script-anchors', { links, name: 'xn--80aaxitdbjk.com' }).value).toBeNull();
  });
  it('forgives the own name as dominant anchor, not a phrase', () => {
    expect(result('dominant-anchor', { links: many(20) }).points).toBe(0);
    expect(result('dominant-anchor', { links: many(20, () => ({ anchor: 'garden sheds' })) }).points).toBe(15);
  });
  it('sees one site behind most links', () => {
    const links = many(20, (i) => (i < 15 ? { fromSite: 'one.org' } : {}));
    expect(result('site-wide', { links })).toMatchObject({ value: 0.75 });
    expect(result('site-wide', { links }).evidence[0]).toBe('15 links from one.org');
  });
  it('finds the densest 30 days', () => {
    const links = many(20, (i) => ({ firstSeenAt: i < 12 ? Date.UTC(2020, 3, 1 + i) : Date.UTC(2005 + i, 1) }));
    expect(result('link-burst', { links })).toMatchObject({ value: 0.6 });
    expect(result('link-burst', { links }).evidence[0]).toContain('2020-04-01');
  });
  it('measures spam mass from both walks', () => {
    const far = result('spam-mass', { links: many(9), strengthRank: 1e-4, trustRank: 1e-7 });
    expect(far.value).toBeGreaterThan(0.99);
    expect(far.points).toBe(20);
    expect(result('spam-mass', { links: many(9), strengthRank: 1e-5, trustRank: 3e-5 }).points).toBe(0);
  });
  it('counts links without a vote and former drops', () => {
    expect(result('nofollow-share', { links: many(10, () => ({ nofollow: true })) }).points).toBe(8);
    expect(result('drops', { links: many(10), drops: 3 }).points).toBe(10);
  });
  it('never exceeds 100', () => {
    const links = many(40, () => ({ anchor: 'казино casino', nofollow: true, fromSite: 'a.org', firstSeenAt: 0 }));
    expect(scoreSpam(input({ links, strengthRank: 1, trustRank: 0, drops: 9 })).risk).toBeLessThanOrEqual(100);
  });
});
