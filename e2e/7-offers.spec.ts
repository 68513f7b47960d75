import { mkdirSync, utimesSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, type Page } from '@playwright/test';
import { noSeriousFaults } from './faults';
import { LONG, test } from './test';

test.describe.configure({ mode: 'serial' });

/** What names domains without a person in the loop: venues, link exports, watched folders; and taking an import back. */
const folder = () => process.env.E2E_FOLDER ?? '';
const jobDone = (page: Page, kind: string) =>
  expect(page.locator(`[data-job=${kind}]`).last()).toHaveAttribute('data-state', 'done', { timeout: 60_000 });

test('a venue is recognised by its address, read, and read again', async ({ page }) => {
  await page.goto('/sources?add=feed');
  await page.getByLabel('Address of the listings').fill('http://saltmarchexchange.com/listings.json');
  await page.getByRole('button', { name: 'Look at it' }).click();
  await expect(page.getByText('A feed of our kind: Saltmarch Exchange')).toBeVisible();
  await page.getByLabel('Read it again').selectOption('15');
  await page.getByRole('button', { name: 'Read the venue' }).click();
  await expect(page).toHaveURL(/\/sources\/\d+$/);
  await jobDone(page, 'venue');
  await expect(page.getByRole('heading', { name: 'Open listings' })).toBeVisible();
  await expect(page.getByText('read again every 15 min')).toBeVisible();
  await page.getByRole('link', { name: /^falling price \d/ }).click();
  await expect(page).toHaveURL(/kind=falling/);
  await expect(page.getByRole('row', { name: /falling price/ }).first()).toContainText(/\d (in|2\d Nov)/);
  await expect(page.getByRole('row', { name: /expired-name auction/ })).toHaveCount(0);
  await noSeriousFaults(page);
  await page.getByRole('button', { name: 'Read it again now' }).click();
  await expect(page.locator('[data-job=venue]')).toHaveCount(2);
  await jobDone(page, 'venue');
});

test('a venue without such a feed is mapped, and the dossier shows the offers of both in the user’s currency', async ({
  page,
  request,
}) => {
  await page.goto('/sources?add=feed');
  await page.getByLabel('Address of the listings').fill('http://quaysidelots.com/lots.csv');
  await page.getByRole('button', { name: 'Look at it' }).click();
  await expect(page.getByLabel('Meaning of Format')).toHaveValue('kind');
  await expect(page.getByLabel('Meaning of Reserve')).toHaveValue('reserve');
  await page.getByRole('textbox', { name: 'Venue', exact: true }).fill('Quayside Lots');
  await page.getByRole('button', { name: 'Read the venue' }).click();
  await expect(page).toHaveURL(/\/sources\/\d+$/);
  await jobDone(page, 'venue');
  await expect(page.getByRole('columnheader', { name: 'in EUR' })).toBeVisible();

  const both = async () => {
    const { sources } = await (await request.get('/api/v1/sources')).json();
    const ids = ['Saltmarch Exchange', 'Quayside Lots'].map(
      (name) => sources.find((source: { name: string }) => source.name === name).id,
    );
    const member = (id: number) => ({ type: 'member', fact: 'source', values: [id], not: false });
    const data = { parts: ids.map(member), sorts: [{ fact: 'price', descending: false }], limit: 50 };
    const { rows } = await (await request.post('/api/v1/pool/query', { data })).json();
    return rows.find((row: { offers: number | null }) => (row.offers ?? 0) > 1);
  };
  await expect.poll(both).toBeTruthy();
  const { name } = await both();
  await page.goto(`/domains/${name}`);
  const listings = page.getByRole('region', { name: /^Listings/ });
  const offers = listings.getByRole('table', { name: 'Offers' }).locator('tbody tr');
  await expect(offers).toHaveCount(2);
  await expect(offers.first()).toContainText('shown in the pool');
  await expect(listings).toContainText(/GBP, [\d,.]+ EUR/);
  await noSeriousFaults(page);

  // another rate moves the price in the pool
  const before = (await both()).homeMinor;
  const { currency } = await both();
  const other = currency === 'GBP' ? { GBP: 0.5 } : { GBP: 0.01 };
  await request.patch('/api/v1/settings', { data: { rates: other } });
  await expect.poll(async () => (await both()).homeMinor).not.toBe(before);
  await request.patch('/api/v1/settings', { data: { rates: { GBP: 1.15, USD: 0.92 } } });
});

test('a link export is cut to outside domains, and taken back as one', LONG, async ({ page, request }) => {
  const path = join(folder(), 'crawl-export.tsv');
  const rows = Array.from(
    { length: 300 },
    (_, i) => `http://umberleymarket.com/${i % 9}.html\thttp://waxwinghives${i % 100}.org/\ttext ${i}\tnofollow`,
  );
  const inside = 'http://umberleymarket.com/1.html\thttp://umberleymarket.com/2.html\tmore\t';
  writeFileSync(path, ['Page\tGoes to\tWords\tRel', ...rows, inside, 'broken'].join('\n'));
  await page.goto('/sources?add=links');
  await page.getByLabel('Choose a link export').setInputFiles(path);
  // a column of addresses is told as such, whatever it is called
  await expect(page.getByLabel('Meaning of Goes to')).toHaveValue('to');
  await page.getByLabel('Meaning of Goes to').selectOption('ignore');
  await expect(page.getByRole('alert').filter({ hasText: 'Mark the linking page and the linked page' })).toBeVisible();
  await page.getByLabel('Meaning of Goes to').selectOption('to');
  await expect(page.getByRole('cell', { name: 'waxwinghives0.org', exact: true })).toBeVisible();
  await page.getByLabel('check and measure them').uncheck();
  await noSeriousFaults(page);
  await page.getByRole('button', { name: 'Cut the export' }).click();
  await expect(page).toHaveURL(/\/sources\/\d+$/);
  await jobDone(page, 'cut');
  for (const [label, figure] of [
    ['rows read', '302'],
    ['to outside domains', '300'],
    ['within one domain', '1'],
    ['rejected', '1'],
    ['domains found', '100'],
    ['in the pool', '100'],
  ])
    await expect(page.locator('dl > div', { has: page.getByText(label, { exact: true }) })).toContainText(figure);

  const size = async () => (await (await request.post('/api/v1/pool/query', { data: { limit: 0 } })).json()).size;
  const before = await size();
  await page.getByRole('button', { name: 'Undo import' }).click();
  await expect(page.getByRole('alertdialog')).toContainText('leave the pool');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Undo import' }).click();
  await page.getByRole('button', { name: 'Undo it' }).click();
  await jobDone(page, 'undo');
  await expect(page.getByText('100 names left the pool')).toBeVisible();
  await expect.poll(size).toBe(before - 100);
  await page.goto('/sources');
  await expect(page.locator('[data-source=crawl-export]')).toContainText('undone');
});

test(
  'a watched folder brings in each new file, and a watched address each new version',
  LONG,
  async ({ page, request }) => {
    const lists = join(folder(), 'watched');
    mkdirSync(lists, { recursive: true });
    const put = (name: string, text: string) => {
      writeFileSync(join(lists, name), text);
      const past = Date.now() / 1000 - 60;
      utimesSync(join(lists, name), past, past);
    };
    put('monday.csv', 'domain\nskepsofmonday.org\n');
    await page.goto('/sources?add=watch');
    await page.getByRole('textbox', { name: /^Folder/ }).fill('lists');
    await page.getByRole('textbox', { name: 'Name', exact: true }).fill('Lists of the week');
    await page.getByRole('button', { name: 'Watch it' }).click();
    await expect(page.getByRole('alert').filter({ hasText: 'whole path' })).toBeVisible();
    await page.getByRole('textbox', { name: /^Folder/ }).fill(lists);
    await page.getByRole('button', { name: 'Watch it' }).click();
    const row = page.locator('[data-watch="Lists of the week"]');
    await expect(row).toBeVisible();
    await expect(page.locator('[data-source="monday.csv"]')).toBeVisible({ timeout: 20_000 });
    put('tuesday.csv', 'domain\nskepsoftuesday.org\n');
    await row.getByRole('button', { name: 'Run now' }).click();
    await expect(page.locator('[data-source="tuesday.csv"]')).toBeVisible({ timeout: 20_000 });
    await expect(page.locator('[data-source="monday.csv"]')).toHaveCount(1);
    await noSeriousFaults(page);

    await page.getByLabel('an address').check();
    await page.getByRole('textbox', { name: /^Address/ }).fill('http://quaysidelots.com/drops.csv');
    await page.getByRole('textbox', { name: 'Name', exact: true }).fill('Drops of Quayside');
    await page.getByRole('button', { name: 'Watch it' }).click();
    await expect(page.locator('[data-source="Drops of Quayside"]')).toBeVisible({ timeout: 20_000 });
    const outcome = async () => {
      const { watches } = await (await request.get('/api/v1/watches')).json();
      return watches.find(({ name }: { name: string }) => name === 'Drops of Quayside').outcome;
    };
    await page.locator('[data-watch="Drops of Quayside"]').getByRole('button', { name: 'Run now' }).click();
    await expect.poll(outcome, { timeout: 20_000 }).toBe('nothing has changed');
    await row.getByRole('button', { name: 'Remove' }).click();
    await expect(row).toHaveCount(0);
  },
);
