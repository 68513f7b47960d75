import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { AddressMemory, AddressResolver, normalizeAddress, seedAddress } from './address';

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

describe('AddressResolver', () => {
  const bases = [
    'http://pellgate.org/',
    'https://www.pellgate.co.uk:8443/a/b.html?c=d',
    'http://pellgate.org/a%20b/c;sid=1/d',
    'http://[::1]:80/x/',
    'http://pellgate.org./x/y',
  ];
  const reference = fc.oneof(
    fc.webUrl({ withQueryParameters: true, withFragments: true }),
    fc.stringMatching(/^\/?[a-zA-Z0-9._~/-]{0,14}$/),
    fc.stringMatching(/^https?:\/\/[a-z0-9.x-]{1,9}\.[a-z0-9-]{1,5}\/[a-zA-Z0-9._~/-]{0,9}$/),
    fc.constantFrom(
      'http://xn--a.org/',
      'http://a.0x1/',
      'http://1.2.3.4/',
      'http://a.b1/x',
      'http://a..b/',
      'http://-a.org/',
    ),
    fc.stringMatching(/^[/.?#&=;:a-z%0-9 é-]{0,14}$/),
    fc.constantFrom(
      '',
      '/',
      '.',
      '..',
      './a',
      'a/../b',
      '//other.org/x',
      'http://other.org',
      'HTTP://OTHER.org/%7ea',
      'a:b',
      '/a//b',
      '/a/.',
      '/a/.b',
      'x?b=2&a=1&sort=up',
    ),
  );

  it('gives what normalizeAddress gives, also from memory', () => {
    const memory = new AddressMemory();
    fc.assert(
      fc.property(fc.constantFrom(...bases), reference, (base, text) => {
        for (let time = 0; time < 2; time++) {
          const found = new AddressResolver(base, memory).resolve(text);
          const { place: _place, slot: _slot, ...address } = found ?? {};
          expect(found && address).toEqual(normalizeAddress(text, base));
        }
      }),
      { numRuns: 3000 },
    );
  });

  it('makes one address of a list sorted in many ways', () => {
    const resolver = new AddressResolver('http://pellgate.org/list');
    const all = ['?page=2&sort=name', '?order=desc&page=2', '?page=2&sort_by=age&utm_source=x', '?page=2'];
    expect(new Set(all.map((text) => resolver.resolve(text)?.url)).size).toBe(1);
    expect(resolver.resolve('?b=1&a=2')).toEqual(resolver.resolve('?a=2&b=1'));
    expect(resolver.resolve('?order=123')?.url).toContain('order=123');
  });
});
