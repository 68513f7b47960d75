import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { AddressMemory } from './address';
import { readPage } from './links';

const at = 'http://guide.pellgate.org/dir/page.html';

describe('readPage', () => {
  it('reads links with anchor, rel and resolved address', () => {
    const page = readPage(
      `<title> Old  &amp; new\nlinks </title>
       <a href="a.html">A <b>bold</b>
       name</a> <a href=//hives.example.org rel="external NoFollow">Hives</a>
       <a href="http://b.example.org/"><img alt="Bee house" src=x></a>
       <map><area href="/m" alt="Map"></map>`,
      at,
    );
    expect(page.title).toBe('Old & new links');
    expect(page.links).toMatchObject([
      {
        address: { url: 'http://guide.pellgate.org/dir/a.html', site: 'pellgate.org' },
        anchor: 'A bold name',
        nofollow: false,
      },
      { address: { url: 'http://hives.example.org/', site: 'example.org' }, anchor: 'Hives', nofollow: true },
      { address: { url: 'http://b.example.org/', site: 'example.org' }, anchor: 'Bee house', nofollow: false },
      { address: { url: 'http://guide.pellgate.org/m', site: 'pellgate.org' }, anchor: 'Map', nofollow: false },
    ]);
  });

  it('resolves against the first base element only', () => {
    const page = readPage('<base href="/deep/er/"><base href="http://no.example.org/"><a href=x>x</a>', at);
    expect(page.links[0].address.url).toBe('http://guide.pellgate.org/deep/er/x');
  });

  it('counts junk schemes and does not follow them', () => {
    const page = readPage('<a href="javascript:go()">j</a><a href="mailto:a@b.org">m</a><a href="tel:1">t</a>', at);
    expect(page.links).toEqual([]);
    expect(page.junkLinks).toBe(3);
  });

  it('records noindex, nofollow and canonical', () => {
    const page = readPage('<meta name=ROBOTS content="noindex,NOFOLLOW"><link rel=canonical href="/one">', at);
    expect(page).toMatchObject({ noindex: true, nofollow: true, canonical: 'http://guide.pellgate.org/one' });
    expect(readPage('<meta name=robots content=none>', at)).toMatchObject({ noindex: true, nofollow: true });
  });

  it('ignores links inside comments and text of scripts', () => {
    const page = readPage('<!-- <a href=/no>no</a> --><a href=/y><script>var a="<a href=/z>"</script>y</a>', at);
    expect(page.links.map((link) => [link.address.url, link.anchor])).toEqual([['http://guide.pellgate.org/y', 'y']]);
  });

  it('closes a link that another link opens inside', () => {
    const page = readPage('<a href=/1>one <a href=/2>two</a>', at);
    expect(page.links.map((link) => link.anchor)).toEqual(['one', 'two']);
  });

  it('says the same with a memory of other pages, and knows their addresses again', () => {
    const memory = new AddressMemory();
    const body = '<a href="/a">one</a><a href="b">two</a><a href="http://out.org/">three</a><a href="?q">four</a>';
    const pages = ['http://pellgate.org/x/1', 'http://pellgate.org/y/2', 'http://hives.org/x/3'];
    const urls = (at: string, known?: AddressMemory) =>
      readPage(body, at, known).links.map(({ address }) => address.url);
    for (const at of [...pages, ...pages]) expect(urls(at, memory)).toEqual(urls(at));
    const [first, again] = [1, 2].map(() => readPage(body, pages[0], memory).links[0].address);
    expect(again).toBe(first);
    memory.clear();
    expect(readPage(body, pages[0], memory).links[0].address).not.toBe(first);
  });

  it('survives any bytes', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'binary', maxLength: 400 }), (text) => {
        const page = readPage(`<a href=/x>${text}`, at);
        for (const link of page.links) expect(link.anchor.length).toBeLessThanOrEqual(200);
      }),
    );
  });
});
