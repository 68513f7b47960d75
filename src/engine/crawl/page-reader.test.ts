import { describe, expect, it } from 'vitest';
import { CrawlParams } from '../../core/crawl/params';
import { Scope } from '../../core/crawl/scope';
import type { QueuedPage } from '../../store/crawl/crawl';
import { PageReader, type PageResult, type SiteMemory } from './page-reader';

const PAGE: QueuedPage = { id: 1, url: 'http://seed.org/a/', site: 'seed.org', host: 'seed.org', depth: 1, hops: 0, classId: 1, viaClass: 0, attempts: 0 }; // biome-ignore format: a row
const FRESH: SiteMemory = { seedHost: 'seed.org', nonsenseMark: null, sameText: () => 0, isNoPage: () => false };
const PROSE = '<p>The colony and the queen and the frame and the forage of the vale.</p>'.repeat(14);

function read(
  body: string,
  rules: Record<string, unknown> = {},
  more: {
    status?: number;
    headers?: Record<string, string>;
    site?: Partial<SiteMemory>;
    page?: Partial<QueuedPage>;
  } = {},
): PageResult {
  const params = CrawlParams.parse({ seeds: ['seed.org'], ...rules });
  const reader = new PageReader(params, new Scope(params, Date.UTC(2026, 10, 20)), () => undefined);
  const headers = { 'content-type': 'text/html', ...more.headers };
  const answer = { status: more.status ?? 200, headers, body: Buffer.from(body), elapsedMs: 1 };
  return reader.read({ ...PAGE, ...more.page }, answer, { ...FRESH, ...more.site });
}
const inside = (result: PageResult) => result.inside.map(({ address }) => address.url.replace('http://seed.org', ''));
const outside = (result: PageResult) =>
  result.outside.map(({ site, unindexed, nofollow }) => [site, unindexed, nofollow]);

const LINKS =
  '<a href="/in">in</a><a href="/no" rel=nofollow>no</a><a href="http://out.org/">out</a><a href="http://blog.seed.org/">blog</a>';

describe('a page', () => {
  it('gives its links inside and outside, subdomains as the rules say', () => {
    expect(inside(read(PROSE + LINKS))).toEqual(['/in', '/no', 'http://blog.seed.org/']);
    const narrow = read(PROSE + LINKS, { subdomains: 'outside' });
    expect(inside(narrow)).toEqual(['/in', '/no']);
    expect(outside(narrow)).toEqual([
      ['out.org', null, false],
      ['seed.org', null, false],
    ]);
  });

  it('follows links marked nofollow, or does not, as asked', () => {
    expect(inside(read(PROSE + LINKS, { nofollow: 'obey' }))).toEqual(['/in', 'http://blog.seed.org/']);
    const whole = `<meta name=robots content=nofollow>${PROSE}${LINKS}`;
    expect(inside(read(whole, { nofollow: 'obey' }))).toEqual([]);
    expect(outside(read(whole))).toEqual([['out.org', null, true]]);
  });

  it('keeps links of noindex pages uncounted, or leaves them, as asked', () => {
    const hidden = `<meta name=robots content=noindex>${PROSE}${LINKS}`;
    expect(outside(read(hidden))).toEqual([['out.org', 'noindex', false]]);
    expect(outside(read(hidden, { noindex: 'obey' }))).toEqual([]);
    expect(inside(read(hidden, { noindex: 'obey' }))).toContain('/in');
    expect(outside(read(PROSE + LINKS, {}, { headers: { 'x-robots-tag': 'noindex' } }))).toEqual([
      ['out.org', 'noindex', false],
    ]);
  });

  it('goes by a canonical, or notes it, as asked', () => {
    const other = `<link rel=canonical href="/real">${PROSE}${LINKS}`;
    expect(outside(read(other))).toEqual([['out.org', 'canonical', false]]);
    const obeyed = read(other, { canonical: 'obey' });
    expect(inside(obeyed)).toEqual(['/real']);
    expect(outside(obeyed)).toEqual([]);
    expect(outside(read(`<link rel=canonical href="/a/">${PROSE}${LINKS}`, { canonical: 'obey' }))).toHaveLength(1);
  });

  it('does not follow the links of a copy, and does not count them', () => {
    const copy = read(PROSE + LINKS, {}, { site: { sameText: () => 1 } });
    expect(inside(copy)).toEqual([]);
    expect(outside(copy)).toEqual([['out.org', 'copy', false]]);
    expect(copy.refused).toMatchObject([{ url: PAGE.url, refused: { trap: 'copies' } }]);
    expect(copy.outcome.kind).toBe('copy');
  });

  it('knows the "not found" page of its site by its text', () => {
    const first = read(PROSE + LINKS);
    const again = read(PROSE + LINKS, {}, { site: { nonsenseMark: first.outcome.mark } });
    expect(again.outcome.kind).toBe('not-found');
    expect(again.refused[0].refused.trap).toBe('not-found');
    expect(outside(again)).toEqual([['out.org', 'not-content', false]]);
  });

  it('reports what the rules kept it from, with the address', () => {
    const result = read(
      `${PROSE}<a href="/calendar/2031-05.html">c</a><a href="/shop?a=1&b=2&c=3">s</a><a href="/x">x</a>`,
      { pathsOut: ['^/x$'] },
    );
    expect(inside(result)).toEqual([]);
    expect(result.refused.map(({ url, refused }) => [url.slice(15), refused.trap])).toEqual([
      ['/calendar/2031-05.html', 'calendar'],
      ['/shop?a=1&b=2&c=3', 'facets'],
      ['/x', null],
    ]);
  });

  it('follows a quick refresh', () => {
    expect(inside(read('<meta http-equiv=refresh content="0;url=/moved"><p>one moment</p>'))).toEqual(['/moved']);
  });

  it('takes a redirect inside for the same page, and one outside for a find', () => {
    const here = read('', {}, { status: 301, headers: { location: '/there' } });
    expect([inside(here), here.isRedirect, here.outcome.note]).toEqual([
      ['/there'],
      true,
      'redirects to http://seed.org/there',
    ]);
    const away = read('', {}, { status: 302, headers: { location: 'http://new.org/' } });
    expect(outside(away)).toEqual([['new.org', null, false]]);
    expect(read('', {}, { status: 302, headers: { location: '/x' }, page: { hops: 5 } }).outcome).toMatchObject({
      state: 'failed',
      note: 'more than 5 redirects in a row',
    });
    expect(read('', {}, { status: 302, headers: {} }).inside).toEqual([]);
  });

  it('skips what is no page and fails on errors', () => {
    expect(read('%PDF', {}, { headers: { 'content-type': 'application/pdf' } }).outcome).toMatchObject({
      state: 'skipped',
      note: 'application/pdf is not read',
    });
    expect(read('gone', {}, { status: 410 }).outcome).toMatchObject({ state: 'failed', status: 410 });
  });

  it('takes a link once, however often it stands there', () => {
    const twice = read(`${PROSE}${LINKS}${LINKS}`);
    expect(twice.outcome.linksOut).toBe(1);
    expect(inside(twice)).toHaveLength(3);
  });
});

describe('a signpost', () => {
  it.each([
    ['<meta http-equiv=refresh content="0; url=/new/">Moved. One moment please.', ['/new/']],
    ['<script>window.location.href = "/new/index.html";</script>Enable JavaScript', ['/new/index.html']],
    ["<script>location.replace('http://seed.org/b/')</script>", ['/b/']],
  ])('leads on, and is no challenge: %s', (body, paths) => {
    const result = read(body);
    expect(result.outcome.kind).toBe('thin');
    expect(inside(result)).toEqual(paths);
  });
  it('that leads outside names a domain', () => {
    const result = read('<meta http-equiv=refresh content="2;url=http://moved-here.org/">');
    expect(outside(result)).toEqual([['moved-here.org', null, false]]);
  });
  it('that leads back to itself is none', () => {
    expect(read('<meta http-equiv=refresh content="5">Checking your browser').outcome.kind).toBe('challenge');
    expect(read('<meta http-equiv=refresh content="5;url=/a/">Checking your browser').outcome.kind).toBe('challenge');
  });
});

describe('what is no page', () => {
  it('is not followed by its ending', () => {
    const result = read(
      '<a href=/a.pdf>a</a><a href=/b.html>b</a><a href=/c.JPG>c</a><a href=/d.txt>d</a><a href=/v1.2>v</a>',
    );
    expect(inside(result)).toEqual(['/b.html', '/d.txt', '/v1.2']);
  });
  it('is not followed where the site showed that such addresses are none', () => {
    const site = { isNoPage: (url: string) => url.endsWith('.txt') };
    const result = read('<a href=/d.txt>d</a><a href=/b.html>b</a>', {}, { site });
    expect(inside(result)).toEqual(['/b.html']);
  });
});
