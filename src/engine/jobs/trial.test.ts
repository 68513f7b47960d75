import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { TrialReport } from '../../core/crawl/trial-report';
import type { Store } from '../../store/base/database';
import { jobRows } from '../../store/base/jobs';
import { freshStore } from '../../store/base/testing';
import { trial } from './testing';
import { runTrial } from './trial';

const CHAPTERS = 40;
const WORDS = 'frames wax queens smoke gloves winter feeding swarms honey mites records supers brood drones'.split(' ');
let server: Server;
let store: Store;
let origin: string;

/** A manual in one folder: each chapter names a domain of its own, and one page of links names thirty. */
function page(path: string): string | null {
  const chapter = /^\/chapter-([a-z]+)\.html$/.exec(path)?.[1];
  if (chapter) {
    const text = WORDS.filter(
      (_, n) => ((chapter.charCodeAt(0) * 7 + chapter.charCodeAt(1) * 13) >> (n % 7)) % 2 === 0,
    );
    return `<p>${chapter} ${text.join(` ${chapter} `)} <a href="http://${chapter}-hives.org/">more</a>.`;
  }
  if (path === '/links.html')
    return Array.from({ length: 30 }, (_, n) => `<a href="http://friend${n}.org/">a friend</a>`).join(' ');
  if (path !== '/') return null;
  const chapters = Array.from({ length: CHAPTERS }, (_, n) => `chapter-${'abcdefgh'[n % 8]}${'ijklm'[n % 5]}.html`);
  return ['links.html', ...chapters, 'gone.html', 'http://127.0.0.1:9/']
    .map((href) => `<a href="${href}">${href}</a>`)
    .join(' ');
}

beforeAll(async () => {
  server = createServer(({ url = '/' }, response) => {
    const html = page(url);
    response.writeHead(html === null ? 404 : 200, { 'content-type': 'text/html' });
    response.end(`<title>${url}</title>${html ?? 'not here'}`);
  });
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
  origin = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  // real mode: what is named is asked for where it is
  store = await freshStore();
});
afterAll(async () => {
  server.close();
  await store.close();
});

describe('a trial', () => {
  it('says what a site gives although a host that it names does not answer, and counts its page of links once', async () => {
    const { context } = trial(store, 'trial', { seeds: [`${origin}/`], delayMs: 0 });
    await runTrial(context);
    const [report] = jobRows(store, context.job.id, TrialReport);
    expect(report).toMatchObject({ works: true, reason: null });
    expect(report.pages).toBe(31);
    expect(report.names).toContain('friend29.org');
    // the links and a domain for each chapter; the chapters are not taken to be pages of links
    const { domains } = report.forecasts[1];
    expect(domains.low).toBeLessThanOrEqual(30 + CHAPTERS);
    expect(domains.high).toBeGreaterThanOrEqual(30 + CHAPTERS);
    expect(domains.high).toBeLessThan(300);
  });
});
