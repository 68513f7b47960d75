// The demo's first steps, taken through the product's own HTTP interface: briefs, a link index, a drop list, two venues and
// a small crawl, checked and measured. After that the first screen holds finds; a newcomer goes on from there.
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';

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
  await upload('/sources/lists?name=Drop%20list%20of%2020%20November', 'drop-list.csv');
  await post('/sources/feeds', { url: 'http://saltmarchexchange.com/listings.json', name: 'Saltmarch Exchange' });
  await post('/sources/crawls', {
    name: 'Beekeepers and hive notes',
    seeds: ['merrowvalebeekeepers.org', 'thornabeckhivenotes.org'],
    depth: 3,
    pageBudget: 400,
    excludedEndings: ['edu', 'gov'],
  });
  for (const started = Date.now(); Date.now() - started < 120_000; await sleep(300)) {
    const { jobs } = await call('/jobs');
    const failed = jobs.find((job) => job.state === 'failed');
    if (failed) throw new Error(`A first step failed: ${failed.error}`);
    if (jobs.every((job) => job.state === 'done')) return;
  }
}
