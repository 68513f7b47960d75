import { beforeEach, describe, expect, it } from 'vitest';
import type { Store } from '../../store/base/database';
import { write } from '../../store/base/database';
import { freshStore } from '../../store/base/testing';
import { savePage } from '../../store/crawl/crawl';
import { Frontier } from './frontier';
import { NO_OUTCOME } from './page-reader';
import { Connectivity, Marks } from './sites';

let store: Store;
beforeEach(async () => {
  store = await freshStore();
});

const SITE = 'seed.org';
function push(
  frontier: Frontier,
  paths: string[],
  more: { depth?: number; anchor?: string; site?: string; isBeyond?: boolean } = {},
): number[] {
  const site = more.site ?? SITE;
  const change = frontier.beginChange();
  const ids = write(store, () =>
    paths.map((path) =>
      frontier.push(
        { url: `http://${site}${path}`, host: site, site },
        more.anchor ?? '',
        { depth: more.depth ?? 1, hops: 0, viaClass: 0, isBeyond: more.isBeyond ?? false },
        change,
      ),
    ),
  );
  frontier.apply(change);
  return ids;
}
function takeAll(frontier: Frontier, site = SITE): string[] {
  const urls: string[] = [];
  for (;;) {
    const page = frontier.take(site);
    if (page === 'none' || page === 'later') return urls;
    urls.push(page.url.replace(`http://${site}`, ''));
  }
}

describe('the frontier', () => {
  it('hands out the class that promises most, the shallowest page of it first', () => {
    const frontier = new Frontier(store, 1, 'expected');
    push(frontier, ['/notes/1', '/notes/2']);
    push(frontier, ['/links/9'], { depth: 3 });
    push(frontier, ['/links/8'], { depth: 2 });
    expect(takeAll(frontier)).toEqual(['/links/8', '/links/9', '/notes/1', '/notes/2']);
  });

  it('goes breadth-first when asked to', () => {
    const frontier = new Frontier(store, 1, 'breadth-first');
    push(frontier, ['/notes/1'], { depth: 2 });
    push(frontier, ['/links/8'], { depth: 3 });
    push(frontier, ['/a'], { depth: 1 });
    expect(takeAll(frontier)).toEqual(['/a', '/notes/1', '/links/8']);
  });

  it('knows an address once, and keeps those that are too deep out of the queue', () => {
    const frontier = new Frontier(store, 1, 'expected');
    const [one] = push(frontier, ['/a']);
    expect(push(frontier, ['/a', '/b'])[0]).toBe(one);
    push(frontier, ['/deep'], { isBeyond: true });
    expect(frontier.size).toBe(2);
    expect(takeAll(frontier).sort()).toEqual(['/a', '/b']);
  });

  it('learns where finds are, and leaves the rest when the budget is short', () => {
    const frontier = new Frontier(store, 1, 'expected');
    const many = (name: string) => Array.from({ length: 40 }, (_, i) => `/${name}/${i}`);
    push(frontier, many('dry'));
    push(frontier, many('rich'));
    for (let i = 0; i < 24; i++) {
      const page = frontier.take(SITE);
      if (typeof page === 'string') throw new Error(page);
      write(store, () => {
        savePage(store, page.id, 1, { ...NO_OUTCOME, state: 'done', note: null });
        frontier.countRead(page);
        if (page.url.includes('rich'))
          for (let n = 0; n < 3; n++) {
            frontier.writeFind(page.id, page.classId, page.viaClass);
            frontier.noteFind(page.classId, page.viaClass);
          }
      });
      frontier.settled(page, true);
    }
    const next = frontier.take(SITE);
    expect(typeof next === 'string' ? next : next.url).toContain('/rich/');
    // the budget reaches the rich ones only
    frontier.setReading(SITE, true);
    frontier.weigh(3);
    const taken = takeAll(frontier);
    expect(taken.length).toBeGreaterThan(3);
    expect(taken.every((url) => url.includes('/rich/'))).toBe(true);
    expect(frontier.take(SITE)).toBe('later');
    frontier.weigh(10_000);
    expect(takeAll(frontier).every((url) => url.includes('/dry/'))).toBe(true);
  });

  it('lets nobody wait for a site that is not being read', () => {
    const frontier = new Frontier(store, 1, 'expected');
    push(
      frontier,
      Array.from({ length: 50 }, (_, i) => `/links/${i}`),
      { site: 'down.org' },
    );
    push(frontier, ['/notes/1', '/notes/2']);
    for (const site of ['down.org', SITE]) frontier.setReading(site, true);
    frontier.weigh(10);
    const waits = frontier.take(SITE);
    frontier.setReading('down.org', false);
    frontier.weigh(10);
    expect([waits, takeAll(frontier)]).toEqual(['later', ['/notes/1', '/notes/2']]);
  });

  it('is the same after a restart, and gives pages again that were not written', () => {
    const first = new Frontier(store, 1, 'expected');
    push(first, ['/notes/1', '/notes/2', '/links/1']);
    const page = first.take(SITE);
    if (typeof page === 'string') throw new Error(page);
    write(store, () => {
      savePage(store, page.id, 1, { ...NO_OUTCOME, state: 'done', note: null });
      first.countRead(page);
      first.writeFind(page.id, page.classId, 0);
    });
    first.take(SITE); // in flight when the process ends
    const second = new Frontier(store, 1, 'expected');
    expect(second.size).toBe(2);
    expect(second.model.get(page.classId)).toMatchObject({ pages: 1, gave: 1 });
    expect(takeAll(second)).toEqual(['/notes/1', '/notes/2']);
  });

  it('counts right after a transaction that was undone', () => {
    const frontier = new Frontier(store, 1, 'expected');
    push(frontier, ['/a']);
    expect(() =>
      write(store, () => {
        const change = frontier.beginChange();
        frontier.push(
          { url: 'http://seed.org/new/1', host: SITE, site: SITE },
          '',
          { depth: 1, hops: 0, viaClass: 0, isBeyond: false },
          change,
        );
        throw new Error('disk');
      }),
    ).toThrow('disk');
    frontier.load();
    expect(frontier.size).toBe(1);
    push(frontier, ['/new/1']);
    expect(takeAll(frontier).sort()).toEqual(['/a', '/new/1']);
  });

  it('puts a page back, and keeps sites and crawls apart', () => {
    const frontier = new Frontier(store, 1, 'expected');
    push(frontier, ['/a']);
    push(frontier, ['/a'], { site: 'other.org' });
    push(new Frontier(store, 2, 'expected'), ['/a', '/b']);
    const page = frontier.take(SITE);
    if (typeof page === 'string') throw new Error(page);
    expect(frontier.waitingAt(SITE)).toBe(0);
    frontier.putBack(page);
    expect(takeAll(frontier)).toEqual(['/a']);
    expect(takeAll(frontier, 'other.org')).toEqual(['/a']);
    expect(frontier.take('never.org')).toBe('none');
  });

  it('shares one class when a site has shapes without end', () => {
    const frontier = new Frontier(store, 1, 'expected');
    const letters = (n: number) => n.toString(26).replace(/\d/g, (digit) => 'qrstuvwxyz'[Number(digit)]);
    push(
      frontier,
      Array.from({ length: 600 }, (_, i) => `/${letters(i)}/x`),
    );
    const classes = store.raw.prepare('SELECT count(*) FROM crawl_classes').pluck().get() as number;
    expect(classes).toBeLessThanOrEqual(402);
    expect(takeAll(frontier)).toHaveLength(600);
  });
});

describe('connectivity', () => {
  it('takes failures all over for a cut, and failures of one site for its own', () => {
    const all = new Connectivity(() => 5);
    for (let i = 0; i < 20; i++) all.failedAt('a.org');
    expect(all.isCut).toBe(false);
    for (const site of ['b.org', 'c.org']) all.failedAt(site);
    expect(all.isCut).toBe(true);
    all.answered();
    expect(all.isCut).toBe(false);
    const alone = new Connectivity(() => 1);
    for (let i = 0; i < 20; i++) alone.failedAt('a.org');
    expect(alone.isCut).toBe(false);
  });
});

describe('marks', () => {
  it('count a text by site', () => {
    const marks = new Marks();
    marks.add('a.org', 7);
    marks.add('a.org', 7, 2);
    expect([marks.count('a.org', 7), marks.count('b.org', 7), marks.count('a.org', 8)]).toEqual([3, 0, 0]);
  });
});
