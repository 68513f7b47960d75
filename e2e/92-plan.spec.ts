import { join } from 'node:path';
import { type APIRequestContext, expect } from '@playwright/test';
import { noSeriousFaults } from './faults';
import { CASINO, CLUB, TONGUES } from './stories';
import { LONG, test } from './test';

test.describe.configure({ mode: 'serial' });

/** What a person does to have a plan of bids made: a budget, worths, a maximum; and how the plan follows. */
const NAMES = ['plannedhoneyone.com', 'plannedhoneytwo.com', 'plannedhoneythree.com', 'plannedhoneyfour.com'];
const SEASON = 'A season of bids';
let briefId = 0;

const plan = async (request: APIRequestContext, risk = '') =>
  (await request.get(`/api/v1/plan?brief=${briefId}${risk && `&risk=${risk}`}`)).json();
const worth = (request: APIRequestContext, name: string, worthLowMinor: number, worthHighMinor: number) =>
  request.patch(`/api/v1/shortlist/${name}`, { data: { briefId, worthLowMinor, worthHighMinor } });

const worthOf = async (request: APIRequestContext): Promise<number[]> => {
  const { entries } = await plan(request);
  const entry = entries.find(({ name }: { name: string }) => name === NAMES[0]);
  return [entry.worthLowMinor, entry.worthHighMinor];
};

test.beforeAll(async ({ request }) => {
  const list = [
    'domain,kind,price,currency,bids,closing',
    `${NAMES[0]},auction,40,EUR,2,2026-11-28`,
    `${NAMES[1]},auction,60,EUR,0,2026-11-27`,
    `${NAMES[2]},buy now,900,EUR,,`,
    `${NAMES[3]},buy now,50,EUR,,`,
  ].join('\n');
  const { job } = await (
    await request.post('/api/v1/sources/lists?name=Offers+to+plan', {
      headers: { 'content-type': 'text/csv' },
      data: list,
    })
  ).json();
  await expect.poll(async () => (await (await request.get(`/api/v1/jobs/${job.id}`)).json()).state).toBe('done');
  const brief = { name: SEASON, purpose: 'resell', budgetMinor: 40_000, currency: 'EUR' };
  briefId = (await (await request.post('/api/v1/briefs', { data: brief })).json()).id;
  await request.post('/api/v1/shortlist', { data: { briefId, names: NAMES } });
});

test('worths are typed where they are asked for, and the plan says what to go for and why', async ({
  page,
  context,
  request,
}) => {
  await context.addCookies([{ name: 'brief', value: String(briefId), url: test.info().project.use.baseURL ?? '' }]);
  // addresses of the plan that were kept lead to the shortlist, where it stands
  await page.goto('/shortlist/plan');
  await expect(page).toHaveURL(/\/shortlist$/);
  await expect(page.getByRole('heading', { name: SEASON, exact: true })).toBeVisible();
  const row = (name: string) => page.locator(`tr[data-domain="${name}"]`);
  const opened = (part: string, name: string) => page.getByRole('region', { name: `${part} ${name}` });
  await expect(page.locator('tr[data-domain]')).toHaveCount(4);
  await expect(row(NAMES[0])).toContainText('say what it is worth to you');
  await page.getByRole('button', { name: `Details of ${NAMES[0]}` }).focus();
  await page.keyboard.press('Enter');
  const least = page.getByLabel(`Worth at least of ${NAMES[0]}`);
  await least.fill('a lot');
  await least.blur();
  await expect(page.getByText('write it as 140 or 140.50')).toBeVisible();
  await least.fill('150');
  await least.press('Enter');
  await expect(page.getByText(`${NAMES[0]}: kept`)).toBeVisible();
  await page.getByLabel(`Worth at most of ${NAMES[0]}`).fill('420.50');
  await page.getByLabel(`Worth at most of ${NAMES[0]}`).press('Enter');
  await expect(opened('What speaks against', NAMES[0])).toContainText(
    /Bid up to \d+: worth 150 to 421 to you; \d+% to win/i,
  );
  await expect(row(NAMES[0])).toContainText(/\d+% to win, brings \d+ EUR/);
  await expect(
    row(NAMES[0]).getByRole('img', { name: /price 4\d EUR, rivals likely to .* worth 150 EUR to 421 EUR/ }),
  ).toBeVisible();
  for (const name of NAMES.slice(1)) await worth(request, name, 15_000, 42_000);
  await page.reload();
  // in the order of their closings, what is a price at the end, and first of those what is taken
  await expect(page.locator('tr[data-domain]')).toHaveText(
    [NAMES[1], NAMES[0], NAMES[3], NAMES[2]].map((name) => new RegExp(name)),
  );
  await expect(row(NAMES[3])).toContainText(/\d+% to be had, brings \d+ EUR/);
  await expect(row(NAMES[2])).toContainText('900 EUR, over its maximum');
  await page.getByRole('button', { name: `Details of ${NAMES[1]}` }).click();
  await expect(opened('What speaks against', NAMES[1])).toContainText(/If lost: .*If won: /);
  await expect(opened('Ways to have', NAMES[1])).toContainText('assumed: none of its auctions was seen to end');
  await page.getByRole('button', { name: `Details of ${NAMES[2]}` }).click();
  await expect(opened('What speaks against', NAMES[2])).toContainText(
    /left out: it costs at least 900, and the most to pay is/i,
  );
  await noSeriousFaults(page);
});

test('a maximum, the risk and the budget change the plan, and a bid that is placed holds its money', async ({
  page,
  context,
  request,
}) => {
  await context.addCookies([{ name: 'brief', value: String(briefId), url: test.info().project.use.baseURL ?? '' }]);
  for (const name of NAMES) await worth(request, name, 15_000, 42_000);
  const before = await plan(request);
  const bidOn = (of: { bids: { name: string; bidMinor: number | null }[] }, name: string) =>
    of.bids.find((bid) => bid.name === name)?.bidMinor ?? null;
  expect(bidOn(before, NAMES[0])).toBeGreaterThan(4500);
  await page.goto('/shortlist');
  await page.getByLabel(`Maximum bid of ${NAMES[0]}`).fill('45');
  await page.getByLabel(`Maximum bid of ${NAMES[0]}`).press('Enter');
  await expect.poll(async () => bidOn(await plan(request), NAMES[0])).toBeLessThanOrEqual(4500);
  await page.getByRole('button', { name: 'Undo' }).first().click();
  await expect.poll(async () => bidOn(await plan(request), NAMES[0])).toBe(bidOn(before, NAMES[0]));
  const cautious = await plan(request, 'cautious');
  expect(cautious.worstMinor).toBeLessThanOrEqual(40_000);
  await page.getByLabel('How sure').selectOption('cautious');
  await expect.poll(async () => (await plan(request)).risk).toBe('cautious');
  // what waits for its outcome is not planned again, and its maximum is not there to be spent
  await request.patch(`/api/v1/shortlist/${NAMES[1]}`, {
    data: { briefId, stage: 'waiting', maximumBidMinor: 30_000 },
  });
  const after = await plan(request);
  expect(after.leftMinor).toBe(10_000);
  expect(bidOn(after, NAMES[1])).toBeNull();
  expect(after.heldMinor).toBeLessThanOrEqual(10_000);
  await page.reload();
  await expect(page.getByText(/300 EUR bid or spent/)).toBeVisible();
  await expect(page.getByText(/of 400 EUR left/)).toBeVisible();
  expect((await request.get('/api/v1/plan?risk=reckless')).status()).toBe(400);
  expect(
    (await request.patch(`/api/v1/shortlist/${NAMES[0]}`, { data: { briefId, worthLowMinor: 1.5 } })).status(),
  ).toBe(400);
});

test('a brief says what it wants and what counts, and the fit in dossier and shortlist follows', async ({
  page,
  context,
  request,
}) => {
  const names = [CLUB, CASINO, TONGUES];
  const brief = {
    name: 'A field of bees',
    purpose: 'rebuild',
    subjectWords: ['bee', 'hive', 'honey', 'apiary'],
    budgetMinor: 10_000,
  };
  const { id } = await (await request.post('/api/v1/briefs', { data: brief })).json();
  await request.post('/api/v1/shortlist', { data: { briefId: id, names } });
  await context.addCookies([{ name: 'brief', value: String(id), url: test.info().project.use.baseURL ?? '' }]);
  const parts = page.getByRole('table', { name: 'Parts of the fit' });
  const part = (title: string) => parts.getByRole('row').filter({ hasText: title });
  await page.goto(`/domains/${names[1]}`);
  await expect(page.getByRole('heading', { name: /^Fit for A field of bees: / })).toContainText('held down to');
  await expect(part('Words of its name')).toContainText('it says hive');
  await expect(part('Subject of its links and past')).toContainText('counts 10');
  await noSeriousFaults(page, '[aria-labelledby=fit]');
  await page.goto('/shortlist');
  const row = (name: string) => page.locator(`tr[data-domain="${name}"]`);
  await expect(row(names[0]).getByRole('img', { name: /^fit \d+/ })).toBeVisible();
  await page.getByRole('button', { name: `Details of ${names[0]}` }).click();
  await expect(page.getByRole('region', { name: `What speaks against ${names[0]}` })).toContainText(
    /first under \d+% of weights/,
  );
  await noSeriousFaults(page);
  await page.goto('/briefs');
  await page.getByLabel('Words it must not say').fill('hive');
  await page.getByLabel('Languages').fill('de');
  await page.getByLabel('Name that can be said').fill('11');
  await page.getByRole('button', { name: 'Save the brief' }).click();
  await expect(page.getByRole('alert').filter({ hasText: 'A number from 0 to 10.' })).toBeVisible();
  await expect(page.getByLabel('Name that can be said')).toBeFocused();
  await page.getByLabel('Name that can be said').fill('9');
  await page.getByRole('button', { name: 'Save the brief' }).click();
  await expect(page.getByText('"A field of bees" is saved')).toBeVisible();
  await page.goto(`/domains/${names[1]}`);
  await expect(part('Words of its name')).toContainText('it says hive, which is not wanted');
  await expect(part('Name that can be said')).toContainText('counts 9');
  await expect(part('Language')).toContainText('English');
  expect((await request.patch(`/api/v1/briefs/${id}`, { data: { languages: ['German'] } })).status()).toBe(400);
});

test(
  'worth is suggested by names that were sold, from a file, and taken by a click',
  LONG,
  async ({ page, context, request }) => {
    await context.addCookies([{ name: 'brief', value: String(briefId), url: test.info().project.use.baseURL ?? '' }]);
    await page.goto('/sources?add=sales');
    const file = page.getByLabel('Choose a list of sales');
    await file.setInputFiles({ name: 'odd.csv', mimeType: 'text/csv', buffer: Buffer.from('a,b\n1,2\n') });
    await expect(page.getByText('No line of titles names a column for domain, price, date.')).toBeVisible();
    await file.setInputFiles(join(process.env.E2E_FOLDER ?? '', 'world/sales.csv'));
    await expect(page.getByText('3,000 sales taken, 0 known already, 0 rejected')).toBeVisible();
    await page.goto('/shortlist');
    await expect(page.getByText(/Worth is suggested by 3,000 sales from .* 2018 to /)).toBeVisible();
    await page.getByRole('button', { name: `Details of ${NAMES[0]}` }).click();
    const row = page.getByRole('region', { name: `Worth and maximum of ${NAMES[0]}` });
    await expect(row).toContainText(/Similar names sold for \d+ to \d+/);
    await row.getByText('which').click();
    const alike = page.getByRole('table', { name: `Sales like ${NAMES[0]}` });
    await expect(alike.locator('tbody tr')).toHaveCount(5);
    await expect(alike).toContainText(/distance 0\.\d\d/);
    const before = await worthOf(request);
    await page.getByRole('button', { name: `Take what similar names sold for as the worth of ${NAMES[0]}` }).click();
    await expect.poll(() => worthOf(request)).not.toEqual(before);
    const [low, high] = await worthOf(request);
    expect(high).toBeGreaterThan(low);
    await page.getByRole('button', { name: 'Undo' }).first().click();
    await expect.poll(() => worthOf(request)).toEqual(before);
    await noSeriousFaults(page);
    expect((await request.post('/api/v1/sales', { data: 'nothing' })).status()).toBe(400);
  },
);
