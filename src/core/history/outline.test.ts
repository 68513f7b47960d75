import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { outlinePage, type PageBlock } from './outline';
import { comparePages } from './page-changes';

const brief = (html: string) => outlinePage(html).map(({ kind, level, text }) => `${kind}${level || ''}: ${text}`);

describe('a page as plain blocks', () => {
  it('tells headings, text, lists, tables, pictures, forms and links apart, in their order', () => {
    expect(
      brief(`<html><head><title>Vale</title><style>p{color:red}</style></head><body><h1>Bee <b>club</b></h1>
        <p>We meet &amp; talk on <a href="/m">Mondays</a>.</p><ul><li>hives<ul><li>old ones</li></ul></li><li>combs</li></ul>
        <table><tr><th>Day</th><td>Mon</td></tr></table><img src="x.png" alt="a hive"><img src="y.png">
        <form><input name="q"><input type="hidden" name="k"><button>Go</button></form><a href="/a">Home</a> <a href="/b">News</a>
        <iframe src="http://saltmarch.example/ad"></iframe></body></html>`),
    ).toEqual([
      'heading1: Bee club',
      'text: We meet & talk on Mondays.',
      'item1: hives',
      'item2: old ones',
      'item1: combs',
      'cell: Day',
      'cell: Mon',
      'image: a hive',
      'image: not described',
      'text: Go',
      'form: 2 fields',
      'link: Home',
      'link: News',
      'frame: http://saltmarch.example/ad',
    ]);
  });

  it('keeps nothing of scripts, styles and comments', () => {
    expect(brief('<script>alert("x")</script><!-- hidden --><style>a{}</style><p onclick="go()">seen</p>')).toEqual([
      'text: seen',
    ]);
  });

  it('takes direction marks and control characters out', () => {
    expect(brief('<p>a\u202eb\u0007c</p>')).toEqual(['text: abc']);
  });

  it('is bounded, whatever the page is', () => {
    const blocks = outlinePage(`<p>${'honey '.repeat(2000)}</p>`.repeat(600));
    expect(blocks.length).toBeLessThanOrEqual(400);
    expect(blocks.reduce((sum, { text }) => sum + text.length, 0)).toBeLessThanOrEqual(26_000);
  });

  it('reads any text without failing, and gives no markup of it', () => {
    const pieces = fc.constantFrom(
      '<p>',
      '</p>',
      '<li',
      '<ul>',
      '</ul>',
      '<a href="',
      '">',
      '<h2>',
      '</h2>',
      '<form>',
      '<td',
      '&lt;',
      'bee',
      ' ',
      '<',
      '>',
    );
    fc.assert(
      fc.property(fc.array(pieces, { maxLength: 40 }), (parts) => {
        for (const { kind, text } of outlinePage(parts.join(''))) {
          expect(text).not.toBe('');
          if (kind === 'text') expect(text).not.toMatch(/<\/?(p|ul|h2|form)>/);
        }
      }),
    );
  });
});

describe('two pages side by side', () => {
  const text = (...lines: string[]): PageBlock[] => lines.map((line) => ({ kind: 'text', level: 0, text: line }));
  const told = (a: PageBlock[], b: PageBlock[]) =>
    comparePages(a, b).pairs.map(
      ({ first, second, change }) => `${change}: ${first?.text ?? '-'} | ${second?.text ?? '-'}`,
    );

  it('pairs what is the same, what took a place, and what only one has', () => {
    expect(told(text('a', 'b', 'c'), text('a', 'x', 'c', 'd'))).toEqual([
      'same: a | a',
      'changed: b | x',
      'same: c | c',
      'second: - | d',
    ]);
    expect(told(text('a', 'b'), text('b'))).toEqual(['first: a | -', 'same: b | b']);
  });

  it('tells which words of a changed piece are whose', () => {
    const [pair] = comparePages(text('the old bee club'), text('the new bee club')).pairs;
    expect(pair.words).toContainEqual({ text: 'old', in: 'first' });
    expect(pair.words).toContainEqual({ text: 'new', in: 'second' });
    const whole = (side: 'first' | 'second') =>
      pair.words
        ?.filter((word) => word.in === side || word.in === 'both')
        .map((word) => word.text)
        .join('');
    expect([whole('first'), whole('second')]).toEqual(['the old bee club', 'the new bee club']);
  });

  it('does not pair a heading with a text', () => {
    const heading: PageBlock = { kind: 'heading', level: 1, text: 'a' };
    expect(told([heading], text('a'))).toEqual(['first: a | -', 'second: - | a']);
  });

  it('never loses a block of either, nor changes their order', () => {
    const page = fc.array(fc.constantFrom('bee', 'hive', 'comb', 'wax', 'mead'), { maxLength: 30 });
    fc.assert(
      fc.property(page, page, (a, b) => {
        const { pairs, sameRatio } = comparePages(text(...a), text(...b));
        expect(pairs.flatMap(({ first }) => first?.text ?? [])).toEqual(a);
        expect(pairs.flatMap(({ second }) => second?.text ?? [])).toEqual(b);
        for (const { first, second, change } of pairs) if (change === 'same') expect(first).toEqual(second);
        expect(sameRatio).toBeGreaterThanOrEqual(0);
        expect(sameRatio).toBeLessThanOrEqual(1);
        expect(sameRatio === 1).toBe(a.join() === b.join());
      }),
    );
  });
});
