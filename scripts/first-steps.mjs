// The demo's first steps, taken through the product's own HTTP interface: briefs, a link index, a drop list, a venue and
// a small crawl, checked and measured. After that the first screen holds finds; a newcomer goes on from there.
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';

const STRONGEST = 240;
/** Of those, so many are measured closely, and names with a tale. */
const CLOSELY = 50;
const STORIES = [
  'ossenmerebeeclub.org',
  'cradlewickhivecraft.com',
  'dunscarrowhiveshop.com',
  'mirrowbybeeinspector.org',
  'gantrymoorbeediary.net',
  'thornabeckhoney.com',
];
const PATIENCE_MS = 120_000;

const BRIEFS = [
  {
    name: 'Beekeeping guide',
    purpose: 'rebuild',
    subjectWords: ['bee', 'hive', 'honey', 'apiary', 'swarm', 'skep'],
    trustedSites: ['merrowvalebeekeepers.org', 'thornabeckhivenotes.org', 'ossenmereapiaryschool.org'],
    excludedEndings: ['edu', 'gov'],
    budgetMinor: 90_000,
    currency: 'EUR',
  },
  {
    name: 'Letterpress names',
    purpose: 'resell',
    subjectWords: ['press', 'type', 'ink', 'letterpress'],
    trustedSites: ['merrowvalepress.org'],
    excludedEndings: [],
    budgetMinor: 40_000,
    currency: 'EUR',
  },
  {
    name: 'Dark-sky clubs',
    purpose: 'redirect',
    subjectWords: ['darksky', 'stars', 'telescope', 'observatory'],
    trustedSites: ['merrowvaledarksky.org', 'merrowvalegazette.com'],
    excludedEndings: [],
    budgetMinor: 25_000,
    currency: 'EUR',
  },
];

export async function takeFirstSteps({ port, folder, log }) {
  const base = `http://127.0.0.1:${port}/api/v1`;
  const call = async (path, options = {}) => {
    const answer = await fetch(`${base}${path}`, options);
    const value = await answer.json();
    if (!answer.ok) throw new Error(`${path}: ${value.detail}`);
    return value;
  };
  const post = (path, body, method = 'POST') =>
    call(path, { method, headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) });
  const upload = async (path, file) =>
    call(path, {
      method: 'POST',
      headers: { 'content-type': 'application/octet-stream' },
      body: await readFile(join(folder, 'world', file)),
    });

  if ((await call('/sources')).sources.length > 0) return;
  const { briefs } = await call('/briefs');
  await post(`/briefs/${briefs[0].id}`, BRIEFS[0], 'PATCH');
  for (const brief of BRIEFS.slice(1)) await post('/briefs', brief);
  log('Reading the link index and a drop list, crawling two sites');
  await upload('/sources/links?name=Vale%20link%20index', 'link-index.csv.gz');
  await upload('/sources/links?name=Lesser%20index&asOf=2025-11-05', 'lesser-index.csv.gz');
  await upload('/sources/lists?name=Drop%20list%20of%2020%20November', 'drop-list.csv');
  await upload('/sales?name=Sales%20of%20the%20vale', 'sales.csv');
  await upload('/ideas/places?name=Towns%20of%20the%20vale', 'places.csv');
  const feed = { url: 'http://saltmarchexchange.com/listings.json', name: 'Saltmarch Exchange', everyMinutes: 15 };
  await post('/sources/feeds', feed);
  await addTable(post, 'http://quaysidelots.com/lots.csv', 'Quayside Lots');
  await post('/sources/crawls', {
    name: 'Beekeepers and hive notes',
    seeds: ['merrowvalebeekeepers.org', 'thornabeckhivenotes.org'],
    depth: 3,
    pageBudget: 400,
    excludedEndings: ['edu', 'gov'],
  });
  await allDone(call);
  await upload('/rankings?name=Vale%20search%20estimates', 'rankings.csv');
  // the strongest of the list, but for the registry that answers five times an hour
  log('Checking and measuring the strongest names of the list');
  const { rows } = await post('/pool/query', {
    parts: [
      { type: 'choice', fact: 'phase', values: ['free', 'pending-delete'] },
      { type: 'choice', fact: 'ending', values: ['me'], not: true },
      { type: 'range', fact: 'strength', min: 5, max: null },
    ],
    sorts: [{ fact: 'trust', descending: true }],
    limit: STRONGEST,
  });
  await post('/checks', { ids: rows.map(({ id }) => id) });
  await allDone(call);
  log('Reading the past of the strongest, and looking at who links to them');
  await post('/measures', { ids: rows.slice(0, CLOSELY).map(({ id }) => id), names: STORIES });
  await allDone(call);
}

/** A venue that hands out a table, read as it is recognised. */
async function addTable(post, url, venue) {
  const { upload, look } = await post('/sources/feeds/preview', { url });
  const { delimiter, hasHeader, columns } = look;
  const table = { upload, delimiter, hasHeader, columns, venue, currency: 'GBP' };
  await post('/sources/feeds', { url, name: venue, everyMinutes: 60, table });
}

/** Waits for the work that was ordered. @throws when some of it failed. */
async function allDone(call) {
  for (const started = Date.now(); Date.now() - started < PATIENCE_MS; await sleep(300)) {
    const { jobs } = await call('/jobs');
    const failed = jobs.find((job) => job.state === 'failed');
    if (failed) throw new Error(`A first step failed: ${failed.error}`);
    if (jobs.every((job) => job.state === 'done')) return;
  }
}
