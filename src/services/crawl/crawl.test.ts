import { beforeEach, describe, expect, it } from 'vitest';
import { type Store, write } from '../../store/base/database';
import { addJob, putJobRow, saveProgress } from '../../store/base/jobs';
import { freshStore } from '../../store/base/testing';
import { type PageOutcome, putClass, queuePage, savePage } from '../../store/crawl/crawl';
import { putSite, putTrap } from '../../store/crawl/sites';
import { addSource } from '../../store/sources/sources';
import { domainOfTest, linkOfTest } from '../../store/testing';
import { crawlView } from './crawl-view';
import { pageCheckView } from './page-check';

let store: Store;
beforeEach(async () => {
  store = await freshStore();
});

const SITE = 'tarnhives.org';
const page = (source: number, path: string) => {
  const classId = putClass(store, source, SITE, { shape: '/', word: 'home', cue: 'plain' });
  const address = { url: `https://${SITE}${path}`, site: SITE, host: SITE };
  return queuePage(store, source, { address, depth: 0, hops: 0, classId, viaClass: 0, state: 'queued' }).id;
};
const READ: PageOutcome = {
  state: 'done', status: 200, contentType: 'text/html', charset: 'utf-8', title: 'Hives', noindex: false, nofollow: false, canonical: null,
  note: null, cause: null, bytes: 900, linksOut: 4, kind: 'content', mark: null, letters: 400, readers: null, contact: null,
}; // biome-ignore format: one page

describe('a crawl', () => {
  it('is shown with its last job, its pages and what it did not follow', () => {
    const source = addSource(store, 'crawl', 'Bee clubs', {});
    addJob(store, { kind: 'crawl', sourceId: source, params: { seeds: ['https://tarnhives.org/'], pageBudget: 10 } });
    const job = addJob(store, {
      kind: 'crawl',
      sourceId: source,
      params: { seeds: ['https://tarnhives.org/', 'https://ossenmere.org/'], pageBudget: 500 },
    });
    write(store, () => {
      putSite(store, source, 'tarnhives.org', 'https://tarnhives.org/', 0);
      savePage(store, page(source, '/'), store.now(), READ);
      savePage(store, page(source, '/old'), store.now(), { ...READ, state: 'failed', status: 500, note: 'status 500' });
      page(source, '/later');
      const endless = { trap: 'calendar', reason: 'a calendar without an end' } as const;
      putTrap(store, source, SITE, endless, 'https://tarnhives.org/2031');
    });
    const view = crawlView(store, source);
    expect(view).toMatchObject({
      seeds: 2,
      budgets: { pageBudget: 500 },
      job: { id: job, kind: 'crawl', state: 'queued' },
    });
    expect(view?.counts).toMatchObject({ done: 1, failed: 1, queued: 1 });
    expect(view?.sites).toMatchObject([{ site: 'tarnhives.org' }]);
    expect(view?.traps).toMatchObject([{ site: 'tarnhives.org', reason: 'a calendar without an end' }]);
    expect(view?.troubles).toMatchObject([{ pages: 1 }]);
  });

  it('is none where the source is a list, or is not there', () => {
    expect(crawlView(store, addSource(store, 'list', 'A drop list', {}))).toBeNull();
    expect(crawlView(store, 4711)).toBeNull();
  });
});

describe('one page that is looked at', () => {
  const LINK = { anchor: 'bees', nofollow: false, before: '', after: '', status: null, detail: '', asked: 1 };
  const row = (job: number, seq: number, of: object) => write(store, () => putJobRow(store, job, seq, of));

  it('grows with the looks at its links, and says what is known of dead ones', () => {
    const job = addJob(store, { kind: 'page', sourceId: null, params: { url: 'https://ossenmere.org/links' } });
    expect(pageCheckView(store, job)).toMatchObject({ head: null, links: [] });
    domainOfTest(store, 'tarnhives.org', { phase: 'free', phase_at: store.now() });
    linkOfTest(store, 'quillmere.org', 'tarnhives.org', { toUrl: 'https://tarnhives.org/hives' });
    linkOfTest(store, 'wexcombe.org', 'tarnhives.org', { toUrl: 'https://tarnhives.org/honey' });
    row(job, 0, {
      head: { url: 'https://ossenmere.org/links', title: 'Links', contact: null, readers: null, inside: 3 },
    });
    row(job, 1, {
      link: { ...LINK, url: 'https://tarnhives.org/hives', domain: 'tarnhives.org', state: 'dead', gone: 'domain' },
    });
    row(job, 2, {
      link: { ...LINK, url: 'https://wexcombe.org/', domain: 'wexcombe.org', state: 'working', gone: null },
    });
    saveProgress(store, job, { done: 2, total: 2, unit: 'links', rate: 1, message: '' });
    const view = pageCheckView(store, job);
    expect(view?.head).toMatchObject({ title: 'Links' });
    expect(view?.job.progress).toMatchObject({ done: 2 });
    expect(view?.links).toMatchObject([
      { url: 'https://tarnhives.org/hives', phase: 'free', known: { toPage: 1, toDomain: 2 } },
      { url: 'https://wexcombe.org/', phase: null, known: null },
    ]);
  });

  it('is none where the job is another', () => {
    expect(pageCheckView(store, addJob(store, { kind: 'crawl', sourceId: null, params: {} }))).toBeNull();
    expect(pageCheckView(store, 4711)).toBeNull();
  });
});
