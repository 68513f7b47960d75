import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { normalizeAddress, seedAddress } from './address';

describe('normalizeAddress', () => {
  const base = 'http://www.pellgate.org/guide/links.html';
  const cases: [reference: string, expected: string | null][] = [
    ['old.html', 'http://www.pellgate.org/guide/old.html'],
    ['../a/./b/../c', 'http://www.pellgate.org/a/c'],
    ['//Hives.Example.ORG:80/', 'http://hives.example.org/'],
    ['https://example.org:443/x#part', 'https://example.org/x'],
    ['/top#', 'http://www.pellgate.org/top'],
    ['/query?#', 'http://www.pellgate.org/query'],
    ['?page=2&utm_source=x&PHPSESSID=1', 'http://www.pellgate.org/guide/links.html?page=2'],
    ['?utm_source=x', 'http://www.pellgate.org/guide/links.html'],
    ['/a;jsessionid=99?x=1', 'http://www.pellgate.org/a?x=1'],
    ['/%7ejo/%c3%a9', 'http://www.pellgate.org/~jo/%C3%A9'],
    ['http://bücher.de/ä', 'http://xn--bcher-kva.de/%C3%A4'],
    ['http://user:pw@example.org./', 'http://example.org/'],
    ['mailto:jo@pellgate.org', null],
    ['javascript:void(0)', null],
    ['tel:+4412', null],
    ['data:text/html,x', null],
    ['ftp://example.org/', null],
    ['http://', null],
    ['http://ex ample.org/', null],
    [`/${'x'.repeat(2100)}`, null],
  ];
  it.each(cases)('resolves %j to %j', (reference, expected) => {
    expect(normalizeAddress(reference, base)?.url ?? null).toBe(expected);
  });

  it('keeps the port in the host and names the registrable site', () => {
    expect(normalizeAddress('http://a.b.pellgate.co.uk:81/')).toMatchObject({
      host: 'a.b.pellgate.co.uk:81',
      site: 'pellgate.co.uk',
    });
    expect(normalizeAddress('http://127.0.0.1:8080/x')).toMatchObject({ host: '127.0.0.1:8080', site: '127.0.0.1' });
  });

  it('is a fixed point of itself', () => {
    fc.assert(
      fc.property(fc.webUrl({ withQueryParameters: true, withFragments: true }), (url) => {
        const once = normalizeAddress(url);
        if (once) expect(normalizeAddress(once.url)?.url).toBe(once.url);
      }),
    );
  });
});

describe('seedAddress', () => {
  const cases: [text: string, expected: string | null][] = [
    ['pellgate.org', 'http://pellgate.org/'],
    ['https://pellgate.org/links', 'https://pellgate.org/links'],
    ['127.0.0.1:8080', 'http://127.0.0.1:8080/'],
    ['not an address', null],
    ['word', null],
    ['ftp://pellgate.org', null],
    ['', null],
  ];
  it.each(cases)('reads %j as %j', (text, expected) => {
    expect(seedAddress(text)?.url ?? null).toBe(expected);
  });
});
