import fc from 'fast-check';
import { Parser } from 'htmlparser2';
import { describe, expect, it } from 'vitest';
import { foldText, scanHtml } from './html';

/** Links and their text, as this scanner and as a general parser see them. */
function links(html: string): string[][] {
  const found: string[][] = [];
  let open: { href: string; text: string } | null = null;
  const close = () => {
    if (open) found.push([open.href, foldText(open.text)]);
    open = null;
  };
  scanHtml(html, {
    wanted: new Set(['a']),
    open(_name, { href }) {
      close();
      if (href !== undefined) open = { href, text: '' };
    },
    close,
    text(start, end) {
      if (open) open.text += html.slice(start, end);
    },
    gap: () => undefined,
    raw: () => undefined,
  });
  close();
  return found;
}

function linksByParser(html: string): string[][] {
  const found: string[][] = [];
  let open: { href: string; text: string } | null = null;
  let raw = 0;
  const close = () => {
    if (open) found.push([open.href, open.text.replace(/[\s\u0000-\u001f]+/g, ' ').trim()]);
    open = null;
  };
  const isRaw = (name: string) => ['script', 'style', 'title', 'textarea'].includes(name);
  const parser = new Parser({
    onopentag(name, { href }) {
      if (isRaw(name)) raw++;
      if (name !== 'a') return;
      close();
      if (href !== undefined) open = { href, text: '' };
    },
    ontext(text) {
      if (open && raw === 0) open.text += text;
    },
    onclosetag(name) {
      if (isRaw(name)) raw--;
      if (name === 'a') close();
    },
  });
  parser.write(html);
  parser.end();
  close();
  return found;
}

describe('scanHtml', () => {
  it.each([
    ['<a href=x>one</a>', [['x', 'one']]],
    ['<A HREF="x" >One</A>', [['x', 'One']]],
    ["<a title='a>b' href='x'>one</a>", [['x', 'one']]],
    ['<p title="a>b"><a href=x>one</a>', [['x', 'one']]],
    ['<a href="a&amp;b&copy;">R&eacute;sum&#233;</a>', [['a&b©', 'Résumé']]],
    ['<a href=x href=y>first of two counts</a>', [['x', 'first of two counts']]],
    ['<!-- <a href=no>no</a> --><a href=x>one</a>', [['x', 'one']]],
    ['<!--><a href=x>one</a>', [['x', 'one']]],
    ['<!-- a --!><a href=x>one</a>', [['x', 'one']]],
    ['<!doctype html><?php <a href=no> ?><a href=x>one</a>', [['x', 'one']]],
    ['<script>"<a href=no>"</script><a href=x>one</a>', [['x', 'one']]],
    ['<script></scripty><a href=no></SCRIPT ><a href=x>one</a>', [['x', 'one']]],
    ['<title><a href=no></title><a href=x>1 < 2 <3</a>', [['x', '1 < 2 <3']]],
    ['<a href=x>one <a href=y>two', [['x', 'one'], ['y', 'two']]],
    ['<a href=x>one</a><a href="never closed>', [['x', 'one']]],
    ['<a href = x / >one</a>', [['x', 'one']]],
    ['<a\nhref=x\n>one\n two</a>', [['x', 'one two']]],
    ['</ a><a href=x>one</><b>b</b></a>', [['x', 'oneb']]],
    ['<a href=x', []],
    ['<', []],
  ] as [string, string[][]][])('reads %j', (html, expected) => {
    expect(links(html)).toEqual(expected);
  }); // biome-ignore format: a case a line

  it('finds the same links as a general parser in any soup of tags', () => {
    const attribute = fc.oneof(
      fc.constantFrom(
        'href=/x',
        'href="/a b"',
        "href='q\"q'",
        'title="a>b"',
        'rel=nofollow',
        'disabled',
        'HREF=/Y',
        'a=b=c',
      ),
      fc.stringMatching(/^[a-z]{1,4}="[^"<&]{0,6}"$/),
    );
    // block elements are left out: the parser closes links with them, where browsers carry a link on
    const piece = fc.oneof(
      { weight: 4, arbitrary: fc.array(attribute, { maxLength: 3 }).map((list) => `<a ${list.join(' ')}>`) },
      { weight: 4, arbitrary: fc.constant('</a>') },
      { weight: 4, arbitrary: fc.stringMatching(/^[ a-z0-9&;.é]{0,12}$/) },
      fc.constantFrom('<br>', '<img src=x alt="a">', '<i>', '</u>', '< ', '&amp;', '&lt;a'),
      fc.constantFrom(
        '<!-- c -->',
        '<!-- <a href=no> -->',
        '<script>var a = "<a href=no>";</script>',
        '<style>a{}</style>',
      ),
      fc.array(attribute, { maxLength: 2 }).map((list) => `<img ${list.join(' ')}>`),
    );
    fc.assert(
      fc.property(fc.array(piece, { maxLength: 30 }), (pieces) => {
        const html = pieces.join('');
        expect(links(html)).toEqual(linksByParser(html));
      }),
      { numRuns: 2000 },
    );
  });

  it('ends on any text', () => {
    const chars = fc.constantFrom(...'<>/!-="\' aAscriptSCRIPT&;?\n');
    fc.assert(
      fc.property(fc.array(chars, { maxLength: 200 }), (text) => {
        for (const [href, anchor] of links(text.join(''))) expect(typeof href + typeof anchor).toBe('stringstring');
      }),
      { numRuns: 2000 },
    );
  });
});
