import { describe, expect, it } from 'vitest';
import { isIndexableKind, judgeContent, markContent, type PageSigns } from './content';

const prose = 'The colony and the queen and the frame and the forage and the heather of the vale. '.repeat(12);
const signs = (visible: string, more: Partial<PageSigns> = {}): PageSigns => ({
  title: '',
  visible: () => visible,
  mark: markContent(visible),
  linksInside: 5,
  linksOutside: 2,
  nonsenseHash: null,
  forwardsTo: null,
  sameText: 0,
  ...more,
});
const kindOf = (visible: string, more: Partial<PageSigns> = {}) => judgeContent(signs(visible, more)).kind;

describe('a page that only sends its reader on', () => {
  it('is no door, whatever it says meanwhile', () => {
    const words = 'One moment, you are being sent on to the new site. Checking your browser.';
    expect(kindOf(words)).toBe('challenge');
    expect(kindOf(words, { forwardsTo: 'http://other.org/' })).toBe('thin');
    expect(kindOf(words, { forwardsTo: 'http://other.org/', sameText: 9 })).toBe('thin');
  });
});

describe('markContent', () => {
  it('counts letters, and takes texts for equal that differ in dates, counters and case only', () => {
    const one = markContent('Read 12 times since 3 May. Honey!');
    const two = markContent('read 9,999 times since 17 MAY. honey');
    expect(one).toEqual(two);
    expect(one.letters).toBe('ReadtimessinceMayHoney'.length);
    expect(markContent('Read often').hash).not.toBe(one.hash);
    expect(Number.isSafeInteger(one.hash)).toBe(true);
  });
});

describe('judgeContent', () => {
  it.each([
    ['Checking that you are a person. Enable scripts.', 'challenge'],
    ['Please solve the CAPTCHA to go on', 'challenge'],
    ['We value your privacy. Accept all cookies to read on.', 'consent'],
    ['This domain is for sale', 'parked'],
    ['404, page not found', 'not-found'],
  ])('tells %j for what it is', (text, kind) => {
    expect(kindOf(text)).toBe(kind);
    expect(judgeContent(signs(text)).reason).toContain(
      'a short page that says'.slice(0, kind === 'not-found' ? 0 : 99),
    );
  });

  it('does not mistake an article about captchas, or with a cookie notice, for a door', () => {
    expect(kindOf(`${prose} How to solve a captcha. We value your privacy.`)).toBe('content');
  });

  it('tells a door by the same small text at many addresses', () => {
    expect(kindOf('Welcome to us', { sameText: 2 })).toBe('content');
    expect(kindOf('Welcome to us', { sameText: 3 })).toBe('challenge');
  });

  it('tells a copy by the same long text, and a "not found" page by what the site answers to nonsense', () => {
    expect(kindOf(prose, { sameText: 1 })).toBe('copy');
    expect(kindOf(prose, { nonsenseHash: markContent(prose).hash, sameText: 1 })).toBe('not-found');
  });

  it('tells lists of links from articles, and thin pages from both', () => {
    expect(kindOf(prose, { linksOutside: 20 })).toBe('list');
    expect(kindOf('A few words', { linksInside: 1, linksOutside: 0 })).toBe('thin');
    expect(kindOf(prose)).toBe('content');
  });

  it('lets only pages count that a search engine would keep', () => {
    expect((['content', 'list', 'thin'] as const).every(isIndexableKind)).toBe(true);
    expect((['challenge', 'consent', 'parked', 'not-found', 'copy'] as const).some(isIndexableKind)).toBe(false);
  });
});
