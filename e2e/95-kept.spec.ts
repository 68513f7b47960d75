import { type APIRequestContext, expect, type Page } from '@playwright/test';
import { noSeriousFaults } from './faults';
import { test } from './test';

test.describe.configure({ mode: 'serial' });

/** The right offer at the right price, and nothing entered is lost. */
const NAMES = ['boughthoneyone.com', 'boughthoneytwo.com', 'boughthoneythree.com'];
let briefId = 0;

const importList = async (request: APIRequestContext, name: string, lines: string[]) => {
  const { job } = await (
    await request.post(`/api/v1/sources/lists?name=${encodeURIComponent(name)}`, {
      headers: { 'content-type': 'text/csv' },
      data: lines.join('\n'),
    })
  ).json();
  await expect.poll(async () => (await (await request.get(`/api/v1/jobs/${job.id}`)).json()).state).toBe('done');
};
const openPool = async (page: Page, query: string) => {
  await page.goto(`/pool${query}`);
  await expect(page.locator('#grid[aria-busy=false]')).toHaveCount(1);
};
/** Presses the undo of a message; messages move while others come, and a person presses where they are. */
const undo = (page: Page, words: string) =>
  page
    .getByRole('listitem')
    .filter({ hasText: words })
    .getByRole('button', { name: 'Undo' })
    .evaluate((button: HTMLElement) => button.click());
const sieves = async (request: APIRequestContext) => (await (await request.get('/api/v1/sieves')).json()).sieves;

test.beforeAll(async ({ request }) => {
  await importList(request, 'Quillmere', [
    'domain,venue,kind,price,currency,bids,closing',
    `${NAMES[0]},Quillmere,auction,4,EUR,2,2026-11-28`,
    `${NAMES[1]},Quillmere,buy now,95,EUR,,`,
    `${NAMES[2]},Quillmere,buy now,900,EUR,,`,
  ]);
  await importList(request, 'Harrowgate', [
    'domain,venue,kind,price,currency',
    `${NAMES[0]},Harrowgate,buy now,120,EUR`,
    `${NAMES[1]},Harrowgate,buy now,60,EUR`,
  ]);
  const brief = { name: 'A shelf of honey', purpose: 'resell', budgetMinor: 80_000, currency: 'EUR' };
  briefId = (await (await request.post('/api/v1/briefs', { data: brief })).json()).id;
  await request.post('/api/v1/shortlist', { data: { briefId, names: NAMES } });
  for (const name of NAMES)
    await request.patch(`/api/v1/shortlist/${name}`, {
      data: { briefId, worthLowMinor: 20_000, worthHighMinor: 40_000, note: `of ${name}` },
    });
  await request.patch('/api/v1/settings', { data: { isDryRun: false } });
});
test.beforeEach(async ({ context }) => {
  await context.addCookies([{ name: 'brief', value: String(briefId), url: test.info().project.use.baseURL ?? '' }]);
});

test('an order begins with the cheaper of two venues, says what the other costs, and sends the figure that is typed', async ({
  page,
  request,
}) => {
  await page.goto('/shortlist');
  const row = page.locator(`tr[data-domain="${NAMES[1]}"]`);
  await expect(row).toContainText('buy now, 60 EUR +1');
  await page.getByRole('button', { name: `Details of ${NAMES[1]}` }).click();
  const ways = page.getByRole('region', { name: `Ways to have ${NAMES[1]}` });
  await expect(ways).toContainText('buy now at Harrowgate for 60 EUR');
  await expect(ways).toContainText('buy now at Quillmere for 95 EUR; 110 EUR in all, 15 EUR of it fees');
  await ways.getByRole('button', { name: `Order ${NAMES[1]}` }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByRole('radio').first()).toBeChecked();
  await expect(dialog.getByRole('radio', { name: /buy now at Harrowgate for 60 EUR/i })).toBeChecked();
  await expect(dialog).toContainText('110 EUR in all');
  await page.keyboard.press('Escape');

  await page
    .locator(`tr[data-domain="${NAMES[0]}"]`)
    .getByRole('button', { name: /^Details/ })
    .focus();
  await page.keyboard.press('o');
  await expect(dialog.getByRole('radio', { name: /auction at Quillmere/i })).toBeChecked();
  await expect(dialog.getByLabel('The most you pay')).toBeFocused();
  await noSeriousFaults(page, '[role=dialog]');
  await page.keyboard.type('23');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Enter');
  await expect(dialog.getByRole('status')).toContainText('yours to do by hand');
  const { open } = await (await request.get(`/api/v1/orders?brief=${briefId}`)).json();
  expect(open.map(({ name, amountMinor }: { name: string; amountMinor: number }) => [name, amountMinor])).toEqual([
    [NAMES[0], 2300],
  ]);
});

test('the same order sent twice is one, and another under its key is refused', async ({ request }) => {
  const order = {
    name: NAMES[1],
    briefId,
    venue: 'Harrowgate',
    kind: 'buy',
    amountMinor: 6000,
    clientKey: 'once and no more',
  };
  const send = async (data: object) => await request.post('/api/v1/orders', { data });
  const [first, second] = await Promise.all([send(order), send(order)]);
  expect([first.status(), second.status()]).toEqual([201, 201]);
  expect((await first.json()).order.id).toBe((await second.json()).order.id);
  expect((await send({ ...order, amountMinor: 6100 })).status()).toBe(409);
});

test('conditions on offers find what any open offer has all of, and the grid shows that offer', async ({ page }) => {
  await openPool(page, '?c=listing:buy-now&c=price:100..200&c=name:contains%3Dboughthoney');
  await expect(page.getByTestId('total')).toHaveText('1');
  const row = page.locator(`[data-domain="${NAMES[0]}"]`);
  await expect(row).toContainText('120 EUR');
  await expect(row).toContainText('+1');
  // by auction it is to be had for less, but not bought
  await page.goto('/pool?c=listing:buy-now&c=price:..50&c=name:contains%3Dboughthoney');
  await expect(page.getByTestId('total')).toHaveText('0');
});

test('a sieve that is kept and then changed stays itself, and is put back, kept, and undone', async ({
  page,
  request,
}) => {
  await openPool(page, '?c=name:contains%3Dboughthoney&c=length:5..');
  await page.getByRole('button', { name: 'Kept sieves' }).click();
  await page.getByRole('menuitem', { name: 'Keep this sieve…' }).click();
  await page.getByLabel('Name for this sieve').fill('Shelf');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'Shelf' })).toBeVisible();
  const [before] = await sieves(request);
  await page.locator('#grid').focus();
  await page.keyboard.press('/');
  await expect(page.getByLabel(/^Letters, by commas/)).toHaveValue('');
  await page.keyboard.type('honeyone');
  await expect(page.getByTestId('total')).toHaveText('1');
  await expect(page.getByRole('heading', { name: 'Shelf' })).toBeVisible();
  await page.getByRole('button', { name: 'put back' }).click();
  await expect(page.getByTestId('total')).toHaveText('3');
  await page.getByRole('button', { name: 'Clear all' }).click();
  await expect(page.getByText('2 conditions cleared')).toBeVisible();
  await undo(page, 'conditions cleared');
  await expect(page.getByTestId('total')).toHaveText('3');
  await page.getByRole('button', { name: 'Switch the condition on length off' }).click();
  await page.getByRole('button', { name: 'keep', exact: true }).click();
  await expect.poll(async () => (await sieves(request))[0].view).not.toBe(before.view);
  await undo(page, 'is kept as it is now');
  await expect.poll(async () => (await sieves(request))[0].view).toBe(before.view);
  // a name that is taken is not taken over
  expect((await request.post('/api/v1/sieves', { data: { name: 'Shelf', view: 'c=length:9..' } })).status()).toBe(409);
  const file = await (await request.get(`/api/v1/sieves/${before.id}/file`)).json();
  expect((await (await request.post('/api/v1/sieves/file', { data: file })).json()).name).toBe('Shelf (2)');
});

test('back from a dossier the same row stands in the same place and hears its keys', async ({ page }) => {
  await openPool(page, '?sort=name:up');
  await page.locator('#grid').focus();
  for (let n = 0; n < 4; n++) await page.keyboard.press('PageDown');
  const top = () => page.locator('#grid').evaluate((grid) => grid.scrollTop);
  const active = () => page.locator('#grid').getAttribute('aria-activedescendant');
  const [scroll, row] = [await top(), await active()];
  expect(scroll).toBeGreaterThan(500);
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/\/domains\//);
  await page.goBack();
  await expect.poll(active).toBe(row);
  expect(Math.abs((await top()) - scroll)).toBeLessThan(2);
  await page.keyboard.press('ArrowDown');
  await expect.poll(active).toBe(`row-${Number(row?.replace('row-', '')) + 1}`);
});

test('a review goes on where it was after a reload, and begins anew when it is begun anew', async ({ page }) => {
  await page.goto('/review?c=name:contains%3Dboughthoney&sort=name:up');
  await expect(page.getByText('1 of 3')).toBeVisible();
  await page.keyboard.press('n');
  await page.keyboard.press('Enter');
  await expect(page.getByText('2 of 3')).toBeVisible();
  await page.reload();
  await expect(page.getByText('2 of 3')).toBeVisible();
  await expect(page.getByText('1 passed over')).toBeVisible();
  await page.keyboard.press('u');
  await expect(page.getByText('1 of 3')).toBeVisible();
  const judged = async () => (await (await page.request.get(`/api/v1/domains/${NAMES[0]}`)).json()).judged;
  await expect.poll(judged).toBe('not-yet');
  await page.goto('/review?c=name:contains%3Dboughthoney&sort=name:up');
  await expect(page.getByText('1 of 3')).toBeVisible();
});

test('taking off a shortlist keeps what was said, wherever it is put on again', async ({ page, request }) => {
  const entry = async () => {
    const { entries } = await (await request.get(`/api/v1/shortlist?brief=${briefId}`)).json();
    return entries.find(({ domain }: { domain: { name: string } }) => domain.name === NAMES[2]);
  };
  await openPool(page, '?c=name:contains%3Dboughthoneythree');
  await page.locator('#grid').focus();
  await page.keyboard.press('s');
  await expect.poll(entry).toBeUndefined();
  await page.keyboard.press('s');
  await expect.poll(async () => (await entry())?.note).toBe(`of ${NAMES[2]}`);
});

test('acts stand in a list, each with its undo, and settings and watches come back', async ({ page, request }) => {
  await request.post('/api/v1/watches', {
    data: { kind: 'folder', target: '/nowhere/lists', name: 'Old lists', everyMinutes: 60 },
  });
  await page.goto('/sources');
  const watch = page.locator('[data-watch="Old lists"]');
  await watch.getByRole('button', { name: 'Remove' }).click();
  await expect(watch).toHaveCount(0);
  await undo(page, '"Old lists" is watched no more');
  await expect(watch).toHaveCount(1);
  await request.patch('/api/v1/settings', { data: { crawlDelayMs: 1234 } });
  await page.goto('/acts');
  await page.getByRole('button', { name: 'Undo: settings: crawlDelayMs' }).click();
  await expect(page.getByText('Undone: settings: crawlDelayMs')).toBeVisible();
  expect((await (await request.get('/api/v1/settings')).json()).crawlDelayMs).not.toBe(1234);
  await noSeriousFaults(page);
});

test('Ctrl K finds domains, kept sieves and settings, and Escape gives a field back to the keys', async ({ page }) => {
  await page.goto('/');
  const palette = page.getByPlaceholder(/^A screen, an action/);
  await page.keyboard.press('Control+k');
  await palette.fill('boughthoneytw');
  await page.getByRole('option', { name: `Dossier of ${NAMES[1]}` }).click();
  await expect(page).toHaveURL(new RegExp(NAMES[1]));
  await page.keyboard.press('Control+k');
  await palette.fill('shelf');
  await page.getByRole('option', { name: 'Kept sieve: Shelf', exact: true }).click();
  await expect(page.getByTestId('total')).toHaveText('3');
  await page.keyboard.press('Control+k');
  await palette.fill('usual price');
  await page.getByRole('option', { name: 'Setting: Usual price of a registration' }).click();
  await expect(page.getByLabel(/^Usual price of a registration/)).toBeFocused();
  await page.keyboard.press('Escape');
  await page.keyboard.press('g');
  await page.keyboard.press('p');
  await expect(page).toHaveURL(/\/pool/);
});

test('whole domains are understood as names, and names are sifted by what they are about', async ({ page }) => {
  await openPool(page, `?c=name:is%3D${encodeURIComponent(`https://www.${NAMES[0]}/`)},${NAMES[1]}`);
  await expect(page.getByTestId('total')).toHaveText('2');
  await openPool(page, '?c=name:contains%3Dboughthoney');
  await page.keyboard.press('a');
  await page.getByRole('option', { name: /^Subject by name/ }).click();
  await page.getByLabel('Letters of a subject').fill('bee');
  await page.getByRole('checkbox', { name: 'Beekeeping' }).check();
  await expect(page.locator('[data-condition=nameSubject]')).toContainText('Subject by name is Beekeeping');
  await expect(page.getByTestId('total')).toHaveText(/^[1-3]$/);
});

test('what is not there is told in the product’s own form', async ({ request }) => {
  const robots = await request.get('/robots.txt');
  expect(robots.status()).toBe(200);
  expect(await robots.text()).toContain('Disallow: /');
  const nothing = await request.get('/api/v1/nothing/at/all');
  expect(nothing.status()).toBe(404);
  expect(nothing.headers()['content-type']).toContain('application/problem+json');
  const calendar = await (await request.get('/api/v1/deadlines/calendar')).text();
  expect(calendar.endsWith('END:VCALENDAR\r\n')).toBe(true);
});
