import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import type { Store } from '../../store/base/database';
import { freshStore } from '../../store/base/testing';
import { countPages, pageTroubles, siteYields, unreadSeeds } from '../../store/crawl/crawl-report';
import { eachLeftOut } from '../../store/crawl/find-causes';
import { trapsOf } from '../../store/crawl/sites';
import { putDomain } from '../../store/domains/domains';
import { readSource } from '../../store/sources/sources';
import { Stopped } from '../runner/context';
import { runCrawl } from './crawl';
import { type Trial, trial } from './testing';

interface Answer {
  status?: number;
  headers?: Record<string, string>;
  body?: string;
}
let store: Store;
let server: Server;
let asked: string[];
let site: (host: string, path: string) => Answer | null;

beforeEach(async () => {
  asked = [];
  server = createServer((request, response) => {
    const host = request.headers.host ?? '';
    asked.push(`${host}${request.url}`);
    const answer = site(host, request.url ?? '/');
    if (!answer) return request.socket.destroy();
    response.writeHead(answer.status ?? 200, { 'content-type': 'text/html', ...answer.headers });
    response.end(answer.body ?? '');
  });
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
  store = await freshStore({ connector: `127.0.0.1:${(server.address() as AddressInfo).port}` });
});
afterEach(() => server.close());

const pages = (map: Record<string, Answer | string>) => (host: string, path: string) => {
  const found = map[`${host}${path}`] ?? (host === 'seed.org' ? map[path] : undefined);
  if (found === undefined) return { status: 404 };
  return typeof found === 'string' ? { body: found } : found;
};
const PARAMS = { seeds: ['seed.org'], depth: 4, pageBudget: 1000, checkAfter: false, retryMs: 5 };
async function crawl(params: Record<string, unknown> = {}): Promise<Trial> {
  const run = trial(store, 'crawl', { ...PARAMS, ...params });
  await runCrawl(run.context);
  return run;
}
const read = (run: Trial) =>
  store.raw
    .prepare("SELECT url FROM pages WHERE source_id = ? AND state = 'done' ORDER BY url")
    .pluck()
    .all(run.sourceId);
const found = (run: Trial) =>
  store.raw
    .prepare('SELECT d.name FROM sightings s JOIN domains d ON d.id = s.domain_id WHERE s.source_id = ? ORDER BY 1')
    .pluck()
    .all(run.sourceId);
const links = (run: Trial) =>
  store.raw.prepare('SELECT * FROM links WHERE source_id = ? ORDER BY from_url, to_url').all(run.sourceId);

describe('a crawl', () => {
  it('collects outside domains with page, anchor and rel', async () => {
    site = pages({
      '/': '<title>Home</title><a href="/a.html">a</a><a href="http://www.lapsed.co.uk/x" rel=nofollow>Old friends</a><a href="mailto:x">m</a>',
      '/a.html':
        '<meta name=robots content=noindex><a href="//other.org/">Other</a><a href="http://seed.org/">home</a>',
    });
    const run = await crawl();
    expect(found(run)).toEqual(['lapsed.co.uk', 'other.org']);
    expect(links(run)).toMatchObject([
      {
        from_url: 'http://seed.org/',
        to_url: 'http://www.lapsed.co.uk/x',
        anchor: 'Old friends',
        nofollow: 1,
        indexable: 1,
      },
      { from_url: 'http://seed.org/a.html', to_url: 'http://other.org/', anchor: 'Other', nofollow: 0, indexable: 0 },
    ]);
    expect(run.changed.size).toBe(2);
    expect(readSource(store, run.sourceId)).toMatchObject({ rows_read: 2, rows_taken: 2, domains_new: 2 });
  });

  it('keeps links from pages that name another as their canonical, but does not count them', async () => {
    site = pages({
      '/': '<link rel=canonical href=/><a href=/copy>c</a><a href=http://one.org/>1</a>',
      '/copy': '<link rel=canonical href=/><a href=http://two.org/>2</a>',
    });
    const run = await crawl();
    expect(links(run)).toMatchObject([
      { to_url: 'http://one.org/', indexable: 1 },
      { to_url: 'http://two.org/', indexable: 0 },
    ]);
  });

  it('goes as deep as it was told', async () => {
    site = pages({ '/': '<a href=/1>', '/1': '<a href=/2>', '/2': '<a href=/3>', '/3': '<a href=http://deep.org/>' });
    expect(read(await crawl({ depth: 0 }))).toEqual(['http://seed.org/']);
    expect(read(await crawl({ depth: 2 }))).toHaveLength(3);
    expect(found(await crawl({ depth: 3 }))).toEqual(['deep.org']);
  });

  it('goes as deep as there are pages when no depth is set, and to twenty', async () => {
    site = (host, path) =>
      host !== 'seed.org'
        ? null
        : { body: `<a href=/${Number(path.slice(1) || 0) + 1}>on</a><a href=http://deep${path.slice(1)}.org/>` };
    expect(read(await crawl({ depth: null, pageBudget: 40 }))).toHaveLength(40);
    expect(read(await crawl({ depth: 20, pageBudget: 40 }))).toHaveLength(21);
  });

  it('asks for two files of a kind at most that are no pages, and counts them in its budget', async () => {
    site = (host, path) => {
      if (host !== 'seed.org') return null;
      if (path.endsWith('.txt')) return { headers: { 'content-type': 'text/plain' }, body: 'notes' };
      return {
        body:
          path === '/'
            ? Array.from({ length: 50 }, (_, n) => `<a href=/${n}.txt>t</a><a href=/${n}.html>p</a>`).join('')
            : 'p',
      };
    };
    const run = await crawl({ depth: 1 });
    expect(read(run)).toHaveLength(51);
    expect(asked.filter((one) => /\d\.txt$/.test(one)).length).toBeLessThanOrEqual(2);
    const skipped = pageTroubles(store, run.sourceId);
    expect(skipped.reduce((sum, { pages: many }) => sum + many, 0)).toBe(50);
    asked = [];
    const small = await crawl({ depth: 1, pageBudget: 10 });
    // robots.txt and the probe of the site stand beside the budget
    expect(asked.length).toBeLessThanOrEqual(12);
    expect(countPages(store, small.sourceId).done).toBeGreaterThan(6);
  });

  it('says which seeds were not read, and why', async () => {
    site = (host, path) => {
      if (host === 'shy.org') return { body: path === '/robots.txt' ? 'User-agent: *\nDisallow: /' : 'secret' };
      if (host === 'silent.org') return null;
      if (host === 'file.org' && path === '/') return { headers: { 'content-type': 'application/pdf' }, body: '%PDF' };
      return path === '/robots.txt' ? { status: 404 } : { body: 'fine' };
    };
    const run = await crawl({ seeds: ['seed.org', 'shy.org', 'silent.org', 'file.org'] });
    expect(unreadSeeds(store, run.sourceId).map(({ site: name, cause }) => [name, cause])).toEqual([
      ['file.org', 'type'],
      ['shy.org', 'robots'],
      ['silent.org', 'connection'],
    ]);
    expect(countPages(store, run.sourceId).done).toBe(1);
  });

  it('counts the links of a site under a bare address as links from that address', async () => {
    site = (host) => (host === '192.0.2.7' ? { body: '<a href=http://old.org/>old</a>' } : { status: 404 });
    const run = await crawl({ seeds: ['http://192.0.2.7/'] });
    expect(found(run)).toEqual(['old.org']);
    const from = store.raw
      .prepare('SELECT d.name, d.ending, d.in_pool FROM links l JOIN domains d ON d.id = l.from_id')
      .all();
    expect(from).toEqual([{ name: '192.0.2.7', ending: '', in_pool: 0 }]);
  });

  it('keeps to its page budget and says what was left', async () => {
    site = (_host, path) => ({ body: Array.from({ length: 20 }, (_, i) => `<a href="${path}${i}/">x</a>`).join('') });
    const run = await crawl({ pageBudget: 15 });
    expect(countPages(store, run.sourceId).done).toBe(15);
    expect(run.progress.at(-1)?.message).toContain('the page budget is used up');
  });

  it('obeys robots.txt', async () => {
    site = pages({
      '/robots.txt': { headers: { 'content-type': 'text/plain' }, body: 'User-agent: *\nDisallow: /private/' },
      '/': '<a href=/private/a>p</a><a href=/open>o</a>',
      '/open': 'x',
    });
    const run = await crawl();
    expect(asked).not.toContain('seed.org/private/a');
    expect(pageTroubles(store, run.sourceId)).toMatchObject([
      { state: 'skipped', note: 'robots.txt forbids it', pages: 1 },
    ]);
  });

  it('notes robots.txt and reads all the same, when asked to', async () => {
    site = pages({
      '/robots.txt': { headers: { 'content-type': 'text/plain' }, body: 'User-agent: *\nDisallow: /private/' },
      '/': '<a href=/private/a>p</a>',
      '/private/a': '<a href=http://hidden.org/>h</a>',
    });
    expect(found(await crawl({ robots: 'note' }))).toEqual(['hidden.org']);
    expect(asked).not.toContain('seed.org/robots.txt');
  });

  it('reads the page only of a seed that asks for no more', async () => {
    site = pages({ '/': '<a href=/more>', 'paper.org/once': '<a href=http://one.org/><a href=/other>', '/more': '' });
    const run = await crawl({ seeds: ['seed.org', { address: 'http://paper.org/once', depth: 0 }] });
    expect(read(run)).toEqual(['http://paper.org/once', 'http://seed.org/', 'http://seed.org/more']);
  });

  it('sets aside what everyone links to, and asks no server twice in a few days', async () => {
    site = pages({ '/': '<a href=http://maps.org/>m</a><a href=http://known-free.org/>k</a>' });
    const at = store.now();
    const put = (name: string) => putDomain(store, { name, ending: 'org' }, false, at).id;
    store.raw.prepare('UPDATE domains SET referring_domains = 5000 WHERE id = ?').run(put('maps.org'));
    store.raw.prepare("UPDATE domains SET phase = 'free', phase_at = ? WHERE id = ?").run(at, put('known-free.org'));
    const run = await crawl({ checkAfter: true });
    expect([...eachLeftOut(store, run.sourceId)]).toEqual([{ name: 'maps.org', causes: ['shared'] }]);
    expect(store.raw.prepare('SELECT count(*) FROM checks').pluck().get()).toBe(0);
    // a lapsed domain that was known is a find of the page all the same
    expect(store.raw.prepare("SELECT finds FROM pages WHERE url = 'http://seed.org/'").pluck().get()).toBe(1);
  });

  it('keeps with each find the page, the words of the link, and those around it', async () => {
    site = pages({ '/': '<p>Long ago the club at <a href="http://old-club.org/">Ossenmere</a> wrote of swarms.</p>' });
    const run = await crawl();
    const said = store.raw.prepare('SELECT said FROM sightings WHERE source_id = ?').pluck().get(run.sourceId);
    expect(JSON.parse(said as string)).toMatchObject({
      url: 'http://seed.org/',
      anchor: 'Ossenmere',
      before: 'Long ago the club at',
      after: 'wrote of swarms.',
      target: 'http://old-club.org/',
    });
  });

  it('tells pages that answer 200 and are not there, when the site says so to everything', async () => {
    const nothing =
      '<title>Sorry</title><p>We have looked everywhere and there is nothing of that sort with us, truly.</p>';
    site = pages({
      '/': `<a href=/gone>g</a>${'<p>words of the home page</p>'.repeat(30)}`,
      '/gone': nothing,
      '/no-such-page-is-here-jl7f3q.html': nothing,
    });
    const run = await crawl();
    expect(
      store.raw.prepare("SELECT kind FROM pages WHERE source_id = ? AND url LIKE '%/gone'").pluck().get(run.sourceId),
    ).toBe('not-found');
    expect(trapsOf(store, run.sourceId)).toMatchObject([
      { kind: 'not-found', addresses: 1, example: 'http://seed.org/gone' },
    ]);
  });

  it('leaves a site that shows a door alone, and says that it blocks', async () => {
    site = (_host, path) =>
      path === '/robots.txt' || path.startsWith('/no-such')
        ? { status: 404 }
        : {
            body: `<p>Are you a person? ${path}</p>${Array.from({ length: 30 }, (_, i) => `<a href="/p${i}">x</a>`).join('')}`,
          };
    const run = await crawl();
    const [row] = siteYields(store, run.sourceId);
    expect(row).toMatchObject({ state: 'blocking', note: expect.stringContaining('a door instead of its pages') });
    expect(row.pages).toBeLessThan(15);
  });

  it('reads nothing from a host whose robots.txt fails', async () => {
    site = pages({ '/robots.txt': { status: 503 }, '/': 'x' });
    expect(read(await crawl())).toEqual([]);
  });

  it('leaves out excluded endings and counts them', async () => {
    site = pages({ '/': '<a href=http://a.edu/><a href=http://b.ac.uk/><a href=http://c.org/>' });
    const run = await crawl({ excludedEndings: ['edu', 'uk'] });
    expect(found(run)).toEqual(['c.org']);
    expect(readSource(store, run.sourceId)!.rows_excluded).toBe(2);
  });

  it('follows redirects inside, ends loops, and takes a redirect outside for a find', async () => {
    site = pages({
      '/': '<a href=/moved>m</a><a href=/loop>l</a><a href=/away>a</a>',
      '/moved': { status: 301, headers: { location: '/here' } },
      '/here': '<a href=http://behind.org/>b</a>',
      '/loop': { status: 302, headers: { location: '/loop2' } },
      '/loop2': { status: 302, headers: { location: '/loop' } },
      '/away': { status: 301, headers: { location: 'http://away.org/' } },
    });
    expect(found(await crawl())).toEqual(['away.org', 'behind.org']);
  });

  it('gives up a redirect chain that never ends', async () => {
    site = (_host, path) =>
      path === '/robots.txt' ? { status: 404 } : { status: 302, headers: { location: `/${asked.length}` } };
    const run = await crawl();
    expect(pageTroubles(store, run.sourceId)).toMatchObject([{ note: 'more than 5 redirects in a row' }]);
  });

  it('decodes by the bytes when the header lies', async () => {
    site = pages({ '/': { headers: { 'content-type': 'text/html; charset=utf-8' }, body: '' } });
    const real = createServer((_request, response) => {
      response.writeHead(200, { 'content-type': 'text/html; charset=utf-8' });
      response.end(Buffer.from('<title>café</title><a href=http://b.org/>naïve</a>', 'latin1'));
    });
    await new Promise<void>((done) => real.listen(0, '127.0.0.1', done));
    store.config.connector = `127.0.0.1:${(real.address() as AddressInfo).port}`;
    const run = await crawl();
    real.close();
    expect(links(run)).toMatchObject([{ anchor: 'naïve' }]);
    expect(store.raw.prepare('SELECT title, charset FROM pages').get()).toEqual({
      title: 'café',
      charset: 'windows-1252',
    });
  });

  it('says why a seed could not be read', async () => {
    store.config.connector = null;
    const run = await crawl({ seeds: ['http://127.0.0.1:9/', 'http://no-such-name.invalid/', 'http://10.0.0.1/'] });
    const notes = pageTroubles(store, run.sourceId).map(({ note }) => note);
    expect(notes.join('\n')).toContain('127.0.0.1:9 refuses connections');
    expect(notes.join('\n')).toContain('no-such-name.invalid resolves to nothing');
    expect(notes.join('\n')).toContain('10.0.0.1 is a private address');
  });

  it('asks one host one thing at a time, and waits between', async () => {
    let busy = 0;
    let most = 0;
    const times: number[] = [];
    server.removeAllListeners('request');
    server.on('request', (request, response) => {
      if (request.url === '/robots.txt') return response.writeHead(404).end();
      times.push(performance.now());
      most = Math.max(most, ++busy);
      setTimeout(() => {
        busy--;
        response.writeHead(200, { 'content-type': 'text/html' });
        response.end(request.url === '/' ? [1, 2, 3, 4].map((i) => `<a href=/${i}>x</a>`).join('') : '');
      }, 15);
    });
    await crawl({ delayMs: 60 });
    expect(most).toBe(1);
    for (let i = 1; i < times.length; i++) expect(times[i] - times[i - 1]).toBeGreaterThan(50);
  });

  it('goes on after a stop and ends like one that was not stopped', async () => {
    site = (host, path) => {
      const n = Number(path.slice(2)) || 0;
      const inside = Array.from({ length: 4 }, (_, i) => `<a href="/p${(n * 4 + i + 1) % 150}">x</a>`).join('');
      return path === '/robots.txt' ? { status: 404 } : { body: `${inside}<a href="http://out${n}-${host}/">o</a>` };
    };
    const seeds = ['seed.org', 'b-seed.org', 'c-seed.org'];
    const whole = await crawl({ seeds });
    const first = trial(store, 'crawl', { ...PARAMS, seeds });
    setTimeout(() => first.stop.abort(), 60);
    await expect(runCrawl(first.context)).rejects.toThrow(Stopped);
    expect(countPages(store, first.sourceId).queued).toBeGreaterThan(0);
    await runCrawl(trial(store, 'crawl', {}, first).context);
    expect(read(first)).toEqual(read(whole));
    expect(found(first)).toEqual(found(whole));
    const bare = (run: Trial) =>
      links(run).map((link) => ({ ...(link as object), source_id: 0, seq: 0, last_seen_at: 0 }));
    expect(bare(first)).toEqual(bare(whole));
    const { id: _, name: __, created_at: ___, domains_new: ____, ...counts } = readSource(store, whole.sourceId)!;
    expect(readSource(store, first.sourceId)).toMatchObject(counts);
  });
});
