import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { normalizeAddress } from './address';
import { calendarMonth, patternProblem, Scope, type ScopeRules } from './scope';

const NOW = Date.UTC(2026, 10, 20);
const scope = (rules: Partial<ScopeRules> = {}) =>
  new Scope({ subdomains: 'inside', query: 'few', pathsIn: [], pathsOut: [], ...rules }, NOW);
const address = (url: string) => normalizeAddress(url)!;
const refuse = (path: string, rules: Partial<ScopeRules> = {}) =>
  scope(rules).refuse(address(`http://pellgate.org${path}`));

describe('a scope', () => {
  it('takes subdomains for inside or outside, and www for the same', () => {
    const blog = address('http://blog.pellgate.org/');
    expect(scope().isInside(blog, 'pellgate.org', 'pellgate.org')).toBe(true);
    const narrow = scope({ subdomains: 'outside' });
    expect(narrow.isInside(blog, 'pellgate.org', 'pellgate.org')).toBe(false);
    expect(narrow.isInside(address('http://www.pellgate.org/'), 'pellgate.org', 'pellgate.org')).toBe(true);
    expect(scope().isInside(address('http://other.org/'), 'pellgate.org', 'pellgate.org')).toBe(false);
  });

  it.each([
    ['/calendar/2026-12.html', null],
    ['/calendar/2027-01.html', null],
    ['/calendar/2027-02.html', 'calendar'],
    ['/events/2031/05/', 'calendar'],
    ['/events?month=2031-05', 'calendar'],
    ['/events?year=2031&month=5', 'calendar'],
    ['/calendar/1650-01.html', 'calendar'],
    ['/2009/05/what-we-learned.html', null],
    ['/2031/05/a-post-with-a-slug.html', null],
    ['/a/more/more/', null],
    ['/a/more/more/more/', 'deeper'],
    ['/x/y/x/y/x/y', 'deeper'],
    [`/${'d/e'.split('/').join('/')}/${Array.from({ length: 14 }, (_, i) => `s${i}`).join('/')}`, 'deeper'],
    ['/goods/?colour=plum', null],
    ['/goods/?colour=plum&size=small', null],
    ['/goods/?colour=plum&size=small&view=list', 'facets'],
    ['/goods/?tag=a&tag=b', 'facets'],
  ])('judges %s', (path, trap) => {
    expect(refuse(path)?.trap ?? null).toBe(trap);
  });

  it('keeps to the policy for queries', () => {
    expect(refuse('/?a=1&b=2&c=3&d=4', { query: 'all' })).toBeNull();
    expect(refuse('/?a=1', { query: 'none' })).toMatchObject({ trap: null });
  });

  it('keeps to path patterns, and refuses those that cannot be read', () => {
    expect(refuse('/members/1', { pathsOut: ['^/members/'] })?.reason).toContain('out');
    expect(refuse('/news/1', { pathsIn: ['^/links', 'friends'] })?.reason).toContain('none');
    expect(refuse('/our/friends', { pathsIn: ['^/links', 'friends'] })).toBeNull();
    expect(() => scope({ pathsIn: ['(unclosed'] })).toThrow(/"\(unclosed" cannot be read/);
    expect(patternProblem('^/a(b|c)')).toBeNull();
  });

  it('tries patterns that would make others run for ever', () => {
    expect(refuse(`/${'a'.repeat(1500)}!`, { pathsOut: ['^/(a+)+$'] })).toBeNull();
    expect(refuse(`/${'a'.repeat(1500)}`, { pathsOut: ['^/(a+)+$'] })?.reason).toContain('out');
  });

  it('decides by the address alone', () => {
    const one = scope();
    fc.assert(
      fc.property(fc.webUrl({ withQueryParameters: true }), (url) => {
        const found = normalizeAddress(url);
        if (found) expect(one.refuse(found)).toEqual(scope().refuse(found));
      }),
    );
  });
});

describe('calendarMonth', () => {
  it('reads months of calendars, not of posts', () => {
    expect(calendarMonth('/calendar/2026-12.html', '')).toBe(2026 * 12 + 11);
    expect(calendarMonth('/2026/05/07/', '')).toBe(2026 * 12 + 4);
    expect(calendarMonth('/2026/05/07/title', '')).toBeNull();
    expect(calendarMonth('/x', 'date=2026-05-01')).toBe(2026 * 12 + 4);
  });
});
