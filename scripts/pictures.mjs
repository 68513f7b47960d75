// `npm run pictures`: takes the pictures of docs/screenshots from a fresh demo, in a data folder of its own.
import { spawn } from 'node:child_process';
import { mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import { chromium } from '@playwright/test';
import { ensureTools, ROOT } from './prepare.mjs';

const PORT = Number(process.env.PORT ?? 4377);
const BASE = `http://127.0.0.1:${PORT}`;
const SIFTED =
  'c=phase:free,pending-delete,redemption&c=ending:!edu,gov&c=name:contains=bee,hive,honey&c=referringDomains:12..&c=spamRisk:..60?&sort=trust:down,referringDomains:down';
const GROUPED =
  'c=phase:free,pending-delete,redemption&c=any(name:wordish=bee,hive,honey;name:starts=swarm)&c=~length:..12&c=referringDomains:4..&sort=trust:down';
const FIELD = [
  'pellgatehoneyguild.co.uk',
  'ossenmereapiaryschool.org',
  'lathergillswarmline.org',
  'wexcombehivestore.com',
  'skeldrakenectarnotes.net',
  'marlowickskeptrust.org',
  'vennacreapiary.org',
  'merrowvaleanswers.com',
  'umberleymarket.com',
  'umberleyparishnews.org',
  'sallowmerechoir.org',
  'fennimoorobservatory.org',
  'pinderwellastroclub.org',
  'merrowvalegazette.com',
  'ottergarthwalks.org',
  'tallowendcalendar.org',
];

/** A lapsing club, a craft shop that became a casino, a diary that changed its language, and a shop with one owner's links. */
const STORIES = ['ossenmerebeeclub.org', 'cradlewickhivecraft.com', 'gantrymoorbeediary.net', 'dunscarrowhiveshop.com'];

ensureTools(['chromium']);
const folder = mkdtempSync(join(tmpdir(), 'jam-ladle-pictures-'));
let demo = null;
const start = async () => {
  demo = spawn(process.execPath, ['scripts/demo.mjs'], {
    cwd: ROOT,
    env: { ...process.env, JAM_LADLE_DATA: folder, PORT: String(PORT) },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  let output = '';
  demo.stdout.on('data', (chunk) => {
    output += chunk;
  });
  while (!output.includes('Jam Ladle is ready at')) {
    if (demo.exitCode !== null) throw new Error('the demo did not start');
    await sleep(200);
  }
};
const stop = () =>
  new Promise((done) => {
    demo.once('exit', done);
    demo.kill('SIGTERM');
  });
await start();

const call = async (path, body, method = 'POST') => {
  const answer = await fetch(`${BASE}/api/v1${path}`, {
    method: body === undefined ? 'GET' : method,
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(body),
  });
  const value = await answer.json();
  if (!answer.ok) throw new Error(`${path}: ${value.detail}`);
  return value;
};
const jobEnds = async (id) => {
  while (!['done', 'failed'].includes((await call(`/jobs/${id}`)).state)) await sleep(200);
};
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox', '--disable-gpu'] });
const open = async (colorScheme = 'light') =>
  (await browser.newContext({ viewport: { width: 1280, height: 800 }, colorScheme })).newPage();
const page = await open();
const save = async (name, from = page) => {
  await from.waitForTimeout(700);
  await from.screenshot({ path: join(ROOT, 'docs/screenshots', `${name}.png`) });
  console.log(name);
};

try {
  for (const [name, path] of [
    ['today', '/'],
    ['pool', `/pool?${SIFTED}`],
    ['dossier', '/domains/ossenmerebeeclub.org'],
    ['compare', `/compare?${STORIES.map((name) => `name=${name}`).join('&')}`],
  ]) {
    await page.goto(BASE + path);
    await save(name);
  }
  const dark = await open('dark');
  await dark.goto(`${BASE}/domains/cradlewickhivecraft.com`);
  await dark.locator('canvas').first().waitFor();
  await dark.keyboard.press('1');
  await save('dossier-dark', dark);
  await page.goto(`${BASE}/domains/gantrymoorbeediary.net#past`);
  await page.getByRole('link', { name: 'The first and the last side by side' }).click();
  await page.getByTestId('changes').waitFor();
  await save('captures');

  // three lives below each other
  const lives = [];
  for (const name of STORIES.slice(0, 3)) {
    await page.goto(`${BASE}/domains/${name}`);
    const life = page.getByRole('figure', { name: 'Life' });
    await life.scrollIntoViewIfNeeded();
    for (const part of [page.getByRole('heading', { level: 1 }), life])
      lives.push((await part.screenshot()).toString('base64'));
  }
  const paper = await page.evaluate(() => getComputedStyle(document.documentElement).backgroundColor);
  await page.setViewportSize({ width: 1200, height: 900 });
  await page.setContent(
    `<body style="margin:20px 24px;background:${paper}">${lives
      .map(
        (png, n) => `<img src="data:image/png;base64,${png}" style="display:block;margin-bottom:${n % 2 ? 16 : 0}px">`,
      )
      .join('')}</body>`,
  );
  await save('lifelines');
  await page.setViewportSize({ width: 1280, height: 800 });

  await page.goto(`${BASE}/pool?${GROUPED}`);
  await page
    .locator('[data-condition=referringDomains]')
    .getByRole('button', { name: 'Referring domains', exact: true })
    .click();
  const handle = await page.locator('[data-handle=min]').boundingBox();
  await page.mouse.move(handle.x + handle.width / 2, handle.y + 20);
  await page.mouse.down();
  await page.mouse.move(handle.x + 60, handle.y + 20, { steps: 12 });
  await save('sieve-drag');
  await page.mouse.up();
  await page.goto(`${BASE}/review?${SIFTED}`);
  await page.getByRole('table', { name: 'Referrers that matter most' }).waitFor();
  await page.keyboard.press('ArrowRight');
  await save('review');

  const { briefs } = await call('/briefs');
  const names = ['ossenmerebeeclub.org', 'cradlewickhivecraft.com', 'mirrowbybeeinspector.org'];
  await call('/shortlist', { briefId: briefs[0].id, names });
  await call(
    `/shortlist/${names[0]}`,
    { briefId: briefs[0].id, stage: 'wanted', maximumBidMinor: 42_000, note: 'nineteen years a club; honest links' },
    'PATCH',
  );
  await call(`/shortlist/${names[1]}`, { briefId: briefs[0].id, note: 'half its links sell something' }, 'PATCH');
  await page.goto(`${BASE}/shortlist`);
  await save('shortlist');

  // a season of offers, with what each is worth to the person
  const season = { name: 'Names of the trade', purpose: 'resell', subjectWords: ['bee', 'honey'], budgetMinor: 40_000 };
  const { id: seasonId } = await call('/briefs', season);
  const offered = async (kind, limit) =>
    (
      await call('/pool/query', {
        parts: [{ type: 'choice', fact: 'listing', values: [kind] }],
        sorts: [{ fact: 'strength', descending: true }],
        limit,
      })
    ).rows.map(({ name }) => name);
  const lots = [
    ...(await offered('auction', 6)),
    ...(await offered('expired-auction', 3)),
    ...(await offered('buy-now', 2)),
  ];
  await call('/shortlist', { briefId: seasonId, names: lots });
  // what names alike were sold for is taken as their worth, of every other one somewhat more
  const { entries } = await call(`/plan?brief=${seasonId}`);
  for (const [n, { name, resale }] of entries.entries()) {
    const more = n % 2 === 0 ? 1 : 1.5;
    const worth = {
      worthLowMinor: Math.round(resale.lowMinor * more),
      worthHighMinor: Math.round(resale.highMinor * more),
    };
    await call(`/shortlist/${name}`, { briefId: seasonId, ...worth }, 'PATCH');
  }
  await page.context().addCookies([{ name: 'brief', value: String(seasonId), url: BASE }]);
  await page.goto(`${BASE}/shortlist/plan`);
  await save('plan');
  await page.context().clearCookies();

  await page.goto(`${BASE}/sources?add=list`);
  await page.getByLabel('Choose a list').setInputFiles(join(folder, 'world/drop-list.csv'));
  await page.getByLabel('Meaning of Drop date').waitFor();
  await page.getByRole('region', { name: 'As it will be read' }).waitFor();
  await save('sources-list');

  const { source, job } = await call('/sources/crawls', {
    name: 'Sites of the field',
    seeds: FIELD,
    depth: 2,
    excludedEndings: ['info'],
  });
  await sleep(9000);
  await page.goto(`${BASE}/sources/${source.id}`);
  await save('crawl-live');
  await jobEnds(job.id);
  await sleep(4000);
  await page.setViewportSize({ width: 1280, height: 1500 });
  await page.goto(`${BASE}/sources/${source.id}`);
  await save('crawl-report');
  await page.setViewportSize({ width: 1280, height: 800 });

  await page.goto('about:blank');
  await call('/clock', { forwardMs: 10 * 3_600_000 });
  const { sources } = await call('/sources');
  const venue = sources.find(({ name }) => name === 'Saltmarch Exchange');
  const isRead = async () => (await call(`/sources/${venue.id}`)).jobs.filter(({ kind }) => kind === 'venue');
  while ((await isRead()).length < 2) await sleep(200);
  await jobEnds((await isRead()).at(-1).id);
  await page.goto(`${BASE}/sources/${venue.id}`);
  await save('venue');

  // a batch while the slow registries still have a part of it, and the watch after two days
  const listed = readFileSync(join(folder, 'world/drop-list.csv'), 'utf8').split('\r\n').slice(300, 4300);
  const text = [
    ...listed.map((line) => line.split(',')[0]),
    ...FIELD,
    ...FIELD.slice(0, 4),
    'lathergillbeemuseum.org',
    'not-a-name',
  ];
  const batch = await call('/batches', { text: text.join('\n'), name: 'Names of a week', depth: 'registrar' });
  await sleep(14_000);
  await page.goto(`${BASE}/check/${batch.id}`);
  await save('batch');
  for (const name of [...names, 'tallowendhoneypath.net'])
    await call('/actions', { act: { kind: 'watch' }, which: { names: [name] } });
  await sleep(3000);
  await call('/clock', { forwardMs: 47 * 3_600_000 });
  await sleep(45_000); // what is due is looked at
  await page.goto(`${BASE}/check`);
  await save('check');
  await page.goto(`${BASE}/deadlines?scope=near`);
  await save('deadlines');

  // a day's budget that is spent, so that names wait to be measured; then marks, and points that are fitted to them
  await call('/settings', { measureBudget: 1 }, 'PATCH');
  const known = [{ type: 'range', fact: 'spamRisk', min: 0, max: null }];
  const marked = async (descending, limit) =>
    (await call('/pool/query', { parts: known, sorts: [{ fact: 'spamRisk', descending }], limit })).rows.map(
      ({ id }) => id,
    );
  const [worst, best] = [await marked(true, 28), await marked(false, 34)];
  const { rows } = await call('/pool/query', {
    parts: [...known, { type: 'choice', fact: 'phase', values: ['free', 'pending-delete'] }],
    sorts: [{ fact: 'strength', descending: true }],
    offset: 60,
    limit: 14,
  });
  const measuring = await call('/measures', { ids: rows.map(({ id }) => id), withinBudget: true });
  await jobEnds(measuring.job.id);
  await call('/actions', { act: { kind: 'judge', judged: 'spam' }, which: { ids: worst } });
  await call('/actions', { act: { kind: 'judge', judged: 'clean' }, which: { ids: best } });
  await call('/measures/points', {});
  await page.goto(`${BASE}/measures`);
  await save('measures');
} finally {
  await browser.close();
  await stop();
}
