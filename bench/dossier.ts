import { outlinePage } from '../src/core/history/outline';
import { summarizeCaptures } from '../src/core/history/past';
import { openStore, type Store, write } from '../src/store/base/database';
import { putCapture, putCapturePage, putCaptureTimes, type StoredCapture } from '../src/store/links/captures';
import { putInspection } from '../src/store/links/inspections';
import { putLink } from '../src/store/links/links';
import { addSource } from '../src/store/sources/sources';
import { type Bench, numbers, round, sized } from './figure';
import { forget, largePool, startProduct, untilQuiet } from './large-pool';

const DOMAINS = sized('BENCH_DOSSIERS', 400, 30);
const SITES = sized('BENCH_DOSSIER_SITES', 20_000, 1000);
const MOST_REFERRERS = SITES / 5;
/** One domain has so many, beside those that are opened. */
const MANY = 2 * SITES;
const DAY = 86_400_000;

/** Opening dossiers of a pool of millions: the page as the server gives it, and the same as JSON, one after another. */
export const dossier: Bench = async (log) => {
  log('filling the database');
  const folder = await largePool();
  try {
    const store = await openStore(folder, { migrate: true });
    const { names, many } = measureSome(store);
    await store.close();
    log('starting the product');
    const product = await startProduct(folder);
    try {
      await untilQuiet(folder);
      const open = (path: string) => timed(`${product.url}${path}`, product.headers);
      for (const name of names.slice(0, 40)) await open(`/domains/${name}`);
      log(`opening ${names.length} dossiers`);
      const empty: number[] = [];
      const pages: number[] = [];
      const json: number[] = [];
      for (const [n, name] of names.entries()) {
        pages.push(await open(`/domains/${name}`));
        json.push(await open(`/api/v1/domains/${name}`));
        empty.push(await open(`/domains/nobody-knows-${n}.org`));
      }
      const first = await open(`/domains/${many}`);
      const again = await open(`/domains/${many}`);
      const sorted = await open(`/api/v1/domains/${many}/tables/referrers?sort=since&order=down&filter=honey`);
      const base = p95(empty);
      const page = p95(pages);
      return [
        { name: 'dossier', value: round(page), unit: 'ms p95 of the page, links and captures of each other one measured', baseline: round(base), ratio: round(page / base, 2), goal: 'at most 100 ms; baseline: a page with nothing on it', met: page <= 100 },
        { name: 'dossier-middle', value: round(median(pages)), unit: 'ms, half of the pages are quicker', baseline: round(median(empty)), ratio: round(median(pages) / median(empty), 2), goal: 'none', met: true },
        { name: 'dossier-json', value: round(p95(json)), unit: 'ms p95 as JSON', baseline: null, ratio: null, goal: 'at most 100 ms', met: p95(json) <= 100 },
        { name: 'dossier-40000', value: round(first), unit: `ms, the first opening of one with ${MANY.toLocaleString('en')} referrers`, baseline: round(again), ratio: round(first / again, 1), goal: 'none; baseline: opened again', met: true },
        { name: 'dossier-40000-table', value: round(sorted), unit: 'ms to search and sort its referrers', baseline: null, ratio: null, goal: 'none', met: true },
      ]; // biome-ignore format: a figure a line
    } finally {
      await product.stop();
    }
  } finally {
    forget(folder);
  }
};

async function timed(url: string, headers: Record<string, string>): Promise<number> {
  const started = performance.now();
  const answer = await fetch(url, { headers });
  await answer.text();
  if (answer.status >= 400 && !url.includes('nobody-knows')) throw new Error(`${url} answered ${answer.status}`);
  return performance.now() - started;
}

const at = (values: number[], share: number) =>
  values.toSorted((a, b) => a - b)[Math.min(values.length - 1, Math.floor(values.length * share))];
const p95 = (values: number[]) => at(values, 0.95);
const median = (values: number[]) => at(values, 0.5);

/** Gives some domains spread over the pool all a dossier can show: links in a heavy-tailed number, captures with pages, what is reckoned of them. */
export function measureSome(store: Store): { names: string[]; many: string } {
  const random = numbers(21);
  const index = addSource(store, 'links', 'A large index', {});
  const last = store.raw.prepare('SELECT max(id) FROM domains').pluck().get() as number;
  const nameOf = store.raw.prepare('SELECT name FROM domains WHERE id = ?').pluck();
  const now = store.now();
  const step = Math.floor(last / (DOMAINS + 1));
  const site = store.raw.prepare(
    `INSERT INTO domains (name, ending, length, hyphens, digits, in_pool, added_at, strength, trust)
     VALUES (?, 'org', 12, 0, 4, 0, ?, ?, ?)`,
  );
  const names: string[] = [];
  let seq = 0;
  write(store, () => {
    const sites = Array.from({ length: SITES + MANY }, (_, n) =>
      Number(site.run(`linkingsite${n}.org`, now, 60 * random() ** 3, 40 * random() ** 3).lastInsertRowid),
    );
    const link = (toId: number, name: string, fromId: number) =>
      putLink(store, {
        toId,
        sourceId: index,
        seq: ++seq,
        fromId,
        fromUrl: `http://linkingsite${fromId}.org/links/${seq % 7}.html`,
        toUrl: `http://${name}/${seq % 5 === 0 ? 'guide.html' : ''}`,
        anchor: `${['honey', 'the bee club', name, 'click here'][seq % 4]} ${seq % 9}`,
        nofollow: seq % 11 === 0,
        indexable: true,
        firstSeenAt: now - Math.floor(random() * 4000) * DAY,
        lastSeenAt: now,
      });
    for (let n = 1; n <= DOMAINS; n++) {
      const id = n * step;
      const name = nameOf.get(id) as string;
      names.push(name);
      if (n % 2 === 0) continue;
      const referrers = Math.min(MOST_REFERRERS, Math.floor(10 / (1 - random())));
      const from = Math.floor(random() * (SITES - referrers));
      for (let k = 0; k < referrers; k++) link(id, name, sites[from + k]);
      keepPast(store, id, name, now, referrers);
    }
    const many = last;
    for (let k = 0; k < MANY; k++) link(many, nameOf.get(many) as string, sites[SITES + k]);
  });
  return { names, many: nameOf.get(last) as string };
}

const CAPTURES = 24;

function keepPast(store: Store, id: number, name: string, now: number, referrers: number): void {
  const read: StoredCapture[] = Array.from({ length: CAPTURES }, (_, n) => ({
    at: now - (CAPTURES - n) * 200 * DAY,
    url: `http://archive.example/web/${n}/http://${name}/`,
    status: 200,
    kind: 'content',
    marks: ['160 words'],
    title: `The bees of ${name}`,
    language: 'en',
    subject: n < 20 ? 'farming.beekeeping' : 'leisure.gambling',
    subjectConfidence: 0.9,
    terms: new Map(Array.from({ length: 60 }, (__, word) => [`word${word * (n < 20 ? 1 : 3)}`, 3])),
    links: ['tarnmaps.org', 'fellbees.org'],
    redirectTo: null,
    fingerprint: null,
  }));
  const page = outlinePage(
    `<h1>Bees</h1>${'<p>Honey from the hives of the vale, and how it came to be.</p>'.repeat(40)}`,
  );
  for (const capture of read) {
    putCapture(store, id, capture, now);
    putCapturePage(store, id, capture.at, page);
  }
  const times = read.flatMap((capture) => [capture.at, capture.at + 40 * DAY]);
  putCaptureTimes(store, id, times);
  const past = summarizeCaptures({ times, read, registeredAt: null });
  store.raw
    .prepare(
      `UPDATE domains SET captures = ?, first_seen_at = ?, last_seen_at = ?, past_at = ?, past_source = 'archive.example',
       captures_by_year = ? WHERE id = ?`,
    )
    .run(times.length, times[0], times[times.length - 1], now, JSON.stringify([{ year: 2020, captures: 4 }]), id);
  putInspection(store, id, {
    effective: referrers * 0.7,
    captures_at: now,
    captures_read: read.length,
    captures_partial: 0,
    content_years: past.contentYears,
    drops: past.drops.length,
    drift: past.drift,
    language: past.language,
    past: JSON.stringify(past),
    forwarding_at: now,
    forward_now: 0,
    referrers_at: now,
    marks_at: now,
    marks_found: 0,
  });
}
