import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, type Page } from '@playwright/test';
import { noSeriousFaults } from './faults';
import { LONG, test } from './test';

test.describe.configure({ mode: 'serial' });

/** Gathering by link sources, as a practitioner does it: trial, crawl, search, referrer file, one page. */
const folder = () => process.env.E2E_FOLDER ?? '';

const jobDone = (page: Page, kind: string) =>
  expect(page.locator(`[data-job=${kind}]`).last()).toHaveAttribute('data-state', 'done', { timeout: 60_000 });

test('seeds are tried, what will not work is unticked with the reason, and the rest is crawled', async ({ page }) => {
  await page.goto('/sources?add=crawl');
  await page
    .getByRole('textbox', { name: 'Seeds' })
    .fill('wexcombehivestore.com\numberleymarket.com\numberleyparishnews.org\nlathergillswarmline.org');
  await page.getByRole('button', { name: 'Try the seeds first' }).click();
  await expect(page).toHaveURL(/\/sources\/trials\/\d+/);
  await expect(page.getByText('4 of 4 seeds tried, 2 ticked')).toBeVisible({ timeout: 30_000 });
  await expect(page.locator('[data-seed="umberleymarket.com"]')).toContainText('a challenge');
  await expect(page.getByLabel('Crawl umberleymarket.com')).not.toBeChecked();
  await expect(page.getByLabel('Crawl lathergillswarmline.org')).toBeChecked();
  const pages = page.locator('tfoot td').nth(6);
  const deep = await pages.textContent();
  await page.getByLabel('Depth of the forecast').selectOption('1');
  await expect(pages).not.toHaveText(deep ?? '');
  await page.getByLabel('Depth of the forecast').selectOption('3');
  await noSeriousFaults(page);

  await page.getByText('How it goes about it').click();
  await page.getByLabel('No paths').fill('(never closed');
  await page.getByRole('button', { name: 'Start the crawl' }).click();
  await expect(page.getByRole('alert').filter({ hasText: 'cannot be read' })).toBeVisible();
  await page.getByLabel('No paths').fill('^/goods/[a-z]+-1\\d\\.html');
  await page.getByRole('button', { name: 'Start the crawl' }).click();
  await expect(page).toHaveURL(/\/sources\/\d+$/);

  // watched while it runs, then reported
  await expect(page.getByRole('heading', { name: 'From page to find' })).toBeVisible();
  await jobDone(page, 'crawl');
  await jobDone(page, 'measure');
  await expect(page.getByText('combining filters')).toBeVisible();
  await expect(page.locator('canvas')).toBeVisible();
  await page.getByText('As a table').click();
  await expect(page.getByRole('columnheader', { name: 'Per 1,000' })).toBeVisible();
  await noSeriousFaults(page);
  await page.getByRole('link', { name: 'lapsed or about to' }).click();
  await expect(page.locator('[data-domain]').first()).toBeVisible();
});

test(
  'budgets are changed and a site is dropped while a crawl runs, and it reads on afterwards',
  LONG,
  async ({ page, request }) => {
    await request.patch('/api/v1/settings', { data: { crawlDelayMs: 400 } });
    const started = await request.post('/api/v1/sources/crawls', {
      data: {
        seeds: ['merrowvalegazette.com', 'fennimoorobservatory.org'],
        depth: 3,
        pageBudget: 500,
        checkAfter: false,
      },
    });
    const { source } = await started.json();
    await page.goto(`/sources/${source.id}`);
    await page.getByRole('button', { name: 'Drop merrowvalegazette.com' }).click({ timeout: 30_000 });
    await expect(page.locator('[data-site="merrowvalegazette.com"]')).toContainText('dropped');
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect(page.locator('[data-site="merrowvalegazette.com"]')).not.toContainText('dropped');
    await page.getByRole('button', { name: 'Drop merrowvalegazette.com' }).click();
    await expect(page.locator('[data-site="merrowvalegazette.com"]')).toContainText('dropped');
    await page.getByLabel('Pages', { exact: true }).fill('600');
    await page.getByRole('button', { name: 'Change the budgets' }).click();
    await page.locator('[data-sonner-toast]', { hasText: 'new budgets' }).getByRole('button', { name: 'Undo' }).click();
    await expect(page.getByLabel('Pages', { exact: true })).toHaveValue('500');
    const crawl = async () => (await request.get(`/api/v1/sources/${source.id}/crawl`)).json();
    const readOf = async (name: string) => {
      const { pages, failed } = (await crawl()).sites.find((row: { site: string }) => row.site === name);
      return pages + failed;
    };
    // ten seconds beyond what is read by now: it is typed by then on a slow machine too
    const ofSite = (await readOf('fennimoorobservatory.org')) + 25;
    await page.getByLabel('Of a site').fill(String(ofSite));
    await page.getByRole('button', { name: 'Change the budgets' }).click();
    await jobDone(page, 'crawl');
    expect(await readOf('fennimoorobservatory.org')).toBe(ofSite);
    expect(await readOf('merrowvalegazette.com')).toBeLessThan(ofSite);
    await request.patch('/api/v1/settings', { data: { crawlDelayMs: 25 } });
    await page.getByLabel('Of a site').fill(String(ofSite + 20));
    await page.getByRole('button', { name: 'Read on with these' }).click();
    await expect.poll(() => readOf('fennimoorobservatory.org'), { timeout: 30_000 }).toBe(ofSite + 20);
  },
);

test('a search brings whole sites and single pages as seeds', async ({ page }) => {
  await page.goto('/sources?add=search');
  await page.getByRole('textbox', { name: /^Keywords/ }).fill('telescope\ncomet');
  await page.getByRole('button', { name: 'Search', exact: true }).click();
  await expect(page).toHaveURL(/\/sources\/searches\/\d+/);
  await jobDone(page, 'search');
  await expect(page.locator('[data-gate=site]').first()).toContainText('its home page');
  await noSeriousFaults(page);
  // what is read of each result is said, and can be switched
  const selects = page.locator('[data-gate] select');
  for (let i = 1; i < (await selects.count()); i++) await selects.nth(i).selectOption('none');
  await selects.first().selectOption('page');
  await expect(page.getByRole('heading', { name: 'Crawl 0 sites and 1 single page' })).toBeVisible();
});

test('a referrer file is mapped and cut, and what is left becomes seeds', async ({ page }) => {
  await page.goto('/sources?add=referrers');
  await page.getByLabel('Choose a referrer file').setInputFiles(join(folder(), 'world/competitor-referrers.csv'));
  const kept = page.getByTestId('kept');
  await expect(kept).toHaveText(/^[\d,]+$/);
  const all = Number((await kept.textContent())?.replace(/,/g, ''));
  await page.getByLabel('Strength at least').fill('55');
  await page.getByLabel('Languages').fill('de');
  // counts follow what is typed, with the field not left
  await expect(page.getByRole('row', { name: /cut by language − / })).toBeVisible();
  await expect.poll(async () => Number((await kept.textContent())?.replace(/,/g, ''))).toBeLessThan(all / 20);
  await expect(page.getByRole('row', { name: /bare address/ })).toBeVisible();
  const left = Number((await kept.textContent())?.replace(/,/g, ''));
  expect(left).toBeLessThan(all / 20);
  await noSeriousFaults(page);
  await page.getByRole('button', { name: new RegExp(`Try ${left} as seeds`) }).click();
  await expect(page).toHaveURL(/\/sources\/trials\/\d+/);
  await expect(page.getByText(`${left} of ${left} seeds tried`)).toBeVisible({ timeout: 60_000 });
});

test('one page is looked at, and its dead targets leave as a prospecting list', LONG, async ({ page }) => {
  await page.goto(`/page?url=${encodeURIComponent('http://harrowmeadarchives.org/')}`);
  await expect(page.getByLabel('Address of a page')).toHaveValue('http://harrowmeadarchives.org/');
  await expect(page.getByLabel('Bookmarklet')).toHaveValue(/^javascript:location\.href='http:\/\/127/);
  await page.getByLabel('Address of a page').fill('merrowvalebeekeepers.org/links/4.html');
  await page.getByRole('button', { name: 'Look at its links' }).click();
  await expect(page.getByRole('heading', { name: /The whole domain is gone/ })).toBeVisible({ timeout: 20_000 });
  await expect(page.getByRole('heading', { name: /The page is gone, the domain lives/ })).toBeVisible();
  // what was found stays with its address
  await page.reload();
  await expect(page.getByRole('heading', { name: /The page is gone, the domain lives/ })).toBeVisible();
  await expect(page.locator('[data-state=dead]').first()).toContainText('known page');
  await noSeriousFaults(page);
  await page.getByLabel('Address of a page').fill('no such thing');
  await page.getByRole('button', { name: 'Look at its links' }).click();
  await expect(page.getByRole('alert').filter({ hasText: 'is no web address' })).toBeVisible();

  await page.goto('/targets');
  await page.locator('tbody a').first().click();
  await expect(page.getByRole('heading', { name: /^Pages that link to/ })).toBeVisible();
  await noSeriousFaults(page);
  const saved = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Export broken links with every linking page' }).click();
  await page.getByRole('menuitem', { name: 'CSV' }).click();
  const lines = readFileSync(await (await saved).path(), 'utf8')
    .trim()
    .split('\r\n');
  expect(lines[0]).toBe('dead_page,status,linking_page,title,anchor,nofollow,contact');
  expect(lines.some((line) => line.includes('merrowvalebeekeepers.org/links/4.html'))).toBe(true);
});

test('two copies of a zone bring what is gone and what moved to parking servers', async ({ page }) => {
  await page.goto('/sources?add=zones');
  await page.getByLabel('Name of the source').fill('org in a month');
  await page.getByLabel('Older copy').setInputFiles(join(folder(), 'world/zone-org-older.gz'));
  await page.getByLabel('Newer copy').setInputFiles(join(folder(), 'world/zone-org-newer.gz'));
  await page.getByLabel('Domains of parking servers').fill('restingvale.net');
  await page.getByLabel('check and measure what changed').uncheck();
  await noSeriousFaults(page);
  await page.getByRole('button', { name: 'Compare the two' }).click();
  await expect(page).toHaveURL(/\/sources\/\d+/);
  await jobDone(page, 'zones');
  await expect(page.locator('[data-job=zones]').last()).toContainText(
    /\d+ names are gone, \d+ moved to parking servers/,
  );
  await page.reload();
  const changed = page.locator('dl > div', { hasText: 'names that changed' }).locator('dd');
  await expect(changed).toHaveText(/^[1-9]\d*$/);
  await page.getByRole('link', { name: 'See its domains in the pool' }).click();
  await expect(page.getByRole('row').nth(3)).toBeVisible();
});

test('a list of JSON Lines is shown as it will be read, and its columns are known the next time', async ({ page }) => {
  const path = join(folder(), 'offers.jsonl');
  const lines = [
    '{"lot":"wexcombebrood.org","ask":"£1,250","ends":"2026-12-01 18:00"}',
    '{"lot":"nowhere","ask":"12"}',
    '{"lot":"sallowmerewax.org","ask":"plenty"}',
  ];
  writeFileSync(path, `${lines.join('\n')}\n`);
  await page.goto('/sources?add=list');
  await page.getByLabel('Choose a list').setInputFiles(path);
  const readings = page.getByRole('region', { name: 'As it will be read' });
  await expect(readings).toContainText('rejected: "nowhere" is no registrable domain');
  await expect(readings).toContainText('not read: plenty');
  await expect(readings).toContainText('1,250 GBP');
  await page.getByLabel('Meaning of ends').selectOption('drop-date');
  await expect(readings.getByRole('columnheader', { name: 'drop date' })).toBeVisible();
  await noSeriousFaults(page);
  await page.getByRole('button', { name: 'Import the list' }).click();
  await expect(page).toHaveURL(/\/sources\/\d+/);
  await jobDone(page, 'list');
  await page.goto('/sources?add=list');
  await page.getByLabel('Choose a list').setInputFiles(path);
  await expect(page.getByText('columns as the last time this header came')).toBeVisible();
  await expect(page.getByLabel('Meaning of ends')).toHaveValue('drop-date');
});
