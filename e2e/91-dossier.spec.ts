import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { type APIRequestContext, expect, type Page } from '@playwright/test';
import { noSeriousFaults } from './faults';
import { allDone, CASINO, CLUB, SHOP, send, TONGUES } from './stories';
import { LONG, test } from './test';

test.describe.configure({ mode: 'serial' });

/** What a careful buyer does with one domain, and with a few side by side. */
const LONGEST = `${'merrowvale'.repeat(6)}bee.org`;
const MANY = 'tarnhamhoneyroad.org';
/** A letter more than the casino. */
const NEAR = 'cradlewickhivecrafts.com';
const BARE = 'fellgatecombyard.org';

const dossier = async (request: APIRequestContext, name: string) =>
  (await request.get(`/api/v1/domains/${name}`)).json();
/** Nothing is wider than the window. */
const fits = async (page: Page) => {
  const over = await page.evaluate(() => {
    const main = document.querySelector('main') ?? document.documentElement;
    return main.scrollWidth - main.clientWidth;
  });
  expect(over).toBeLessThanOrEqual(1);
};

/** The names with a tale, and the hard cases. */
test.beforeAll(async ({ request }) => {
  test.setTimeout(300_000);
  const names = [LONGEST, BARE, MANY, NEAR, 'thornabeckcraft.org'];
  await send(request, '/sources/lists?name=Hard+cases', names.join('\n'));
  await allDone(request);
});

test('the lifeline looks closer by keys and by dragging, the address keeps it, and a table says the same', async ({
  page,
}) => {
  await page.goto(`/domains/${CASINO}`);
  const life = page.getByRole('group', { name: /^Lifeline/ });
  const drawing = life.getByRole('img');
  await expect(drawing).toContainText('Beekeeping');
  await expect(drawing).toContainText('Gambling');
  await life.focus();
  await page.keyboard.press('+');
  await page.keyboard.press('+');
  await expect(page).toHaveURL(/life=\d{4}-\d\d-\d\d\.\.\d{4}-\d\d-\d\d/);
  for (let n = 0; n < 6; n++) await page.keyboard.press('ArrowRight');
  await expect(drawing).toContainText('2026');
  await expect(drawing).not.toContainText('2015');
  const address = page.url();
  await page.goto(address);
  await expect(drawing).not.toContainText('2015');
  await life.focus();
  await page.keyboard.press('0');
  await expect(page).not.toHaveURL(/life=/);
  await expect(drawing).toContainText('2015');
  const box = await drawing.boundingBox();
  if (!box) throw new Error('there is no lifeline');
  await page.mouse.move(box.x + 300, box.y + 60);
  await page.mouse.down();
  await page.mouse.move(box.x + 420, box.y + 60, { steps: 4 });
  await page.mouse.up();
  await expect(page).toHaveURL(/life=/);
  await page.getByRole('button', { name: 'All of it' }).click();
  await page.getByText('The same as a table').click();
  const table = page.getByRole('table', { name: 'Life as a table' });
  await expect(table.getByRole('row').filter({ hasText: 'Gambling' })).toContainText('2024');
  await expect(table.getByRole('row').filter({ hasText: 'changed hands' })).toContainText('another site followed');
  await expect(table.getByRole('row').filter({ hasText: 'came' }).first()).toBeVisible();
  // a mark has the same key as looking closer: on the lifeline it is the lifeline's
  await expect(page.locator('[data-judged]')).toHaveCount(0);
});

test('tables are sorted, searched and taken out as files; what a chart shows stands in a table, too', async ({
  page,
  request,
}) => {
  await page.goto(`/domains/${SHOP}`);
  await page.keyboard.press('1');
  await expect(page.getByRole('heading', { name: /^Links/ }).first()).toBeFocused();
  await expect(page.getByRole('banner')).toBeInViewport();
  const table = page.getByRole('table', { name: 'Referring domains', exact: true });
  const column = (place: number) =>
    table.locator('tbody tr').evaluateAll((rows, n) => rows.map((row) => row.children[n].textContent ?? ''), place);
  await table.getByRole('button', { name: 'Counts' }).click();
  await expect(table.getByRole('columnheader', { name: /^Counts/ })).toHaveAttribute('aria-sort', 'descending');
  await expect.poll(async () => Number((await column(3))[0])).toBe(1);
  const votes = (await column(3)).map(Number);
  expect(votes).toEqual(votes.toSorted((a, b) => b - a));
  await table.getByRole('button', { name: 'Counts' }).click();
  await expect.poll(async () => Number((await column(3))[0])).toBeLessThan(0.1);
  await page.getByLabel('Search Referring domains').fill('counts once with');
  await expect(page.getByRole('status').filter({ hasText: /^45 of 48$/ })).toBeVisible();
  const saved = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Export Referring domains' }).click();
  await page.getByRole('menuitem', { name: 'CSV' }).click();
  const lines = readFileSync(await (await saved).path(), 'utf8')
    .trim()
    .split('\r\n');
  expect(lines).toHaveLength(46);
  expect(lines[0]).toBe('site,anchor,pages,vote,strength,trust,language,country,since,lost,note');
  const answer = await (
    await request.get(`/api/v1/domains/${SHOP}/tables/referrers?filter=counts+once+with&limit=1`)
  ).json();
  expect(answer).toMatchObject({ found: 45, total: 48 });
  await page.getByLabel('Search Anchor texts').fill('hive');
  await expect(page.getByRole('table', { name: 'Anchor texts' }).locator('tbody tr').first()).toContainText(/hive/i);
  // charts are there, with their figures below
  const strength = page.locator('#by-strength').locator('..');
  await expect(strength.locator('canvas')).toBeVisible();
  await strength.getByText('As a table').click();
  await expect(strength.getByRole('table', { name: 'Referring domains by strength' })).toContainText('0 to 10');
  const byEnding = page.getByRole('table', { name: 'Referring domains by TLD' });
  const counted = await byEnding.locator(':is(tbody, tfoot) td:last-child').allTextContents();
  expect(counted.map(Number).reduce((sum, one) => sum + one, 0)).toBe(48);
  expect((await request.get(`/api/v1/domains/${SHOP}/tables/secrets`)).status()).toBe(404);
  expect((await request.get(`/api/v1/domains/${SHOP}/tables/anchors?limit=0`)).status()).toBe(400);
});

test('due diligence is filled in, answered by hand, undone, and goes into the file', async ({ page, request }) => {
  await page.goto(`/domains/${CLUB}`);
  const point = (item: string) => page.locator(`[data-item=${item}]`);
  await expect(point('past')).toHaveAttribute('data-state', 'fine');
  await expect(point('past')).toContainText('years with content');
  await expect(point('searched')).toHaveAttribute('data-state', 'open');
  await point('searched').getByRole('button').click();
  await page.getByLabel(/^Note: Does a search/).fill('third for its own name');
  await noSeriousFaults(page, '[aria-labelledby=diligence]');
  await point('searched').getByRole('button', { name: 'Fine' }).click();
  await expect(point('searched')).toContainText('third for its own name; you, just now');
  await point('past').getByRole('button').click();
  await point('past').getByRole('button', { name: 'Speaks against' }).click();
  await expect(point('past')).toContainText('found without you');
  await page.getByRole('listitem').filter({ hasText: 'What was there' }).getByRole('button', { name: 'Undo' }).click();
  await expect(point('past')).toHaveAttribute('data-state', 'fine');
  const file = await (await request.get(`/api/v1/domains/${CLUB}/file?format=html`)).text();
  expect(file).toContain('third for its own name');
  const { diligence } = await (await request.get(`/api/v1/domains/${CLUB}/file?format=json`)).json();
  expect(diligence.find(({ item }: { item: string }) => item === 'searched')).toMatchObject({
    state: 'fine',
    by: 'you',
  });
  expect(
    (await request.post(`/api/v1/domains/${CLUB}/diligence`, { data: { item: 'taste', state: 'fine' } })).status(),
  ).toBe(400);
});

test('similar names of the pool are told with why, and a key that leads elsewhere does nothing else', async ({
  page,
}) => {
  await page.goto(`/domains/${CASINO}`);
  const similar = page.getByRole('table', { name: 'Similar names in the pool' });
  await expect(similar.getByRole('row').filter({ hasText: NEAR })).toContainText('one letter away');
  await expect(similar.getByRole('row').filter({ hasText: 'also says' }).first()).toBeVisible();
  const eras = page.getByRole('table', { name: 'History' });
  await expect(eras.locator('tbody tr').first()).toContainText(/by .*\(\d+\)/);
  // b alone puts it beside others
  await page.keyboard.press('g');
  await page.keyboard.press('b');
  await expect(page).toHaveURL(/\/briefs$/);
});

test('notes are written and given back, and history tells who said what', async ({ page }) => {
  await page.goto(`/domains/${CLUB}`);
  await page.keyboard.press('m');
  await page.keyboard.type('<b>ask</b> the old chair');
  await page.keyboard.press('Control+Enter');
  const notes = page.locator('#own-notes').locator('..');
  await expect(notes.getByText('<b>ask</b> the old chair')).toBeVisible();
  await notes.getByRole('button', { name: 'take away' }).click();
  await expect(notes.getByText('<b>ask</b> the old chair')).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo' }).last().click();
  await expect(notes.getByText('<b>ask</b> the old chair')).toBeVisible();
  const history = page.getByRole('table', { name: 'History' });
  await expect(history.getByRole('row').filter({ hasText: 'Due diligence: searched' })).toContainText('you');
  await expect(history.getByRole('row').filter({ hasText: 'Named' }).first()).toBeVisible();
});

test('a mark given in the dossier is in the grid, the sieve and the review within a second', async ({
  page,
  context,
  request,
}) => {
  const grid = await context.newPage();
  await grid.goto(`/pool?c=name:starts=${TONGUES.split('.')[0]}&c=judged:pass`);
  await expect(grid.getByText('Nothing gets through')).toBeVisible();
  const review = await context.newPage();
  await review.goto(`/review?c=name:starts=${TONGUES.split('.')[0]}`);
  await expect(review.getByTestId('verdict')).toBeVisible();
  await page.goto(`/domains/${TONGUES}`);
  await expect(page.getByRole('button', { name: 'Confirm it now' })).toBeVisible();
  await page.keyboard.press('n');
  await page.keyboard.press('4');
  const given = Date.now();
  await Promise.all([
    expect(grid.locator(`[data-domain="${TONGUES}"]`)).toBeVisible(),
    expect(review.getByText(/You judged it passed over.*bad past/)).toBeVisible(),
    expect(page.locator('[data-judged=pass]')).toContainText('bad past'),
  ]);
  // within a second where nothing else is at work; a busy core is borne
  expect(Date.now() - given).toBeLessThan(10_000);
  await page.keyboard.press('u');
  await expect(page.locator('[data-judged]')).toHaveCount(0);
  await expect(grid.getByText('Nothing gets through')).toBeVisible();
  expect((await dossier(request, TONGUES)).judged).toBe('not-yet');
  await grid.close();
  await review.close();
});

test('captures are shown as text, and two side by side with what changed', async ({ page }) => {
  await page.goto(`/domains/${CASINO}#past`);
  await page.getByRole('link', { name: 'The first and the last side by side' }).click();
  await expect(page).toHaveURL(/captures\?a=\d+&b=\d+/);
  await expect(page.getByTestId('same')).toContainText(/\d+% of the pieces are the same/);
  await expect(page.locator('[data-change=changed]').first()).toContainText('Cradlewick Hivecraft');
  await expect(page.getByTestId('changes')).toContainText('bonus');
  expect(await page.locator('[data-testid=changes] :is(script, style, iframe, img)').count()).toBe(0);
  await noSeriousFaults(page);
  await page.getByLabel('Second capture').selectOption('');
  await expect(page.getByRole('heading', { name: 'What decided' })).toBeVisible();
  await expect(page.getByRole('article', { name: 'What it shows' })).toContainText('Cradlewick Hivecraft');
  await noSeriousFaults(page);
});

test('domains stand side by side, with what differs', async ({ page, request }) => {
  await page.goto(`/compare?name=${CLUB}&name=${CASINO}`);
  const table = page.getByRole('table', { name: 'Side by side' });
  await expect(table.getByRole('row').filter({ hasText: 'Spam risk' }).last()).toContainText('differs');
  await expect(table.getByRole('row').filter({ hasText: 'Years with content' }).last()).toContainText('(best)');
  await expect(table.getByRole('row').filter({ hasText: 'Link to all of them' })).toContainText(
    'merrowvalebeekeepers.org',
  );
  const all = await table.getByRole('row').count();
  await page.keyboard.press('d');
  await expect(page).toHaveURL(/only=differences/);
  await expect.poll(() => table.getByRole('row').count()).toBeLessThan(all);
  expect(await table.locator('tr[data-differs]').count()).toBeGreaterThan(5);
  await page.getByLabel('Another domain').fill(`${TONGUES}, ${SHOP}`);
  await page.keyboard.press('Enter');
  await expect(table.getByRole('columnheader')).toHaveCount(5);
  await noSeriousFaults(page);
  await fits(page);
  await page.goto(`/compare?name=${CLUB}&name=nobody-knows-this.org&name=not..a..name`);
  await expect(
    page.getByRole('alert').filter({ hasText: 'No source has named nobody-knows-this.org yet' }),
  ).toContainText('is no registrable domain');
  expect((await request.get('/api/v1/compare?name=a&name=b')).status()).toBe(400);
  // from the grid, by its key
  await page.goto('/pool?c=strength:5..&sort=strength:down');
  await page.locator('#grid[aria-busy=false]').focus();
  for (const key of ['x', 'ArrowDown', 'x', 'b']) await page.keyboard.press(key);
  await expect(page).toHaveURL(/compare\?id=\d+&id=\d+/);
  await expect(table.getByRole('columnheader')).toHaveCount(3);
});

test('the file needs nothing else: no script, no other address, and all evidence in it', async ({
  browser,
  request,
  page,
}) => {
  await page.goto(`/domains/${CASINO}`);
  const saved = page.waitForEvent('download');
  await page.getByRole('link', { name: 'a page' }).click();
  const path = join(process.env.E2E_FOLDER ?? '', 'dossier.html');
  const text = readFileSync(await (await saved).path(), 'utf8');
  writeFileSync(path, text);
  expect(text).not.toMatch(/<script|\ssrc=|<link|@import|url\(/i);
  const alone = await browser.newContext({ javaScriptEnabled: false, offline: true });
  const file = await alone.newPage();
  const asked: string[] = [];
  file.on('request', (one) => asked.push(one.url()));
  await file.goto(`file://${path}`);
  expect(asked).toEqual([`file://${path}`]);
  await expect(file.getByRole('heading', { level: 1 })).toHaveText(CASINO);
  await expect(file.getByRole('img').first()).toContainText('Gambling');
  for (const heading of [
    'Due diligence',
    'Links',
    'Anchor texts',
    'History',
    'Registration data',
    'Trademarks',
    'Listings',
    'Checks',
    'Notes',
    'Who said what',
  ])
    await expect(file.getByRole('heading', { name: heading, exact: true })).toBeVisible();
  const { referringDomains } = await dossier(request, CASINO);
  expect(
    await file.getByText(/still there|is there without the link|all its links are nofollow/).count(),
  ).toBeGreaterThan(referringDomains / 2);
  await alone.close();
  // the page itself is printed whole, without what is only for pressing
  await page.emulateMedia({ media: 'print' });
  await expect(page.getByRole('banner')).toBeHidden();
  await expect(page.getByRole('button', { name: 'Confirm it now' })).toBeHidden();
  expect(await page.evaluate(() => document.documentElement.scrollHeight)).toBeGreaterThan(2500);
  await page.emulateMedia({ media: 'screen' });
  expect((await request.get(`/api/v1/domains/${CASINO}/file?format=docx`)).status()).toBe(400);
});

test(
  'a name of 63 characters, one of whom nothing is known, and one with 40,000 referrers are shown whole',
  LONG,
  async ({ page, request }) => {
    const rows = Array.from(
      { length: 40_000 },
      (_, n) =>
        `http://tarn${n}mead.org/links,http://${MANY}/,${n % 3 ? `honey ${n % 50}` : 'عسل النحل'},,2024-0${1 + (n % 9)}-11`,
    );
    rows.push(`http://${CLUB}/a,http://${LONGEST}/,\u202e${'x'.repeat(400)},,`);
    await send(request, '/sources/links?name=Many', `from,to,anchor,rel,first_seen\n${rows.join('\n')}\n`);
    await allDone(request);
    for (const name of [LONGEST, BARE, MANY]) {
      await page.goto(`/domains/${name}`);
      await expect(page.getByRole('heading', { level: 1 })).toHaveText(name);
      for (const [width, height, colorScheme] of [
        [1920, 1080, 'dark'],
        [1280, 800, 'light'],
      ] as const) {
        await page.setViewportSize({ width, height });
        await page.emulateMedia({ colorScheme });
        await expect(async () => fits(page)).toPass();
      }
      if (name !== MANY) await noSeriousFaults(page);
    }
    await page.goto(`/domains/${BARE}`);
    await expect(page.locator('[data-item][data-state=open]')).toHaveCount(17);
    await expect(page.getByText('No link to it is known.').first()).toBeVisible();
    await page.getByRole('button', { name: 'Ask it now' }).click();
    await expect(page.getByText('The archive never captured it.')).toBeVisible({ timeout: 60_000 });
    await allDone(request);

    const started = performance.now();
    const first = await (
      await request.get(`/api/v1/domains/${MANY}/tables/referrers?sort=since&order=up&limit=25`)
    ).json();
    expect(first.total).toBe(40_000);
    expect(performance.now() - started).toBeLessThan(15_000);
    await page.goto(`/domains/${MANY}`);
    const table = page.getByRole('table', { name: 'Referring domains', exact: true });
    await expect(table.locator('tbody tr')).toHaveCount(15);
    await page.getByLabel('Search Referring domains').fill('tarn39999mead');
    await expect(table.locator('tbody tr')).toHaveCount(1);
    const words = page.getByRole('table', { name: 'Anchor texts' }).locator('bdi').first();
    await expect(words).toHaveText('عسل النحل');
    await page.setViewportSize({ width: 1280, height: 800 });
  },
);

test('the review has it all on one screen', async ({ page }) => {
  await page.goto(`/review?c=name:starts=${CASINO.split('.')[0]}`);
  const evidence = page.getByRole('article', { name: `Evidence on ${CASINO}` });
  await expect(evidence.getByTestId('verdict')).toContainText('spam risk 100 of 100');
  await expect(evidence.getByRole('img', { name: /^captures in / })).toContainText('Gambling');
  await expect(
    evidence.getByRole('table', { name: 'Referring domains that matter most' }).locator('tbody tr'),
  ).toHaveCount(5);
  const part = (title: string) =>
    evidence.locator('section').filter({ has: page.getByRole('heading', { name: new RegExp(`^${title}`) }) });
  await expect(part('Speaks for it').getByRole('listitem')).toHaveCount(3);
  await expect(part('Speaks against it').getByRole('listitem')).toHaveCount(3);
  await expect(part('Anchor texts').locator('dt')).toHaveCount(5);
  const hidden = await evidence.evaluate((element) => {
    let scroller = element.parentElement;
    while (scroller && getComputedStyle(scroller).overflowY !== 'auto') scroller = scroller.parentElement;
    return scroller ? scroller.scrollHeight - scroller.clientHeight : Number.NaN;
  });
  expect(hidden).toBeLessThanOrEqual(0);
  await noSeriousFaults(page);
});
