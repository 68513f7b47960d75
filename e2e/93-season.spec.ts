import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { type APIRequestContext, expect, type Page } from '@playwright/test';
import Database from 'better-sqlite3';
import { noSeriousFaults } from './faults';
import { allDone, send } from './stories';
import { LONG, test } from './test';

test.describe.configure({ mode: 'serial' });

/** One season from a brief to what is owned, and what happens to orders when something goes wrong in between. */
const folder = () => process.env.E2E_FOLDER ?? '';
const SEASON = 'A season of hives';
const VENUE = 'Saltmarch Exchange';
const AUCTION = new RegExp(`auction.* at ${VENUE}`, 'i');
const KEY = 'vale-demo-key';
const accountsAt = (path = 'desk') => [
  { venue: VENUE, address: `http://saltmarchexchange.com/${path}`, key: KEY, currency: 'EUR' },
  { venue: 'Quayside Lots', address: `http://quaysidelots.com/${path}`, key: KEY, currency: 'GBP' },
  { venue: 'Coombe Names', address: `http://register.coombenames.net/${path}`, key: KEY, currency: 'EUR' },
];

interface Row {
  id: number;
  name: string;
  priceMinor: number;
  bids: number | null;
  closingAt: number;
}
interface Order {
  id: number;
  key: string;
  name: string;
  state: string;
  finalMinor: number | null;
  reason: string | null;
}

const settings = (request: APIRequestContext, data: object) => request.patch('/api/v1/settings', { data });
const query = async (request: APIRequestContext, parts: object[], sort = 'closing', limit = 60): Promise<Row[]> => {
  const data = { parts, sorts: [{ fact: sort, descending: false }], limit };
  return (await (await request.post('/api/v1/pool/query', { data })).json()).rows;
};
const lots = (request: APIRequestContext) =>
  query(request, [
    { type: 'choice', fact: 'listing', values: ['expired-auction'] },
    { type: 'choice', fact: 'venue', values: [VENUE] },
    { type: 'range', fact: 'closing', min: 1, max: 160 },
    { type: 'range', fact: 'price', min: null, max: 60 },
  ]);
const orders = async (request: APIRequestContext): Promise<{ open: Order[]; ended: Order[] }> =>
  (await request.get('/api/v1/orders')).json();
const orderOf = async (request: APIRequestContext, name: string) => {
  const { open, ended } = await orders(request);
  return [...open, ...ended].find((order) => order.name === name);
};
const JOURNAL = () => join(folder(), 'world-orders.jsonl');
/** Presses o until the page listens. */
const pressOrder = async (page: Page) => {
  const dialog = page.getByRole('dialog');
  await expect(async () => {
    if (!(await dialog.isVisible())) await page.keyboard.press('o');
    await expect(dialog).toBeVisible({ timeout: 1500 });
  }).toPass();
  return dialog;
};
/** What the venues have written down. */
const journal = () =>
  (existsSync(JOURNAL()) ? readFileSync(JOURNAL(), 'utf8') : '')
    .split('\n')
    .filter(Boolean)
    .map((line) => JSON.parse(line) as { key: string; domain: string });
const useBrief = (page: Page, id: number) =>
  page.context().addCookies([{ name: 'brief', value: String(id), url: test.info().project.use.baseURL ?? '' }]);

/** Of the orders that things go wrong with. */
let briefId = 0;

test.beforeAll(async ({ request }) => {
  await settings(request, {
    accounts: accountsAt(),
    registrarAccount: 'Coombe Names',
    isDryRun: false,
    dayLimitMinor: null,
  });
  const brief = { name: 'Bids and orders', purpose: 'rebuild', subjectWords: ['bee'], budgetMinor: 300_000 };
  briefId = (await (await request.post('/api/v1/briefs', { data: brief })).json()).id;
  await request.post('/api/v1/sources/feeds', {
    data: { url: 'http://saltmarchexchange.com/listings.json', name: VENUE, everyMinutes: 15 },
  });
  await allDone(request);
});

test('a season: brief, crawl, list, sieve, review, dossier, shortlist, plan, orders, and what comes of them', async ({
  page,
  request,
}) => {
  test.setTimeout(480_000);
  // a brief
  await page.goto('/briefs');
  const fresh = page.getByRole('button', { name: 'New brief' });
  const whole = page.getByRole('button', { name: 'All fields at once' });
  await expect(fresh.or(whole)).toBeVisible();
  if (await whole.isVisible()) await whole.click();
  await fresh.click();
  await page.getByLabel('Name', { exact: true }).fill(SEASON);
  await page.getByLabel('Purpose', { exact: true }).selectOption('resell');
  await page.getByLabel('mixed with others').check();
  await page.getByLabel('How much rebuild counts').fill('3');
  await page.getByLabel('Words of the subject').fill('bee, hive, honey, wax');
  await page.getByLabel('Countries').fill('gb');
  await page.getByLabel('Budget').fill('3000');
  await page.getByLabel('spam risk at most').fill('60');
  await page.getByLabel('no digits').check();
  await page.getByRole('button', { name: 'Add the brief' }).click();
  await expect(page.getByText(`"${SEASON}" is saved`)).toBeVisible();
  await noSeriousFaults(page);
  await page.getByRole('button', { name: /^Brief: / }).click();
  await page.getByRole('menuitem', { name: SEASON }).click();
  await expect(page.getByRole('button', { name: `Brief: ${SEASON}` })).toBeVisible();
  const { briefs } = await (await request.get('/api/v1/briefs')).json();
  const seasonId: number = briefs.find(({ name }: { name: string }) => name === SEASON).id;
  await page.getByRole('button', { name: SEASON, exact: false }).last().click();
  await page.getByRole('link', { name: 'The pool through it' }).click();
  await expect(page).toHaveURL(/digits.*spamRisk|spamRisk.*digits/);

  // a crawl and a list
  await page.goto('/sources?add=crawl&seed=thornabeckhivenotes.org');
  await page.getByLabel('Page budget').fill('40');
  await page.getByRole('button', { name: 'Start the crawl' }).click();
  await expect(page).toHaveURL(/\/sources\/\d+/);
  const head = readFileSync(join(folder(), 'world/drop-list.csv'), 'utf8').split('\r\n').slice(0, 400).join('\r\n');
  const path = join(folder(), 'season.csv');
  writeFileSync(path, head);
  await page.goto('/sources?add=list');
  await page.getByLabel('Choose a list').setInputFiles(path);
  await page.getByRole('button', { name: /^Import/ }).click();
  await expect(page).toHaveURL(/\/sources\/\d+/);
  await allDone(request);

  // a sieve, kept for the digest
  await page.goto(`/pool?c=listing:expired-auction&c=venue:${encodeURIComponent(VENUE)}&c=price:..60&sort=closing:up`);
  await expect(page.locator('#grid[aria-busy=false]')).toBeVisible();
  await page.getByRole('button', { name: 'Kept sieves' }).click();
  await page.getByRole('menuitem', { name: 'Keep this sieve…' }).click();
  await page.getByLabel('Name for this sieve').fill(SEASON);
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  await expect(page.getByText(`Kept as "${SEASON}"`)).toBeVisible();

  // the review, with an order from it that is not given
  await page.keyboard.press('r');
  await expect(page).toHaveURL(/\/review/);
  await expect(await pressOrder(page)).toContainText('asked just now');
  await page.keyboard.press('Escape');
  await page.keyboard.press('y');
  await page.keyboard.press('n');
  await page.keyboard.press('2');
  await expect(page.getByText(/^3 of /)).toBeVisible();

  // a dossier, and the shortlist
  // the review has kept the first, and passed the second
  const offered = (await lots(request)).slice(2);
  const contested = offered.filter(({ bids }) => (bids ?? 0) >= 2);
  const quiet = offered.filter(({ bids }) => (bids ?? 0) < 2);
  const winners = quiet.slice(0, 3).map(({ name }) => name);
  const losers = contested.slice(0, 3).map(({ name }) => name);
  await page.goto(`/domains/${winners[0]}`);
  await page.getByRole('button', { name: 'Shortlist', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Remove from the shortlist' })).toBeVisible();
  await request.post('/api/v1/shortlist', { data: { briefId: seasonId, names: [...winners, ...losers] } });
  await page.goto('/shortlist');
  await page.getByRole('button', { name: 'As a board' }).click();
  await expect(page.getByRole('region', { name: 'Stage to inspect' }).locator('[data-domain]')).toHaveCount(7);
  await noSeriousFaults(page);
  await page.getByRole('link', { name: winners[1] }).focus();
  await page.keyboard.press('2');
  await expect(page.getByRole('region', { name: 'Stage wanted' }).locator('[data-domain]')).toHaveCount(1);
  await page.getByRole('button', { name: 'As a table' }).click();
  for (const name of losers) await page.getByLabel(`Tick ${name}`).check();
  await page.getByLabel('Tag for the ticked').fill('contested');
  await page.getByRole('button', { name: 'Tag', exact: true }).click();
  await page.getByRole('button', { name: `Details of ${losers[0]}` }).click();
  await expect(page.getByRole('region', { name: `What speaks against ${losers[0]}` })).toContainText(
    'tagged contested',
  );
  await page.getByLabel('Move the ticked to').selectOption('wanted');
  await expect(page.getByLabel(`Stage of ${losers[2]}`)).toHaveValue('wanted');
  await noSeriousFaults(page);

  // the plan, with worths, the maximum with the way to it, and an order from there
  for (const name of [...winners, ...losers])
    await request.patch(`/api/v1/shortlist/${name}`, {
      data: { briefId: seasonId, worthLowMinor: 30_000, worthHighMinor: 60_000 },
    });
  await page.goto('/shortlist');
  for (const name of winners) {
    await page.getByRole('button', { name: `Details of ${name}` }).click();
    await expect(page.getByRole('table', { name: `How the maximum of ${name} is reckoned, EUR` })).toContainText(
      'may be its cost, for the margin',
    );
    await page.getByRole('button', { name: `Order ${name} on the terms of this moment` }).click();
    const dialog = page.getByRole('dialog');
    await expect(dialog).toContainText('asked just now');
    await dialog.getByRole('radio', { name: AUCTION }).check();
    const most = dialog.getByLabel('The most you pay');
    await most.fill('500');
    await expect(dialog).toContainText('Costs at most 515 EUR with 15 EUR of fees');
    // the first Enter only goes to the button, the second gives the order
    await most.press('Enter');
    await expect(dialog.getByRole('button', { name: /^Bid up to/ })).toBeFocused();
    await page.keyboard.press('Enter');
    await expect(dialog.getByRole('status')).toContainText('leading at');
    if (name === winners[0]) await noSeriousFaults(page, '[role=dialog]');
    await page.keyboard.press('Enter');
    await expect(dialog).toHaveCount(0);
  }
  // the least that is taken, where others are there: too little in the end
  for (const name of losers) {
    await page.goto(`/domains/${name}`);
    const dialog = await pressOrder(page);
    await dialog.getByRole('radio', { name: AUCTION }).check();
    const least = dialog.getByText('the least that is taken');
    await dialog.getByLabel('The most you pay').fill(((await least.textContent()) ?? '').replace(/[^\d.]/g, ''));
    await page.getByRole('button', { name: /^Bid up to/ }).click();
    await expect(dialog.getByRole('status')).toContainText(/leading|outbid/);
  }

  // one is registered by three keys
  const [free] = await freeName(request, seasonId);
  const [label, ...ending] = free.split('.');
  await page.goto(`/pool?c=name:is=${label}&c=ending:${ending.join('.')}`);
  await expect(page.locator('#grid[aria-busy=false]')).toBeVisible();
  await page.locator('#grid').focus();
  await page.keyboard.press('o');
  await expect(page.getByRole('button', { name: /^Register for/ })).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('dialog').getByRole('status').last()).toContainText('registered for');
  await page.keyboard.press('Enter');

  // the auctions run; then a week passes
  await page.goto('/orders');
  await expect(page.getByRole('region', { name: 'Running auctions' }).locator('[data-order]').first()).toBeVisible();
  await expect(page.getByRole('timer').first()).toHaveText(/^(\d+ d \d+ h|\d+(:\d\d)+)$/);
  await noSeriousFaults(page);
  await page.goto('/settings');
  await page.getByRole('button', { name: 'Forward a week' }).click();
  await expect(page.getByText('The world is a week older')).toBeVisible();
  const states = async () => {
    const { open, ended } = await orders(request);
    const mine = (name: string) => [...open, ...ended].find((order) => order.name === name)?.state;
    return [winners.map(mine), losers.map(mine)];
  };
  const count = (all: (string | undefined)[], state: string) => all.filter((one) => one === state).length;
  await expect
    .poll(async () => (await states()).flat().every((state) => state === 'won' || state === 'lost'), {
      timeout: 60_000,
    })
    .toBe(true);
  const [won, lost] = await states();
  expect(count(won, 'won')).toBeGreaterThanOrEqual(2);
  expect(count(lost, 'lost')).toBeGreaterThanOrEqual(1);

  // what came of it: accounts, holdings, sales, the digest
  await page.goto('/orders');
  await expect(page.getByRole('region', { name: 'Ended orders' })).toContainText('lost; it went for');
  const { balances, lines } = await (await request.get(`/api/v1/ledger?brief=${seasonId}`)).json();
  expect(balances.held).toBe(0);
  expect(balances.budget + balances.spent + balances.fees).toBe(0);
  const postings = new Map<number, number>();
  for (const { posting, amountMinor } of lines) postings.set(posting, (postings.get(posting) ?? 0) + amountMinor);
  expect([...postings.values()].every((sum) => sum === 0)).toBe(true);
  await page.goto('/holdings');
  const held = page.locator('tr[data-holding]');
  for (const [n, name] of winners.entries())
    if (won[n] === 'won') await expect(page.locator(`tr[data-holding="${name}"]`)).toContainText(VENUE);
  await expect(page.locator(`tr[data-holding="${free}"]`)).toContainText('Coombe Names');
  expect(await held.count()).toBeGreaterThanOrEqual(3);
  await page.getByLabel(`Renewal price of ${free}`).fill('12.50');
  await page.getByLabel(`Note on ${free}`).fill('the first of the season');
  await page.getByLabel(`Note on ${free}`).blur();
  await expect(page.getByText(`${free} changed`).first()).toBeVisible();
  await noSeriousFaults(page);
  await page.goto('/');
  await expect(page.getByRole('heading', { name: 'Waits for you' })).toBeVisible();
  await noSeriousFaults(page);
  await page.goto('/learning');
  await expect(page.getByRole('table', { name: 'Chances to win against what was won' })).toBeVisible();
  await expect(page.getByRole('table', { name: 'Worths against prices' })).toContainText('resell, at auction');
  await noSeriousFaults(page);
  await page.goto('/settings');
  await page.getByRole('button', { name: 'Make one now' }).click();
  const written = page.getByText(/^Written to outbox\/\S+\.eml/);
  await expect(written).toBeVisible();
  const file = /outbox\/(\S+\.eml)/.exec((await written.textContent()) ?? '')?.[1] ?? '';
  const mail = readFileSync(join(folder(), 'outbox', file), 'utf8');
  expect(mail).toContain(winners[won.indexOf('won')]);
  expect(mail).toMatch(/Won for/);
});

/** A name that the registrar would register, whose card is not turned down. */
async function freeName(request: APIRequestContext, briefId: number): Promise<string[]> {
  const rows = await query(request, [{ type: 'choice', fact: 'phase', values: ['free'] }], 'length', 200);
  const names: string[] = [];
  for (const { name } of rows) {
    if (names.length > 0) break;
    if (cardIsDeclined(name)) continue;
    const { after } = await (await request.post(`/api/v1/domains/${name}/confirm`)).json();
    if (after.phase === 'free' && after.contradictions.length === 0) {
      const terms = await (await request.get(`/api/v1/orders/terms?name=${name}&brief=${briefId}`)).json();
      if (terms.ways.some((way: { kind: string; refusal: string | null }) => way.kind === 'register' && !way.refusal))
        if (terms.ways.length === 1) names.push(name);
    }
  }
  return names;
}

/** A name that is free by a verdict of this moment, whoever registers it. */
async function freeByRecord(request: APIRequestContext): Promise<string> {
  for (const { name } of await query(request, [{ type: 'choice', fact: 'phase', values: ['free'] }], 'length', 60)) {
    const { after } = await (await request.post(`/api/v1/domains/${name}/confirm`)).json();
    if (after.phase === 'free' && after.contradictions.length === 0) return name;
  }
  throw new Error('no name is free');
}

/** The registrar of the world turns some cards down the first time, by the name (FNV-1a). */
function cardIsDeclined(name: string): boolean {
  let value = 0x811c9dc5;
  for (const letter of `card ${name}`) value = Math.imul(value ^ letter.charCodeAt(0), 0x01000193) >>> 0;
  return value % 12 === 0;
}

test('the engine is killed between sending an order and hearing the answer: nothing is bought twice or forgotten', async ({
  request,
}) => {
  test.setTimeout(300_000);
  // a desk that has done what it was asked long before it says so
  await settings(request, { accounts: accountsAt('slow-desk') });
  const enginePid = () => JSON.parse(readFileSync(join(folder(), 'engine.json'), 'utf8')).pid as number;
  const names: string[] = [];
  const { open } = await orders(request);
  const ordered = new Set(open.map(({ name }) => name));
  const fresh = (await lots(request)).filter(({ bids, name }) => (bids ?? 0) < 2 && !ordered.has(name)).slice(0, 3);
  for (const [n, { name }] of fresh.entries()) {
    names.push(name);
    // the answer never comes to who asked
    const given = request
      .post('/api/v1/orders', { data: { name, briefId, venue: VENUE, kind: 'bid', amountMinor: 90_000 } })
      .catch(() => null);
    await expect.poll(async () => journal().some(({ domain }) => domain === name)).toBe(true);
    await new Promise((rest) => setTimeout(rest, n * 900));
    const pid = enginePid();
    process.kill(pid, 'SIGKILL');
    await given;
    await expect.poll(enginePid, { timeout: 30_000 }).not.toBe(pid);
    await expect.poll(async () => (await request.get('/api/v1/health')).status(), { timeout: 30_000 }).toBe(200);
  }
  await settings(request, { accounts: accountsAt() });
  for (const name of names) {
    await expect.poll(async () => (await orderOf(request, name))?.state, { timeout: 40_000 }).toBe('leading');
    const { key } = (await orderOf(request, name)) as Order;
    // one line for it at the venue, under the key that is on disk here
    expect(journal().filter(({ domain }) => domain === name)).toMatchObject([{ key }]);
  }
  const { balances } = await (await request.get(`/api/v1/ledger?brief=${briefId}`)).json();
  expect(balances.held).toBe(names.length * 91_500);
});

test(
  'a dry run sends nothing, and without a venue one acts by hand and says what came of it',
  LONG,
  async ({ page, request }) => {
    await useBrief(page, briefId);
    const [first, second] = (await lots(request)).filter(({ bids }) => (bids ?? 0) < 2).slice(4, 6);
    await page.goto('/settings');
    await page.getByLabel(/^Dry run/).check();
    await page.getByRole('button', { name: 'Save how orders go' }).click();
    await expect(page.getByText('Orders are written down, and nothing is sent')).toBeVisible();
    const before = journal().length;
    await page.goto(`/domains/${first.name}`);
    const dialog = await pressOrder(page);
    await expect(dialog).toContainText('Dry run: it is written down and not sent');
    await dialog.getByRole('radio', { name: AUCTION }).check();
    await page.getByRole('button', { name: /^Bid up to/ }).click();
    await expect(dialog.getByRole('status')).toContainText('a dry run, not sent');
    expect(journal().length).toBe(before);
    await page.goto('/orders');
    await expect(page.getByText('Dry run: orders are written down and nothing is sent.')).toBeVisible();

    await settings(request, { isDryRun: false, accounts: [], registrarAccount: '' });
    await page.goto(`/domains/${second.name}`);
    await pressOrder(page);
    await page.getByRole('radio', { name: AUCTION }).check();
    await page.getByRole('button', { name: /^By hand: Bid up to/ }).click();
    await expect(dialog.getByRole('status')).toContainText('yours to do by hand');
    await expect(dialog.getByRole('link', { name: 'to the listing' })).toHaveAttribute(
      'href',
      /saltmarchexchange\.com\/lots/,
    );
    await page.getByRole('link', { name: 'All orders' }).click();
    const row = page.locator(`[data-order="${second.name}"]`);
    await row.getByLabel(`Price that ${second.name} went for`).fill('31.50');
    await row.getByRole('button', { name: 'Won' }).click();
    await expect(page.getByRole('region', { name: 'Ended orders' })).toContainText('won for 31.50 EUR');
    await page.getByRole('link', { name: 'Portfolio' }).click();
    await expect(page.locator(`tr[data-holding="${second.name}"]`)).toContainText('31.50 EUR');
    // a name that is free is registered by hand, too, at the price that the person says
    const free = await freeByRecord(request);
    await page.goto(`/domains/${free}`);
    await pressOrder(page);
    await dialog.getByLabel('The most you pay').fill('15');
    await page.getByRole('button', { name: 'By hand: Register for 15 EUR' }).click();
    await expect(dialog.getByRole('status').last()).toContainText('yours to do by hand');
    await settings(request, { accounts: accountsAt(), registrarAccount: 'Coombe Names' });

    // hard limits: of the day, and of the brief
    await settings(request, { dayLimitMinor: 100 });
    const over = (amountMinor: number) =>
      request.post('/api/v1/orders', { data: { name: first.name, briefId, venue: VENUE, kind: 'bid', amountMinor } });
    const refused = await over(5000);
    expect(refused.status()).toBe(409);
    expect((await refused.json()).detail).toContain('today’s limit');
    await settings(request, { dayLimitMinor: null });
    expect((await (await over(900_000)).json()).detail).toContain('the budget of the brief');
    expect(await orderOf(request, first.name)).toMatchObject({ state: 'dry' });
  },
);

test('phrases from a list give a worth to a site that is brought back, and are shown in its dossier', async ({
  page,
  request,
}) => {
  await useBrief(page, briefId);
  // one that nobody has ordered
  const { open, ended } = await orders(request);
  const ordered = new Set([...open, ...ended].map((order) => order.name));
  const free = await query(request, [{ type: 'choice', fact: 'phase', values: ['free'] }], 'length', 30);
  const name = free.find((row) => !ordered.has(row.name))?.name ?? '';
  const csv = `domain,phrase,position,searches,cpc,currency\n${name},skep yards,2,9000,0.80,EUR\n${name},bad row,x,1,1,EUR\n`;
  const taken = await (await send(request, '/rankings?name=Estimates', csv)).json();
  expect(taken).toMatchObject({ taken: 1, unknown: 0, setAside: 1 });
  await request.post('/api/v1/shortlist', { data: { briefId, names: [name] } });
  await page.goto('/shortlist');
  await page.getByRole('button', { name: `Details of ${name}` }).click();
  await page.getByRole('button', { name: `Take its traffic value as the worth of ${name}` }).click();
  await expect(page.getByText(`${name}: kept`)).toBeVisible();
  await page.goto(`/domains/${name}`);
  await expect(page.getByRole('table', { name: 'Keywords it is found by' })).toContainText('skep yards');

  // a falling price: each step with its chance, and the best to be ordered
  const falling = await query(request, [
    { type: 'choice', fact: 'listing', values: ['falling'] },
    { type: 'choice', fact: 'venue', values: [VENUE] },
    { type: 'range', fact: 'closing', min: 30, max: null },
  ]);
  await request.post('/api/v1/shortlist', { data: { briefId, names: [falling[0].name] } });
  await request.patch(`/api/v1/shortlist/${falling[0].name}`, {
    data: { briefId, worthLowMinor: 40_000, worthHighMinor: 60_000 },
  });
  await page.goto('/shortlist');
  await page.getByRole('button', { name: `Details of ${falling[0].name}` }).click();
  const steps = page.getByRole('table', { name: `Price drops of ${falling[0].name}` });
  await expect(steps).toContainText('100% still there');
  await steps.getByRole('button', { name: /buy it now|order it for then/ }).click();
  await expect.poll(async () => (await orderOf(request, falling[0].name))?.state).toMatch(/won|queued|refused/);
});

test('ideas are composed, judged, asked about and shortlisted', async ({ page, request }) => {
  await useBrief(page, briefId);
  const places = 'place,people,growth\nOssenmere,12000,1.2\nPellgate,900,0.1\nBigtown,900000,2\n';
  expect(await (await send(request, '/ideas/places?name=Towns', places)).json()).toMatchObject({ taken: 3 });
  await page.goto('/ideas');
  // until the page listens
  await expect(async () => {
    await page.getByLabel('Words of slot 2').selectOption('places');
    await expect(page.getByLabel('to of slot 2')).toBeVisible({ timeout: 1000 });
  }).toPass();
  await page.getByLabel('to of slot 2').fill('100000');
  await page.getByRole('button', { name: 'another slot' }).click();
  await page.getByLabel('Which words in slot 3').fill('yard notes');
  await page.getByLabel('slots in any order').check();
  // two words of the brief that its one is found in, two places, two words, in six orders
  await expect(page.getByText('labels at most')).toContainText(/^24 labels|^\d+ labels/);
  await page.getByLabel('TLDs').fill('org, net');
  await page.getByLabel('Letters at most').fill('24');
  await noSeriousFaults(page);
  await page.getByRole('button', { name: 'Make and judge them' }).click();
  await expect(page.getByRole('table', { name: 'Ideas' })).toBeVisible({ timeout: 30_000 });
  const first = page.locator('tr[data-idea]').first();
  await expect(first).toContainText('not asked');
  const label = (await first.getAttribute('data-idea')) ?? '';
  await page.getByLabel(`Tick ${label}.org`).check();
  await page.getByRole('button', { name: 'Shortlist 1' }).click();
  await expect(first).toContainText('shortlisted', { timeout: 20_000 });
  await expect(first.getByRole('link')).toContainText(/available|registered/, { timeout: 30_000 });
  const none = { briefId, pattern: { slots: [{ title: 'own', words: [] }], endings: ['org'] } };
  expect((await request.post('/api/v1/ideas', { data: none })).status()).toBe(400);
});

test(
  'old addresses are moved by rules, one at a time and many alike, and leave for a web server',
  LONG,
  async ({ page, request }) => {
    const name = 'oldhives.org';
    const links = ['from,to,anchor'];
    for (const [n, topic] of ['winter-feeding', 'swarms', 'queens', 'mites'].entries())
      for (let site = 0; site <= n; site++)
        links.push(`http://linksite${site}.org/p${n},http://${name}/blog/${topic},about ${topic.replace('-', ' ')}`);
    links.push(`http://linksite1.org/x,http://${name}/casino,free spins`);
    await send(request, '/sources/lists?name=Bought', name);
    await send(request, '/sources/links?name=Links+of+old+hives', links.join('\n'));
    await allDone(request);
    await page.goto(`/domains/${name}/redirects`);
    await expect(page.getByText('No pages of yours are known')).toBeVisible();
    const sitemap = `<?xml version="1.0"?><urlset>${['winter-feeding', 'swarms', 'queens', 'mites', 'contact']
      .map((topic) => `<url><loc>https://beesofthevale.org/guide/${topic}</loc></url>`)
      .join('')}</urlset>`;
    await page
      .getByLabel('Take a sitemap, a table or a list')
      .setInputFiles({ name: 'sitemap.xml', mimeType: 'text/xml', buffer: Buffer.from(sitemap) });
    await expect(page.getByText('5 own pages taken')).toBeVisible();
    await expect(page.getByRole('region', { name: 'Moves alike' })).toContainText('4 addresses');
    await noSeriousFaults(page);
    // one by key, one let go, one taken back, then all that move alike
    await page.keyboard.press('y');
    const rows = page.locator('tr[data-path]');
    await expect(rows.first()).toContainText('beesofthevale.org/guide/mites');
    await expect(rows.nth(1)).toHaveAttribute('aria-current', 'true');
    await page.keyboard.press('g');
    await expect(rows.nth(1)).toContainText('gone');
    await page.keyboard.press('u');
    await expect(rows.nth(1)).not.toContainText('gone');
    await page.getByRole('button', { name: 'accept all of them' }).click();
    await expect(page.getByText('4 of 5 old addresses decided')).toBeVisible();
    await expect(page.getByText(/^9\d% of what its referring domains count is carried/)).toBeVisible();
    const file = async (format: string) =>
      (await request.get(`/api/v1/domains/${name}/redirects/file?format=${format}`)).text();
    expect(await file('csv')).toContain('/blog/swarms,https://beesofthevale.org/guide/swarms,301');
    expect(await file('nginx')).toContain(`server_name ${name} www.${name};`);
    expect(await file('apache-map')).toContain('/blog/queens https://beesofthevale.org/guide/queens');
    // a loop is told, and not written
    await request.patch(`/api/v1/domains/${name}/redirects`, {
      data: { rules: [{ from: '/casino', to: `https://${name}/casino` }] },
    });
    await page.reload();
    await expect(page.getByRole('alert').filter({ hasText: 'leads back to itself' })).toBeVisible();
    expect((await request.get(`/api/v1/domains/${name}/redirects/file?format=nginx`)).status()).toBe(409);
  },
);

test('what one owns is brought in, sums are entered, and profit and loss leave for the accountant', async ({
  page,
  request,
}) => {
  const name = 'broughtin.org';
  await page.goto('/holdings');
  const table = `domain,bought,cost,currency,renews,renewal,registrar\n${name},2025-02-01,100,EUR,2027-02-01,12,Coombe Names\nrubbish,,,,,,\n`;
  await page
    .getByLabel('Bring in what you own')
    .setInputFiles({ name: 'mine.csv', mimeType: 'text/csv', buffer: Buffer.from(table) });
  await expect(page.getByText('1 domain taken, 0 known already, 1 rejected')).toBeVisible();
  const row = page.locator(`tr[data-holding="${name}"]`);
  await row.getByLabel(`Plan for ${name}`).selectOption('redirect');
  await expect(row.getByRole('link', { name: 'where its addresses move' })).toBeVisible();
  await row.getByRole('button', { name: `Enter a sum for ${name}` }).click();
  await page.getByLabel('Sum', { exact: true }).fill('many');
  await page.getByRole('button', { name: 'Enter it' }).click();
  await expect(page.getByRole('alert').filter({ hasText: 'Write the sum as' })).toBeVisible();
  await page.getByLabel('Sum', { exact: true }).fill('450.50');
  await page.getByLabel('Words', { exact: true }).fill('sold to a club');
  await noSeriousFaults(page);
  await page.getByRole('button', { name: 'Enter it' }).click();
  await expect(row).toContainText('350.50');
  await page.getByRole('link', { name: 'by year' }).click();
  await expect(page.getByRole('table', { name: 'Profit and loss' })).toContainText('2025');
  const csv = await (await request.get('/api/v1/holdings/profit?format=csv')).text();
  expect(csv).toContain(`${name},,Coombe Names,sale,450.50,EUR,sold to a club,`);
  expect((await request.get('/api/v1/holdings/profit?format=xlsx')).headers()['content-type']).toContain(
    'spreadsheetml',
  );
  const { lines } = await (await request.get('/api/v1/holdings/profit?by=domain')).json();
  expect(lines.find(({ key }: { key: string }) => key === name)).toMatchObject({
    costMinor: 10_000,
    incomeMinor: 45_050,
  });
});

test('a brief is taken along and in again, and the data folder is copied while everything runs', async ({
  page,
  request,
}) => {
  const names = ['takenalong.org'];
  await send(request, '/sources/lists?name=Along', names.join('\n'));
  await allDone(request);
  await request.post('/api/v1/shortlist', { data: { briefId, names } });
  await request.patch(`/api/v1/shortlist/${names[0]}`, {
    data: { briefId, stage: 'wanted', worthLowMinor: 100, worthHighMinor: 900, note: 'mine' },
  });
  await request.post(`/api/v1/domains/${names[0]}/notes`, { data: { text: 'seen by hand' } });
  const file = await (await request.get(`/api/v1/briefs/${briefId}/file`)).text();
  await useBrief(page, briefId);
  await page.goto('/briefs');
  await page
    .getByLabel('Take in a brief file')
    .setInputFiles({ name: 'bees.brief.json', mimeType: 'application/json', buffer: Buffer.from(file) });
  await expect(page.getByText(/^Taken in, with \d+ domains? on its shortlist/)).toBeVisible();
  const { briefs } = await (await request.get('/api/v1/briefs')).json();
  const copy = briefs.find(({ name }: { name: string }) => name.endsWith('(2)'));
  const again = JSON.parse(await (await request.get(`/api/v1/briefs/${copy.id}/file`)).text());
  const before = JSON.parse(file);
  expect(again.brief).toEqual({ ...before.brief, name: copy.name });
  const byName = (one: { name: string }, other: { name: string }) => one.name.localeCompare(other.name);
  expect(again.shortlist.sort(byName)).toEqual(before.shortlist.sort(byName));
  expect(again.shortlist.find(({ name }: { name: string }) => name === names[0]).notes).toContain('seen by hand');
  expect((await request.post('/api/v1/briefs/file', { data: { kind: 'sieve' } })).status()).toBe(400);

  await page.goto('/settings');
  await page.getByRole('button', { name: 'Copy it now' }).click();
  await expect(page.getByRole('region', { name: 'Copies of the data folder' })).toContainText(/backups\/\d{4}-/, {
    timeout: 30_000,
  });
  const [{ path }] = (await (await request.get('/api/v1/backups')).json()).backups;
  const copied = new Database(join(path, 'jam-ladle.sqlite'), { readonly: true });
  expect(copied.prepare('SELECT count(*) FROM briefs').pluck().get()).toBe(briefs.length);
  expect(copied.pragma('integrity_check', { simple: true })).toBe('ok');
  copied.close();
  expect(existsSync(join(path, 'config.json'))).toBe(true);
});
