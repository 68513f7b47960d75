import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { gunzipSync } from 'node:zlib';
import { type APIRequestContext, expect } from '@playwright/test';
import { noSeriousFaults } from './faults';
import { allDone, CASINO, SHOP } from './stories';
import { LONG, test } from './test';

test.describe.configure({ mode: 'serial' });

/** What a person does to have domains measured closely, and with what was found: dossier, points, marks, sieve. */
const HONEY = 'thornabeckhoney.com';
const FORWARDER = 'mirrowbybeeinspector.org';
const STORIES = ['ossenmerebeeclub.org', CASINO, SHOP, HONEY, FORWARDER];

const judge = (request: APIRequestContext, judged: string, which: object, reason: string | null = null) =>
  request.post('/api/v1/actions', { data: { act: { kind: 'judge', judged, reason }, which } });
const query = async (request: APIRequestContext, body: object) =>
  (await request.post('/api/v1/pool/query', { data: body })).json();

test(
  'a second index with columns of its own is mapped once, and its counts stay its own',
  LONG,
  async ({ page, request }) => {
    await page.goto('/sources?add=links');
    await page.getByLabel(/^Metrics: an export of backlink data/).check();
    const [header, ...rows] = gunzipSync(readFileSync(join(process.env.E2E_FOLDER ?? '', 'world/lesser-index.csv.gz')))
      .toString('utf8')
      .trim()
      .split('\n');
    const some = [header, ...rows.filter((row, n) => n < 300 || row.includes(SHOP))].join('\n');
    await page
      .getByLabel('Choose an export of backlink data')
      .setInputFiles({ name: 'lesser.csv', mimeType: 'text/csv', buffer: Buffer.from(some) });
    await expect(page.getByLabel('Meaning of Referring page URL')).toHaveValue('from');
    await expect(page.getByLabel('Meaning of First found')).toHaveValue('first-seen');
    await page.getByLabel('Meaning of Link URL').selectOption('ignore');
    await expect(page.getByRole('button', { name: 'Import the links' })).toBeDisabled();
    await page.getByLabel('Meaning of Link URL').selectOption('to');
    await page.getByLabel('Name of the index').fill('Lesser index');
    await page.getByLabel('Its figures are from').fill('2025-11-05');
    await noSeriousFaults(page);
    await page.getByRole('button', { name: 'Import the links' }).click();
    await expect(page).toHaveURL(/\/sources\/\d+/);
    await allDone(request);
    await page.goto(`/domains/${SHOP}`);
    const counts = page.getByRole('table', { name: 'Counts by source' });
    await expect(counts).toContainText('Lesser index');
    await expect(counts).toContainText('5 Nov 2025');
    await expect(counts.getByRole('row')).toHaveCount(4);
  },
);

test('names are measured closely, and the dossier tells their tales with the evidence', async ({ page, request }) => {
  const started = await request.post('/api/v1/measures', { data: { names: STORIES } });
  expect(started.status()).toBe(202);
  await allDone(request);

  await page.goto(`/domains/${CASINO}`);
  const eras = page.getByRole('table', { name: 'History' });
  await expect(eras.locator('tbody tr').nth(0)).toContainText('content: Beekeeping');
  await expect(eras.locator('tbody tr').nth(1)).toContainText('content: Gambling');
  await expect(page.locator('#past').locator('..')).toContainText('another site followed');
  await expect(page.getByRole('table', { name: 'Captures' }).getByRole('row').nth(1)).toContainText('content');
  await expect(page.locator('#subject').locator('..')).toContainText('Words that decided');
  await expect(page.locator('#spam').locator('..')).toContainText('Gambling, "Best bonus"');
  await expect(page.locator('#name').locator('..')).toContainText('cradlewick hive craft');
  const speaks = page.getByRole('region', { name: 'For and against' });
  await expect(speaks).toContainText('its last site has little in common with the main one');
  await expect(speaks).toContainText(/spam risk \d+ of 100/);
  await expect(page.locator('#anchors').locator('..')).toContainText('words that sell');
  await noSeriousFaults(page);

  await page.goto(`/domains/${SHOP}`);
  await expect(speaks).toContainText("45 referring domains are one owner's");
  await expect(page.locator('#votes').locator('..')).toContainText('45 sites of one owner');
  await expect(page.getByRole('table', { name: 'Discounts' })).toContainText('sites of one owner');

  await page.goto(`/domains/${FORWARDER}`);
  await expect(page.locator('#links').locator('..')).toContainText('now to merrowvalegazette.com');
  await expect(page.locator('#links').locator('..')).toContainText(/it would show strength \d+; [\d.]+ is its own/);
});

test('trademarks like a name are looked at by hand, and the decision is kept', async ({ page }) => {
  await page.goto(`/domains/${HONEY}`);
  const marks = page.locator('#word-marks').locator('..');
  await expect(marks).toContainText('Thornabeck Hunny');
  await expect(marks).toContainText('it sounds the same');
  await page.getByLabel('Note on the trademarks').fill('foods only, ours are candles');
  await page.getByRole('button', { name: 'Clear', exact: true }).click();
  await expect(marks.locator('[data-verdict=clear]')).toContainText('foods only, ours are candles');
  await page.reload();
  await expect(marks.locator('[data-verdict=clear]')).toBeVisible();
});

test('the other endings of a name are asked about from its dossier', async ({ page }) => {
  await page.goto(`/domains/${HONEY}`);
  await page.getByRole('button', { name: /^ask about/ }).click();
  await expect(page).toHaveURL(/\/check\/\d+/);
  await expect(page.getByRole('heading', { name: 'thornabeckhoney under other TLDs' })).toBeVisible();
});

test('a mark overrules the risk at once, both are shown, and measuring does not take it away', async ({
  page,
  request,
}) => {
  const risk = async () =>
    (
      await query(request, {
        parts: [
          { type: 'text', fact: 'name', mode: 'contains', values: ['ossenmerebeeclub'] },
          { type: 'range', fact: 'spamRisk', min: 100, max: null },
        ],
        limit: 5,
      })
    ).total;
  expect(await risk()).toBe(0);
  await judge(request, 'spam', { names: ['ossenmerebeeclub.org'] }, 'sold twice');
  expect(await risk()).toBe(1);
  await request.post('/api/v1/checks', { data: { names: ['ossenmerebeeclub.org'] } });
  await allDone(request);
  expect(await risk()).toBe(1);
  await page.goto('/domains/ossenmerebeeclub.org');
  await expect(page.locator('[data-overruled=spam]')).toContainText(
    /You marked it spam .*sold twice.*the rules say \d+ of 100/,
  );
  await judge(request, 'not-yet', { names: ['ossenmerebeeclub.org'] });
  expect(await risk()).toBe(0);
});

test('points are fitted to fifty marks, shown before and after, and taken back', LONG, async ({ page, request }) => {
  await page.goto('/measures');
  await expect(page.getByRole('button', { name: 'Fit them to my marks' })).toBeDisabled();
  await expect(page.getByRole('heading', { name: 'What is measured next, and why' })).toBeVisible();
  const parts = [{ type: 'range', fact: 'spamRisk', min: 0, max: null }];
  const worst = await query(request, { parts, sorts: [{ fact: 'spamRisk', descending: true }], limit: 26 });
  const best = await query(request, { parts, sorts: [{ fact: 'spamRisk', descending: false }], limit: 30 });
  const ids = (answer: { rows: { id: number }[] }) => answer.rows.map(({ id }) => id);
  await judge(request, 'spam', { ids: ids(worst) });
  await judge(request, 'clean', { ids: ids(best) });
  await page.reload();
  await page.getByRole('button', { name: 'Fit them to my marks' }).click();
  await expect(page.getByRole('table', { name: 'Before and after the fit' })).toContainText('area under the ROC curve');
  await allDone(request);
  await noSeriousFaults(page);
  await page.getByRole('button', { name: 'Take the last fit back' }).click();
  await expect(page.getByRole('table', { name: 'Before and after the fit' })).toHaveCount(0);
  await allDone(request);
  await judge(request, 'not-yet', { ids: [...ids(worst), ...ids(best)] });
});

test('what was measured can be sifted and sorted by', async ({ page }) => {
  await page.goto(
    '/pool?c=subject:Beekeeping&sort=effective:down&columns=1|domain,subject,effective,contentYears,drift,spam',
  );
  await expect(page.locator('#grid[aria-busy=false]')).toBeVisible();
  const total = Number((await page.getByTestId('total').textContent())?.replace(/,/g, ''));
  expect(total).toBeGreaterThanOrEqual(1);
  await expect(page.locator('[role=row][data-domain]').first()).toContainText('Beekeeping');
  const figures = await page
    .locator('[role=row][data-domain]')
    .evaluateAll((rows) =>
      rows.map((row) => Number(row.querySelectorAll('[role=gridcell]')[3]?.textContent?.replace(/,/g, ''))),
    );
  expect(figures.every((figure, n) => n === 0 || figure <= figures[n - 1])).toBe(true);
});

test('what cannot be measured is said', async ({ request }) => {
  const nobody = await request.post('/api/v1/measures', { data: { names: ['nobody-knows-this.org'] } });
  expect(nobody.status()).toBe(404);
  expect((await request.post('/api/v1/measures', { data: {} })).status()).toBe(400);
  const verdict = await request.post(`/api/v1/domains/${HONEY}/marks`, { data: { verdict: 'maybe' } });
  expect(verdict.status()).toBe(400);
  expect((await request.delete('/api/v1/measures/points')).status()).toBe(409);
});
