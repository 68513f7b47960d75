import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, type Page } from '@playwright/test';
import { noSeriousFaults as faultsOf, noFaintText, noSmallTargets } from './faults';
import { allDone } from './stories';
import { LONG, listening, test } from './test';

/** The whole job once, as a newcomer does it, on the production build; each step builds on the one before. */
test.describe.configure({ mode: 'serial' });

const LIST_LINES = 8000;
const folder = () => process.env.E2E_FOLDER ?? '';
let page: Page;
const errors: string[] = [];

test.beforeAll(async ({ browser }) => {
  page = listening(await (await browser.newContext()).newPage());
  page.on('pageerror', (error) => errors.push(error.message));
  page.on(
    'console',
    (message) => message.type() === 'error' && !/status of 4\d\d/.test(message.text()) && errors.push(message.text()),
  );
});
test.afterEach(() => {
  expect(errors.splice(0)).toEqual([]);
});
test.afterAll(() => page.close());

const noSeriousFaults = () => faultsOf(page);
/** Opens the pool and waits until it hears keys and clicks. */
async function openPool(query = ''): Promise<void> {
  await page.goto(`/pool${query}`);
  // while the page streams in, its parts may stand in the document twice for a moment
  await expect(page.locator('#grid')).toHaveCount(1);
  await expect(page.locator('#grid[aria-busy=false]')).toHaveCount(1);
}
const jobDone = (kind: string) =>
  expect(page.locator(`[data-job=${kind}]`).last()).toHaveAttribute('data-state', 'done', { timeout: 60_000 });

test('an empty product leads to a first source', async () => {
  await page.goto('/');
  await expect(page.getByText('Two ways to a first find')).toBeVisible();
  await noSeriousFaults();
  await page.getByRole('link', { name: 'Crawl a site' }).click();
  await expect(page.getByRole('tab', { name: 'Crawl' })).toHaveAttribute('data-state', 'active');
});

test('a first brief is made by four questions, and leads to a crawl of its trusted sites', async () => {
  await page.getByRole('link', { name: 'Briefs' }).click();
  await page.getByLabel('Which words would be in its subject?').fill('bee, hive, honey');
  await expect(page.getByText('the pool is empty yet')).toBeVisible();
  await page
    .getByLabel('Which sites of the field do you trust?')
    .fill('merrowvalebeekeepers.org\nthornabeckhivenotes.org');
  await page.getByLabel('How much may it cost?').fill('much');
  await page.getByLabel('Its name').fill('Beekeeping guide');
  await page.getByRole('button', { name: 'That is my brief' }).click();
  await expect(page.getByRole('alert').filter({ hasText: 'no amount' })).toBeVisible();
  await page.getByLabel('How much may it cost?').fill('500');
  await noSeriousFaults();
  await page.getByRole('button', { name: 'That is my brief' }).click();
  await expect(page.getByRole('button', { name: 'Brief: Beekeeping guide' })).toBeVisible();
  await page.getByRole('link', { name: 'Crawl the 2 trusted sites' }).click();
  await expect(page.getByRole('textbox', { name: 'Seeds' })).toHaveValue(/merrowvalebeekeepers/);
});

test('a seed that is no address is refused with a clear message', async () => {
  await page.getByRole('link', { name: 'Sources' }).click();
  await page.getByRole('textbox', { name: 'Seeds' }).fill('merrowvalebeekeepers.org\nnot an address');
  await page.getByRole('button', { name: 'Start the crawl' }).click();
  await expect(page.getByRole('alert').filter({ hasText: '"not an address" is no web address' })).toBeVisible();
});

test('a crawl of two sites finds lapsed domains', async () => {
  const seeds = Buffer.from('merrowvalebeekeepers.org\nthornabeckhivenotes.org\n');
  await page.getByLabel('From a file').setInputFiles({ name: 'seeds.txt', mimeType: 'text/plain', buffer: seeds });
  await expect(page.getByRole('textbox', { name: 'Seeds' })).toHaveValue(/thornabeckhivenotes/);
  await page.getByLabel('Page budget').fill('400');
  await page.getByRole('button', { name: 'Start the crawl' }).click();
  await expect(page).toHaveURL(/\/sources\/\d+/);
  await jobDone('crawl');
  await jobDone('check');
  await jobDone('measure');
  await expect(page.getByRole('heading', { name: 'What each site gave' })).toBeVisible();
  await noSeriousFaults();
  await page.getByRole('link', { name: 'Only the lapsed' }).click();
  await expect(page.locator('[data-domain]').first()).toBeVisible();
  expect(Number(await page.getByTestId('total').textContent())).toBeGreaterThan(50);
});

test('a link index and a drop list come in by file', async () => {
  await page.goto('/sources?add=links');
  await page.getByLabel(/^Metrics: an export of backlink data/).check();
  await page.getByLabel('Choose an export of backlink data').setInputFiles(join(folder(), 'world/link-index.csv.gz'));
  await expect(page.getByLabel('Meaning of from')).toHaveValue('from');
  await expect(page.getByLabel('Meaning of first_seen')).toHaveValue('first-seen');
  await page.getByRole('button', { name: 'Import the links' }).click();
  await expect(page).toHaveURL(/\/sources\/\d+/);
  await jobDone('links');

  await page.goto('/sources?add=list');
  // as much of the drop list as a grid is scrolled in for long; all of it is what other files begin with
  const list = readFileSync(join(folder(), 'world/drop-list.csv'), 'utf8')
    .split('\n')
    .slice(0, LIST_LINES + 1)
    .join('\n');
  await page
    .getByLabel('Choose a list')
    .setInputFiles({ name: 'drop-list.csv', mimeType: 'text/csv', buffer: Buffer.from(list) });
  await expect(page.getByLabel('Meaning of Drop date')).toHaveValue('drop-date');
  // taken wrongly on purpose, then corrected
  await page.getByLabel('Meaning of Domain').selectOption('ignore');
  await expect(page.getByRole('button', { name: 'Import the list' })).toBeDisabled();
  await page.getByLabel('Meaning of Domain').selectOption('domain');
  await noSeriousFaults();
  await page.getByRole('button', { name: 'Import the list' }).click();
  await expect(page).toHaveURL(/\/sources\/\d+/);
  await jobDone('list');
  await page.goto('/sources');
  const row = page.locator('[data-source="drop-list"]');
  await expect(row.locator('td').nth(2)).toHaveText(LIST_LINES.toLocaleString('en-GB'));
});

test('a bad list is told so, and changes nothing', async () => {
  const before = (await (await page.request.get('/api/v1/sources')).json()).sources.length;
  await page.goto('/sources?add=list');
  await page
    .getByLabel('Choose a list')
    .setInputFiles({ name: 'drops.csv', mimeType: 'text/csv', buffer: Buffer.from('PK\u0003\u0004zip') });
  await expect(page.getByRole('alert').filter({ hasText: 'This is a ZIP archive' })).toBeVisible();
  await page
    .getByLabel('Choose a list')
    .setInputFiles({ name: 'none.csv', mimeType: 'text/csv', buffer: Buffer.from('') });
  await expect(page.getByRole('alert').filter({ hasText: 'The file is empty' })).toBeVisible();
  expect((await (await page.request.get('/api/v1/sources')).json()).sources.length).toBe(before);
});

test('a list can be dropped, and what was taken wrongly is corrected', async () => {
  await page.goto('/sources?add=list');
  const dropped = await page.evaluateHandle(() => {
    const data = new DataTransfer();
    data.items.add(new File(['dropped-one.org;first\ndropped-two.org;second\n'], 'by hand.txt'));
    return data;
  });
  await page.getByText('or drop it here').dispatchEvent('drop', { dataTransfer: dropped });
  await expect(page.getByLabel('Name of the source')).toHaveValue('by hand');
  await expect(page.getByRole('cell', { name: 'dropped-one.org', exact: true })).toBeVisible();
  await page.getByLabel('Columns part at').selectOption({ label: 'tab' });
  await expect(page.getByRole('cell', { name: 'dropped-one.org;first' }).first()).toBeVisible();
  await page.getByLabel('Columns part at').selectOption({ label: 'semicolon' });
  const readings = page.getByRole('region', { name: 'As it will be read' });
  await expect(readings).toContainText('dropped-one.org');
  await page.getByLabel('Header is row').fill('1');
  await expect(readings).not.toContainText('dropped-one.org');
  await expect(readings).toContainText('dropped-two.org');
});

test('a sieve narrows both sources down in one pool', async () => {
  await openPool('?all=1');
  const total = page.getByTestId('total');
  await expect(total).toHaveText(/^8,\d{3}$/);
  expect(await page.locator('[role=row][data-domain]').count()).toBeGreaterThanOrEqual(20);

  await page.getByRole('button', { name: 'Add a condition' }).click();
  await page.getByRole('option', { name: /^Status/ }).click();
  await page.getByLabel('available', { exact: true }).check();
  await page.getByLabel('pending delete', { exact: true }).check();
  await expect(page.locator('[data-condition=phase]')).toContainText('Status is available or pending delete');
  await expect(page.locator('[data-condition=phase]')).toContainText(/keeps out \d/);

  await page.getByRole('button', { name: 'Add a condition' }).click();
  await page.getByRole('option', { name: /^Strength/ }).click();
  await page.getByLabel('at least').fill('5');
  await expect(page.getByRole('slider', { name: 'Lower end' })).toBeVisible();
  await expect(page.locator('[data-condition=strength]')).toContainText('Strength at least 5');

  await page.keyboard.press('Escape');
  await page.locator('#grid').focus();
  await page.keyboard.press('/');
  await page.getByLabel('How the name is matched').selectOption('contains');
  await page.getByLabel(/^Letters, by commas/).fill('bee, hive, honey');
  await expect(page.locator('[data-condition=name]')).toContainText('Name contains bee, hive or honey');
  await expect(page).toHaveURL(/name%3Acontains%3Dbee%2Chive%2Choney|name:contains/);
  await expect.poll(async () => Number((await total.textContent())?.replace(/,/g, ''))).toBeLessThan(1000);
  // rows of before the letters stand until those that are left have come
  const others = () =>
    page
      .locator('[role=row][data-domain]')
      .evaluateAll((rows) =>
        rows.map((row) => row.getAttribute('data-domain')).filter((name) => !/bee|hive|honey/.test(name ?? '')),
      );
  await expect.poll(others).toEqual([]);
  await noSeriousFaults();
});

test('the address holds the whole view', async () => {
  // what is asked and measured meanwhile would change how many get through
  await allDone(page.request);
  await page.getByRole('columnheader', { name: 'Strength' }).getByRole('button', { name: /trust/ }).click();
  await expect(page).toHaveURL(/sort=trust/);
  const total = await page.getByTestId('total').textContent();
  // the same view as a script gets it; what is measured meanwhile may still move rows, under which the grid stays where it is
  const atTop = page.locator('#row-0');
  const scripted = async () => {
    const { searchParams } = new URL(page.url());
    const text = await (await page.request.get(`/api/v1/export?format=csv&${searchParams}`)).text();
    return text.split('\r\n')[1].split(',')[0];
  };
  await expect(async () => {
    await page.locator('#grid').focus();
    await page.keyboard.press('Home');
    await expect(atTop).toHaveAttribute('data-domain', await scripted(), { timeout: 1000 });
  }).toPass();
  await page.reload();
  await expect(page.getByTestId('total')).toHaveText(total ?? '');
  await expect(async () => {
    await expect(atTop).toHaveAttribute('data-domain', await scripted(), { timeout: 1000 });
  }).toPass();
  await expect(page.getByRole('columnheader', { name: 'Strength' })).toHaveAttribute('aria-sort', 'descending');
});

test('a sieve is kept and found again', async () => {
  await page.getByRole('button', { name: 'Kept sieves' }).click();
  await page.getByRole('menuitem', { name: 'Keep this sieve' }).click();
  await page.getByLabel('Name for this sieve').fill('Bees with links');
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'Bees with links' })).toBeVisible();
  await openPool('?all=1');
  await page.getByRole('button', { name: 'Kept sieves' }).click();
  await page.getByRole('menuitem', { name: 'Bees with links', exact: true }).click();
  await expect(page.locator('[data-condition=name]')).toBeVisible();
});

test('the grid scrolls to the very last row by keyboard', async () => {
  await openPool('?all=1');
  await expect(page.getByTestId('total')).toHaveText(/^8,/);
  await page.locator('#grid').focus();
  await page.keyboard.press('End');
  const rows = Number(await page.locator('#grid').getAttribute('aria-rowcount'));
  await expect(page.locator(`[aria-rowindex="${rows}"][data-domain]`)).toBeVisible();
  await page.keyboard.press('Home');
  await expect(page.locator('[aria-rowindex="2"][data-domain]')).toBeVisible();
});

test('the dossier shows the evidence, and three names are shortlisted', async () => {
  await openPool('?c=phase:free,pending-delete&c=strength:5..&sort=trust:down');
  await expect(page.locator('[data-domain]').first()).toBeVisible();
  await page.locator('#grid').focus();
  await page.keyboard.press('s');
  await expect(page.locator('[aria-rowindex="2"]').getByLabel('shortlisted')).toBeVisible();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('s');
  await expect(page.locator('[aria-rowindex="3"]').getByLabel('shortlisted')).toBeVisible();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/\/domains\//);
  await expect(page.getByRole('table', { name: 'Referring domains', exact: true })).toBeVisible();
  await expect(page.getByRole('heading', { name: 'Spam risk' })).toBeVisible();
  await page.getByRole('button', { name: 'Check and measure' }).click();
  await expect(page.getByRole('table', { name: 'Answers that were given' })).toBeVisible({ timeout: 30_000 });
  await noSeriousFaults();
  await page.getByRole('button', { name: 'Shortlist', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Remove from the shortlist' })).toBeVisible();
});

test('the shortlist keeps stage, maximum bid and note, and undoes', async () => {
  await page.getByRole('link', { name: 'Shortlist' }).click();
  const rows = page.locator('tr[data-domain]');
  await expect(rows).toHaveCount(3);
  const first = rows.first();
  const name = await first.getAttribute('data-domain');
  await first.getByLabel(/^Stage of/).selectOption('wanted');
  await first.getByLabel(/^Maximum bid/).fill('1,140.50');
  await page.getByRole('button', { name: `Details of ${name}` }).click();
  await page.getByLabel(/^Note on/).fill('honest links, "good" name; ask first');
  await page.getByLabel(/^Note on/).blur();
  await expect(page.getByRole('alert').filter({ hasText: 'over the budget' })).toBeVisible();
  await page.getByRole('button', { name: `Details of ${name}` }).click();
  await rows
    .nth(1)
    .getByRole('button', { name: /^Details/ })
    .click();
  await page.getByRole('button', { name: /^Remove / }).click();
  await expect(rows).toHaveCount(2);
  await page
    .getByRole('listitem')
    .filter({ hasText: 'off the shortlist' })
    .getByRole('button', { name: 'Undo' })
    .click();
  await expect(rows).toHaveCount(3);
  await noSeriousFaults();
  await page.reload();
  // what is streamed is there twice until it has its place
  await expect(rows).toHaveCount(3);
  await expect(page.locator(`tr[data-domain="${name}"]`).getByLabel(/^Maximum bid/)).toHaveValue('1,140.50');
});

test('the shortlist and the grid leave as CSV', async () => {
  const saved = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Export the shortlist' }).click();
  await page.getByRole('menuitem', { name: 'CSV' }).click();
  const text = readFileSync(await (await saved).path(), 'utf8');
  const lines = text.trim().split('\r\n');
  expect(lines).toHaveLength(4);
  expect(lines[0]).toContain('domain,status');
  expect(text).toContain('1140.50,"honest links, ""good"" name; ask first"');

  await openPool('?c=phase:free,pending-delete&c=strength:5..');
  await expect(page.locator('[data-domain]').first()).toBeVisible();
  const total = Number((await page.getByTestId('total').textContent())?.replace(/,/g, ''));
  const all = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Export' }).click();
  await page.getByRole('menuitem', { name: /^All .* as CSV/ }).click();
  const rows = readFileSync(await (await all).path(), 'utf8')
    .trim()
    .split('\r\n');
  expect(rows).toHaveLength(total + 1);
});

test('a wrong address says what is wrong and shows the rest', async () => {
  await openPool('?c=phase:gone&c=strength:5..&c=taste:1..2');
  await expect(page.getByRole('alert').filter({ hasText: 'there is no "gone"' })).toBeVisible();
  await expect(page.locator('[data-domain]').first()).toBeVisible();
  await page.goto('/domains/never-heard-of-it.org');
  await expect(page.getByText('No source has named this domain yet')).toBeVisible();
});

test('an open grid follows the pool without being touched', async () => {
  await page.goto('/pool?c=name:starts=followed');
  await expect(page.getByText('Nothing gets through')).toBeVisible();
  const names = Array.from({ length: 30 }, (_, i) => `followed${i}.org`);
  await page.request.post('/api/v1/sources/lists?name=late', {
    headers: { 'content-type': 'text/plain' },
    data: names.join('\n'),
  });
  await expect(page.locator('[data-domain="followed0.org"]')).toBeVisible();
  await expect(page.getByTestId('total')).toHaveText('30');
});

test('keys and palette lead everywhere', async () => {
  await page.goto('/');
  await expect(page.getByRole('heading', { name: 'Finds for Beekeeping guide' })).toBeVisible();
  await noSeriousFaults();
  await page.keyboard.press('g');
  await page.keyboard.press('p');
  await expect(page).toHaveURL(/\/pool/);
  await page.keyboard.press('Control+k');
  await page.getByPlaceholder(/^A screen, an action/).fill('ossenmerebeeclub.org');
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/\/domains\/ossenmerebeeclub.org/);
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog', { name: 'Keys' })).toBeVisible();
  await page.keyboard.press('Escape');
});

const SCREENS = [
  '/',
  '/pool?c=strength:5..',
  '/domains/ossenmerebeeclub.org',
  '/domains/ossenmerebeeclub.org/rebuild',
  '/domains/ossenmerebeeclub.org/redirects',
  '/domains/ossenmerebeeclub.org/sale',
  '/shortlist',
  '/shortlist?as=board',
  '/orders',
  '/sources',
  '/check',
  '/measures',
  '/deadlines',
  '/holdings',
  '/learning',
  '/ideas',
  '/targets',
  '/settings',
  '/setup',
  '/setup/connections',
  '/setup/connections/umberley-lots',
  '/briefs',
];

/** Those that are looked at most; the others are for `npm run soak -- tests`. */
const BUSIEST = ['/', '/pool?c=strength:5..', '/domains/ossenmerebeeclub.org', '/shortlist', '/settings'];

/** A large window, a usual one, that at twice the size of its letters, and a phone. */
const SIZES = [
  { width: 1920, height: 1080 },
  { width: 1280, height: 800 },
  { width: 640, height: 400 },
  { width: 390, height: 844 },
];

test(
  'no screen is wider than its window, from a phone to a large one, and dark colours keep their contrast',
  LONG,
  async () => {
    await page.emulateMedia({ colorScheme: 'dark' });
    for (const path of process.env.E2E_LONG ? SCREENS : BUSIEST) {
      await page.goto(path);
      await expect(page.locator('main h1').first()).toBeVisible();
      for (const size of SIZES) {
        await page.setViewportSize(size);
        const over = () =>
          page.evaluate(() => {
            const main = document.querySelector('main');
            const inMain = main ? main.scrollWidth - main.clientWidth : 0;
            return Math.max(inMain, document.documentElement.scrollWidth - window.innerWidth);
          });
        await expect.poll(over, `${path} at ${size.width}`).toBeLessThanOrEqual(0);
      }
      await noSmallTargets(page);
      await page.setViewportSize(SIZES[1]);
      await noFaintText(page);
    }
    await page.emulateMedia({ colorScheme: 'light' });
  },
);

test('on a phone the pool shows names, status, price and closing, and its sieve comes over the list', async () => {
  await page.setViewportSize({ width: 390, height: 844 });
  await openPool('?c=phase:free,pending-delete');
  await expect(page.getByRole('columnheader')).toHaveCount(5);
  for (const title of ['Domain', 'Status', 'Price', 'Closes'])
    await expect(page.getByRole('columnheader', { name: title })).toBeAttached();
  const sieve = page.getByRole('complementary', { name: 'Sieve' });
  await expect(sieve).toBeHidden();
  await page.getByRole('button', { name: /^Sieve/ }).click();
  await expect(sieve.locator('[data-condition=phase]')).toBeVisible();
  await sieve.getByRole('button', { name: /^Show / }).click();
  await expect(sieve).toBeHidden();
  await page.setViewportSize({ width: 1280, height: 800 });
  // whoever comes by keyboard may pass over the places
  await page.goto('/');
  await page.keyboard.press('Tab');
  await expect(page.getByRole('link', { name: 'Skip to the content' })).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(page.locator('main')).toBeFocused();
});

test('the first load of the pool brings less than 250 KB of script', async ({ browser }) => {
  const context = await browser.newContext();
  const fresh = await context.newPage();
  const sizes: Promise<number>[] = [];
  fresh.on('response', (response) => {
    if (/\.js(\?|$)/.test(response.url()))
      sizes.push(
        response
          .request()
          .sizes()
          .then(({ responseBodySize }) => responseBodySize),
      );
  });
  await fresh.goto('/pool');
  await fresh.locator('#grid[aria-busy=false]').waitFor();
  const bytes = (await Promise.all(sizes)).reduce((sum, size) => sum + size, 0);
  expect(sizes.length).toBeGreaterThan(5);
  expect(bytes / 1024).toBeLessThan(250);
  await context.close();
});
