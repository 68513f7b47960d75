// `npm run pictures`: takes the pictures of docs/screenshots from a fresh demo, in a data folder of its own.
import { spawn } from 'node:child_process';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import { chromium } from '@playwright/test';
import { ensureTools, ROOT } from './prepare.mjs';

const PORT = Number(process.env.PORT ?? 4377);
const BASE = `http://127.0.0.1:${PORT}`;
const SIFTED =
  'c=phase:free,pending-delete,redemption&c=ending:!edu,gov&c=name:contains=bee,hive,honey&c=referringDomains:12..&c=spamRisk:..60?&sort=trust:down,referringDomains:down';
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
  (await browser.newContext({ viewport: { width: 1280, height: 800 }, locale: 'en-GB', colorScheme })).newPage();
const page = await open();
const save = async (name, from = page) => {
  await from.waitForTimeout(700);
  // what comes later is waited for: no picture of a figure that is still reckoned
  await from.waitForFunction(
    () => ![...document.querySelectorAll('dd')].some((one) => one.textContent?.trim() === '…'),
  );
  await from.screenshot({ path: join(ROOT, 'docs/screenshots', `${name}.png`) });
  console.log(name);
};

try {
  for (const [name, path] of [
    ['pool', `/pool?${SIFTED}`],
    ['dossier', '/domains/ossenmerebeeclub.org'],
    ['compare', `/compare?${STORIES.map((name) => `name=${name}`).join('&')}`],
  ]) {
    await page.goto(BASE + path);
    await save(name);
  }
  // how a list is taken for what it is, and what a venue offers
  const chooseList = async (path) => {
    await page.goto(`${BASE}/sources?add=list`);
    await page.getByLabel('Choose a list').setInputFiles(path);
    await page.getByRole('region', { name: 'As it will be read' }).waitFor();
  };
  await chooseList(join(folder, 'world/drop-list.csv'));
  await page.getByLabel('Meaning of Drop date').waitFor();
  await save('sources-list');
  const venue = (await call('/sources')).sources.find(({ name }) => name === 'Saltmarch Exchange');
  await page.goto(`${BASE}/sources/${venue.id}`);
  await save('venue');

  const dark = await open('dark');
  await dark.goto(`${BASE}/domains/cradlewickhivecraft.com`);
  await dark.locator('canvas').first().waitFor();
  await dark.keyboard.press('1');
  await save('dossier-dark', dark);
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

  await page.goto(`${BASE}/review?${SIFTED}`);
  await page.getByRole('table', { name: 'Referring domains that matter most' }).waitFor();
  await page.keyboard.press('ArrowRight');
  await save('review');

  const names = ['ossenmerebeeclub.org', 'cradlewickhivecraft.com', 'mirrowbybeeinspector.org'];
  await call('/clock', { forwardMs: 5 * 3_600_000 });
  await sleep(6000);
  await page.evaluate(() => localStorage.setItem('reminded', '[]'));
  await page.goto(`${BASE}/orders`);
  await save('orders');
  await page.goto(`${BASE}/shortlist`);
  await save('shortlist');
  await page.goto(`${BASE}/`);
  await save('today');
  await page.goto(`${BASE}/briefs`);
  await save('brief');
  await page.goto(`${BASE}/ideas`);
  await sleep(1500); // until it listens
  await page.getByLabel('Words of slot 2').selectOption('places');
  await page.getByLabel('to of slot 2').fill('20000');
  await page.getByRole('button', { name: 'another slot' }).click();
  await page.getByLabel('Which words in slot 3').fill('guide notes yard club guild house works');
  await page.getByLabel('Letters at most').fill('20');
  await page.getByRole('button', { name: 'Make and judge them' }).click();
  await page.getByRole('table', { name: 'Ideas' }).waitFor();
  await page.getByRole('button', { name: 'Are the best 40 available?' }).click();
  await sleep(9000);
  await save('ideas');
  await page.context().clearCookies();
  // old addresses of a club, and pages that could stand in
  const own = [
    'winter-feeding',
    'swarms',
    'hives',
    'honey',
    'calendar',
    'members',
    'events',
    'links',
    'history',
    'contact',
  ].map((topic) => `https://beesofthevale.org/guide/${topic},${topic.replace('-', ' ')} in the vale`);
  await fetch(`${BASE}/api/v1/own-pages?name=My%20guide`, { method: 'POST', body: `url,title\n${own.join('\n')}\n` });
  await page.goto(`${BASE}/domains/ossenmerebeeclub.org/redirects`);
  await sleep(1500);
  for (const key of ['g', 'y', 'y']) {
    await page.keyboard.press(key);
    await sleep(700);
  }
  await save('redirects');

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

  for (const name of [...names, 'tallowendhoneypath.net'])
    await call('/actions', { act: { kind: 'watch' }, which: { names: [name] } });
  await sleep(3000);
  await call('/clock', { forwardMs: 47 * 3_600_000 });
  await sleep(45_000); // what is due is looked at
  // what was had before, what is meant with it, and what it brought
  await fetch(`${BASE}/api/v1/holdings`, {
    method: 'POST',
    body: `domain,bought,cost,currency,renews,renewal,registrar
ossenmerebeeclub.org,2025-12-03,68,EUR,2026-12-03,14,Coombe Names
fallowgilldarksky.com,2025-03-11,42,GBP,2027-03-11,14,Quayside Lots
umberleyprintworks.org,2024-06-20,150,EUR,2027-06-20,14,Saltmarch Exchange
`,
  });
  const holding = (name, change) =>
    call(`/holdings/${name}`, change, 'PATCH').catch((error) => console.log(error.message));
  await holding('ossenmerebeeclub.org', { plan: 'rebuild', note: 'texts by spring' });
  await holding('fallowgilldarksky.com', { plan: 'redirect', status: 'in use' });
  await holding('jessambyhivedays.com', { plan: 'resell' });
  await call('/domains/ossenmerebeeclub.org/rebuild', { steps: [{ key: 'step:owner', state: 'done' }] }, 'PATCH');
  const sale = {
    name: 'jessambyhivedays.com',
    venue: 'Saltmarch Exchange',
    askMinor: 24_000,
    floorMinor: 9_000,
    currency: 'EUR',
  };
  await call('/resales', sale).catch((error) => console.log(error.message));
  const sold = {
    at: Date.UTC(2026, 9, 2),
    kind: 'sale',
    amountMinor: 31_000,
    currency: 'EUR',
    words: 'sold to a museum',
  };
  await call('/holdings/umberleyprintworks.org/entries', sold);
  await holding('umberleyprintworks.org', { plan: 'resell', status: 'sold' });
  await page.goto(`${BASE}/holdings`);
  await save('holdings');

  await call('/settings', { purposes: ['sites', 'register'] }, 'PATCH');
  await page.goto(`${BASE}/setup`);
  for (const ability of ['DNS', 'Registration data', 'History']) {
    await page.getByRole('button', { name: `Set up ${ability}` }).click();
    const form = page.getByRole('form', { name: `Set up ${ability}` });
    await form.getByRole('button', { name: 'Try it' }).click();
    await page.locator('[data-tried]').waitFor();
    if (ability !== 'History') await page.getByRole('button', { name: `Set up ${ability}` }).click();
  }
  await save('setup');

  await page.goto(`${BASE}/setup/connections/umberley-lots`);
  await page.getByRole('button', { name: 'Ask it' }).click();
  await page.locator('[data-tried=works]').waitFor();
  await save('service');

  // auctions end, and what was thought of them is held against what came
  for (let day = 0; day < 7; day++) {
    await call('/clock', { forwardMs: 24 * 3_600_000 });
    await sleep(4000);
  }
  await page.goto(`${BASE}/learning`);
  await save('calibration');
} finally {
  await browser.close();
  await stop();
}
