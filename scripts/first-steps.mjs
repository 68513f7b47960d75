// The demo's first steps, taken through the product's own HTTP interface: briefs, a link index, a drop list, a venue and
// a small crawl, checked and measured. After that the first screen holds finds; a newcomer goes on from there.
import { readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import { workOf } from './demo-work.mjs';

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

/**
 * Takes the steps that have not been taken yet. What was taken is written down, so that a start that was broken off goes on where it was;
 * a step that was under way then is looked for before it is taken again.
 */
export async function takeFirstSteps({ port, folder, log }) {
  const base = `http://127.0.0.1:${port}/api/v1`;
  const call = async (path, options = {}) => {
    const answer = await fetch(`${base}${path}`, options);
    const value = await answer.json();
    if (!answer.ok) throw Object.assign(new Error(`${path}: ${value.detail}`), { status: answer.status });
    return value;
  };
  const taken = join(folder, 'first-steps.json');
  const before = await readFile(taken, 'utf8').then(JSON.parse, () => null);
  // a folder of a version that did not write them down
  if (before === null && (await call('/sources')).sources.length > 0) return;
  const done = new Set(before ?? []);
  await writeFile(taken, JSON.stringify([...done]));
  for (const [name, step] of Object.entries(stepsOf({ call, folder, log }))) {
    if (done.has(name)) continue;
    await step();
    done.add(name);
    await writeFile(taken, JSON.stringify([...done]));
  }
}

function stepsOf({ call, folder, log }) {
  const post = (path, body, method = 'POST') =>
    call(path, { method, headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) });
  const upload = async (path, file) =>
    call(path, {
      method: 'POST',
      headers: { 'content-type': 'application/octet-stream' },
      body: await readFile(join(folder, 'world', file)),
    });
  const unlessThere = async (name, add) => {
    const { sources } = await call('/sources');
    if (!sources.some((source) => source.name === name)) await add();
  };
  const file = (kind, name, from, more = '') =>
    unlessThere(name, () => upload(`/sources/${kind}?name=${encodeURIComponent(name)}${more}`, from));
  const strongest = async () => {
    // the strongest of the list, but for the registry that answers five times an hour
    const { rows } = await post('/pool/query', {
      parts: [
        { type: 'choice', fact: 'phase', values: ['free', 'pending-delete'] },
        { type: 'choice', fact: 'ending', values: ['me'], not: true },
        { type: 'range', fact: 'strength', min: 5, max: null },
      ],
      sorts: [{ fact: 'trust', descending: true }],
      limit: STRONGEST,
    });
    return rows.map(({ id }) => id);
  };
  const { sieves, ...work } = workOf({
    call,
    post,
    own: (path, table) => call(path, { method: 'POST', headers: { 'content-type': 'text/csv' }, body: table }),
  });
  return {
    briefs: async () => {
      const { briefs } = await call('/briefs');
      await post(`/briefs/${briefs[0].id}`, BRIEFS[0], 'PATCH');
      const names = new Set(briefs.map(({ name }) => name));
      for (const brief of BRIEFS.slice(1)) if (!names.has(brief.name)) await post('/briefs', brief);
    },
    links: async () => {
      log('Reading the link index and a drop list, crawling two sites');
      await file('links', 'Vale link index', 'link-index.csv.gz');
      await file('links', 'Lesser index', 'lesser-index.csv.gz', '&asOf=2025-11-05');
    },
    list: () => file('lists', 'Drop list of 20 November', 'drop-list.csv'),
    sales: () => upload('/sales?name=Sales%20of%20the%20vale', 'sales.csv'),
    places: () => upload('/ideas/places?name=Towns%20of%20the%20vale', 'places.csv'),
    exchange: () =>
      unlessThere('Saltmarch Exchange', () =>
        post('/sources/feeds', {
          url: 'http://saltmarchexchange.com/listings.json',
          name: 'Saltmarch Exchange',
          everyMinutes: 15,
        }),
      ),
    lots: () => unlessThere('Quayside Lots', () => addTable(post, 'http://quaysidelots.com/lots.csv', 'Quayside Lots')),
    crawl: () =>
      unlessThere('Beekeepers and hive notes', () =>
        post('/sources/crawls', {
          name: 'Beekeepers and hive notes',
          seeds: ['merrowvalebeekeepers.org', 'thornabeckhivenotes.org'],
          depth: 3,
          pageBudget: 400,
          excludedEndings: ['edu', 'gov'],
        }),
      ),
    // the crawl is polite, and goes on while the rest is done
    gathered: () => allDone(call, 'crawl'),
    sieves,
    rankings: () => upload('/rankings?name=Vale%20search%20estimates', 'rankings.csv'),
    checks: async () => {
      log('Checking and measuring the strongest names of the list');
      await post('/checks', { ids: await strongest() });
    },
    checked: () => allDone(call, 'crawl'),
    measures: async () => {
      log('Reading the past of the strongest, and looking at who links to them');
      await post('/measures', { ids: (await strongest()).slice(0, CLOSELY), names: STORIES });
    },
    shortlists: async () => {
      log('Shortlisting, bidding, and asking about a few names');
      await work.shortlists();
    },
    orders: work.orders,
    own: work.own,
    asked: work.asked,
    ideas: work.ideas,
    measured: () => allDone(call),
    finds: work.finds,
  };
}

/** A venue that hands out a table, read as it is recognised. */
async function addTable(post, url, venue) {
  const { upload, look } = await post('/sources/feeds/preview', { url });
  const { delimiter, hasHeader, columns } = look;
  const table = { upload, delimiter, hasHeader, columns, venue, currency: 'GBP' };
  await post('/sources/feeds', { url, name: venue, everyMinutes: 60, table });
}

/**
 * Waits for the work that was ordered, as long as it gets on; what failed before, when all was broken off, is taken up once more.
 *
 * @param but a kind of job that is not waited for.
 * @throws when some of it failed again, or nothing has moved for long.
 */
async function allDone(call, but = null) {
  const again = new Set();
  let seen = '';
  let open = [];
  for (let movedAt = Date.now(); Date.now() - movedAt < PATIENCE_MS; await sleep(300)) {
    const { jobs } = await call('/jobs');
    for (const { id, state, error } of jobs) {
      if (state !== 'failed') continue;
      if (again.has(id)) throw new Error(`A first step failed: ${error}`);
      again.add(id);
      await call(`/jobs/${id}/resume`, { method: 'POST' });
    }
    open = jobs.filter((job) => job.state !== 'done' && job.kind !== but);
    if (open.length === 0) return;
    const now = JSON.stringify(jobs.map(({ id, state, progress }) => [id, state, progress]));
    if (now !== seen) movedAt = Date.now();
    seen = now;
  }
  const stands = open.map(({ kind, state, progress }) => `${kind} ${state}: ${progress?.message ?? 'no word'}`);
  throw new Error(`The first steps do not get on (${stands.join('; ')}); start again to go on with them.`);
}
