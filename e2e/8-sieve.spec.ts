import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, type Page } from '@playwright/test';
import { noSeriousFaults } from './faults';
import { test } from './test';

test.describe.configure({ mode: 'serial' });

/** What a person does in the pool: sieves with groups, kept ones that run, the grid's columns and marks, the review. */
const folder = () => process.env.E2E_FOLDER ?? '';
const total = async (page: Page) => Number((await page.getByTestId('total').textContent())?.replace(/,/g, ''));
/** The total once it is that of the address, as a script gets it: an answer that is still on its way would be taken for the last. */
const settled = async (page: Page) => {
  const scripted = async () => {
    const { searchParams } = new URL(page.url());
    return (
      (await (await page.request.get(`/api/v1/export?format=csv&${searchParams}`)).text()).trim().split('\n').length - 1
    );
  };
  await expect.poll(async () => (await scripted()) - (await total(page))).toBe(0);
  return total(page);
};
const openPool = async (page: Page, query = '') => {
  await page.goto(`/pool${query}`);
  await expect(page.locator('#grid[aria-busy=false]').or(page.getByText('Nothing gets through'))).toBeVisible();
};
const LAPSED = 'c=phase:free,pending-delete,redemption';
const names = (page: Page) =>
  page
    .locator('[role=row][data-domain]')
    .evaluateAll((rows) => rows.map((row) => row.getAttribute('data-domain') ?? ''));

test('a group is made, switched off, and its parts dragged into another order', async ({ page }) => {
  await openPool(page, '?c=length:..16&c=name:contains=bee&c=name:contains=hive');
  const both = await total(page);
  await page.locator('[data-path="1"]').getByRole('button', { name: 'Name', exact: true }).click();
  await page.getByRole('button', { name: 'group: any of' }).click();
  const group = page.locator('[data-condition=group]');
  await expect(group).toBeVisible();
  await group.getByRole('button', { name: 'add to the group' }).click();
  await page.getByRole('option', { name: /^Name/ }).click();
  await page.getByLabel('How the name is matched').selectOption('contains');
  await page.getByLabel(/^Letters, by commas/).fill('hive');
  await page
    .locator('[data-path="2"]')
    .getByRole('button', { name: /^Remove/ })
    .click();
  await expect.poll(() => total(page)).toBeGreaterThan(both);
  await expect(page).toHaveURL(/any%28name%3Acontains%3Dbee%3Bname%3Acontains%3Dhive%29|any\(/);
  await expect(page.locator('[data-path="1.1"]')).toContainText('adds ');
  const any = await settled(page);
  await group.getByLabel('What of the group has to hold').selectOption('none');
  await expect.poll(() => total(page)).toBeGreaterThan(any);

  const before = await settled(page);
  await page
    .locator('[data-path="0"]')
    .getByRole('button', { name: /^Switch .* off/ })
    .click();
  await expect(page.locator('[data-path="0"]')).toContainText('switched off');
  await expect.poll(() => total(page)).toBeGreaterThan(before);
  await page
    .locator('[data-path="0"]')
    .getByRole('button', { name: /^Switch .* on/ })
    .click();
  await expect.poll(() => total(page)).toBe(before);

  // by keyboard: space takes it up, the arrow moves it, space puts it down
  await page.locator('[data-path="0"]').getByRole('button', { name: /^Move/ }).focus();
  const told = page.locator('[id^=DndLiveRegion]').filter({ hasText: /\S/ });
  await page.keyboard.press('Space');
  await expect(told).toContainText('over droppable area 0');
  await page.keyboard.press('ArrowDown');
  await expect(told).toContainText('over droppable area 1');
  await page.keyboard.press('Space');
  await expect(page.locator('[data-path="1"]')).toHaveAttribute('data-condition', 'length');
  expect(await total(page)).toBe(before);
  await noSeriousFaults(page);
});

test('a handle of a histogram is dragged, and the figures follow', async ({ page }) => {
  await openPool(page, `?${LAPSED}&c=length:..`);
  const before = await total(page);
  await page.locator('[data-condition=length]').getByRole('button', { name: 'Length', exact: true }).click();
  const handle = page.locator('[data-handle=max]');
  const box = await handle.boundingBox();
  if (!box) throw new Error('no handle');
  await page.mouse.move(box.x + box.width / 2, box.y + 20);
  await page.mouse.down();
  for (let step = 1; step <= 12; step++) await page.mouse.move(box.x - step * 12, box.y + 20);
  await expect.poll(() => total(page)).toBeLessThan(before);
  await page.mouse.up();
  await expect(page.locator('[data-condition=length]')).toContainText(/at most \d+ characters/);
  await expect(page).toHaveURL(/length%3A\.\.\d+/);
  await handle.focus();
  const dragged = await total(page);
  await page.keyboard.press('PageDown');
  await expect.poll(() => total(page)).toBeLessThan(dragged);
});

test('words are told from letters, and what makes no sense is said where it stands', async ({ page }) => {
  await openPool(page, `?${LAPSED}&c=name:contains=hive`);
  const letters = await total(page);
  await expect(page.locator('[data-condition=name]')).toContainText(/left are letters only/);
  await openPool(page, `?${LAPSED}&c=name:wordish=hive`);
  expect(await total(page)).toBeLessThan(letters);
  for (const name of await names(page)) expect(name).not.toMatch(/archive/);

  await openPool(page, '?c=name:pattern=(bee&c=strength:50..20&c=taste:1..2&c=length:x');
  await expect(page.getByRole('alert').filter({ hasText: 'names no fact' })).toBeVisible();
  await expect(page.locator('[data-condition=name]').getByRole('alert')).toContainText('is no pattern');
  await expect(page.locator('[data-condition=strength]').getByRole('alert')).toContainText('above the upper');
  await page.locator('[data-condition=name]').getByRole('button', { name: 'Name', exact: true }).click();
  await page.getByLabel('Patterns, one a line').fill('a'.repeat(100_000));
  await expect(page.locator('[data-condition=name]')).toContainText('this one has 100,000');
  await page.getByLabel('Patterns, one a line').fill('^[a-z]{4,9}(bee|hive)');
  await page
    .locator('[data-condition=strength]')
    .getByRole('button', { name: /^Remove/ })
    .click();
  await expect.poll(() => total(page)).toBeGreaterThan(0);
  for (const name of await names(page)) expect(name).toMatch(/^[a-z]{4,9}(bee|hive)/);
});

test('ten thousand pasted words are one condition', async ({ page }) => {
  await openPool(page, `?${LAPSED}`);
  const some = (await names(page)).slice(0, 3).map((name) => name.split('.')[0]);
  await page.locator('#grid').focus();
  await page.keyboard.press('/');
  await page.getByLabel('How the name is matched').selectOption('is');
  const words = [...Array.from({ length: 10_000 }, (_, i) => `nobody${i}`), ...some];
  await page.getByLabel(/^Letters, by commas/).evaluate((field, text) => {
    const clipboardData = new DataTransfer();
    clipboardData.setData('text', text);
    field.dispatchEvent(new ClipboardEvent('paste', { clipboardData, bubbles: true, cancelable: true }));
  }, words.join('\n'));
  await expect(page.getByText('10,003 words, kept as a list')).toBeVisible();
  await expect(page).toHaveURL(/name%3Ais%3D%40\d+/);
  await expect.poll(() => total(page)).toBeLessThan(20);
  await page.reload();
  expect((await names(page)).length).toBeGreaterThanOrEqual(3);
});

test('columns are chosen, sized, moved and pinned, and kept with the sieve', async ({ page }) => {
  await openPool(page, `?${LAPSED}`);
  await page.getByRole('button', { name: 'Columns' }).click();
  await page.getByRole('menuitemcheckbox', { name: 'Registrar' }).click();
  await page.getByRole('menuitemcheckbox', { name: 'Closes' }).click();
  await page.keyboard.press('Escape');
  await expect(page.locator('[data-column=registrar]')).toBeVisible();
  await expect(page.locator('[data-column=closes]')).toHaveCount(0);
  const edge = page.getByRole('separator', { name: 'Width of Status' });
  const box = await edge.boundingBox();
  if (!box) throw new Error('no edge');
  await page.mouse.move(box.x + 4, box.y + 10);
  await page.mouse.down();
  await page.mouse.move(box.x + 64, box.y + 10, { steps: 5 });
  await page.mouse.up();
  await expect(page).toHaveURL(/phase%3A24\d/);
  const pin = page.getByRole('separator', { name: /^Columns left of this line/ });
  await pin.focus();
  await page.keyboard.press('ArrowRight');
  await expect(page).toHaveURL(/columns=2%7C/);

  const head = page.locator('[data-column=age]').getByRole('button');
  const from = await head.boundingBox();
  const to = await page.locator('[data-column=pair]').boundingBox();
  if (!from || !to) throw new Error('no heads');
  await page.mouse.move(from.x + 5, from.y + 5);
  await page.mouse.down();
  await page.mouse.move(to.x + to.width / 2, from.y + 5, { steps: 12 });
  // it lets go only where another has made room for it
  await expect(page.locator('[data-column=pair]')).toHaveAttribute('style', /translate3d\(-/);
  await page.mouse.up();
  await expect(page).toHaveURL(/referrers%2Cpair%2Cage/);

  await page.locator('[data-column=age]').getByRole('button').click();
  await page
    .locator('[data-column=referrers]')
    .getByRole('button', { name: /^Referring/ })
    .click({ modifiers: ['Shift'] });
  await expect(page).toHaveURL(/sort=age%3Adown%2CreferringDomains%3Adown/);
  await page.getByRole('button', { name: 'Kept sieves' }).click();
  await page.getByRole('menuitem', { name: 'Keep this sieve' }).click();
  await page.getByLabel('Name for this sieve').fill('With registrars');
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  await openPool(page);
  await page.getByRole('button', { name: 'Kept sieves' }).click();
  await page.getByRole('menuitem', { name: 'With registrars' }).click();
  await expect(page.locator('[data-column=registrar]')).toBeVisible();
});

test('rows are selected by key, range and all that match, marked, and undone', async ({ page, request }) => {
  await openPool(page, `?${LAPSED}`);
  const all = await total(page);
  await page.locator('#grid').focus();
  await page.keyboard.press('Space');
  await page.keyboard.press('Shift+ArrowDown');
  await page.keyboard.press('Shift+ArrowDown');
  await expect(page.getByText('3 selected')).toBeVisible();
  const three = (await names(page)).slice(0, 3);
  await page.getByRole('button', { name: 'Mark' }).click();
  await page.getByRole('menuitem', { name: 'Pass: bad past' }).click();
  await expect(page.getByText('3 domains: passed over')).toBeVisible();
  const judged = async () => (await (await request.get(`/api/v1/domains/${three[0]}`)).json()).judged;
  await expect.poll(judged).toBe('pass');
  await page.getByRole('button', { name: 'Undo' }).first().click();
  await expect.poll(judged).toBe('not-yet');

  await page.keyboard.press('Escape');
  await page.locator('#grid').focus();
  await page.keyboard.press('Control+a');
  await expect(page.getByText(`${all.toLocaleString('en')} selected`)).toBeVisible();
  await page.getByRole('button', { name: 'Tag', exact: true }).click();
  await page.getByLabel('Another tag').fill('lapsed ones');
  await page.keyboard.press('Enter');
  await expect(page.getByText(`${all.toLocaleString('en')} domains: tagged lapsed ones`)).toBeVisible({
    timeout: 60_000,
  });
  const tags = (await (await request.get('/api/v1/tags')).json()).tags;
  expect(tags).toMatchObject([{ name: 'lapsed ones', domains: all }]);
  await openPool(page, `?c=tag:${tags[0].id}`);
  expect(await total(page)).toBe(all);
});

test('the row that is highlighted hears its keys before anything was clicked, and all rows are selected from anywhere', async ({
  page,
}) => {
  await openPool(page, `?${LAPSED}`);
  const [, second] = await names(page);
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Space');
  await expect(page.getByText('1 selected')).toBeVisible();
  await page.getByRole('button', { name: 'Mark' }).focus();
  await page.keyboard.press('Control+a');
  await expect(page.getByText(`${(await total(page)).toLocaleString('en')} selected`)).toBeVisible();
  await openPool(page, `?${LAPSED}`);
  // the cursor stands where it was
  await page.keyboard.press('v');
  await expect(page.getByRole('complementary', { name: 'Quick look' })).toContainText(second.split('.')[0]);
});

test('what is excluded is left out, said, and shown again', async ({ page }) => {
  await openPool(page, `?${LAPSED}`);
  const all = await total(page);
  const [first] = await names(page);
  await page.locator('#grid').focus();
  await page.keyboard.press('e');
  await expect.poll(() => total(page)).toBe(all - 1);
  expect(await names(page)).not.toContain(first);
  await expect(page.getByText('1 you excluded are left out')).toBeVisible();
  await page.getByRole('button', { name: 'show them' }).click();
  await expect.poll(() => total(page)).toBe(all);
  await openPool(page, '?c=judged:excluded');
  expect(await names(page)).toEqual([first]);
  await page.locator('#grid').focus();
  await page.keyboard.press('u');
  await expect.poll(() => total(page)).toBe(0);
});

test('rows are copied as text, drawn closer together, and put off', async ({ page, context, request }) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  await openPool(page, `?${LAPSED}&c=strength:2..&sort=name:up`);
  const [first, second] = await names(page);
  const grid = page.locator('#grid');
  await grid.focus();
  await page.keyboard.press('x');
  await page.keyboard.press('Shift+ArrowDown');
  await page.keyboard.press('Control+c');
  await expect(page.getByText('2 rows copied')).toBeVisible();
  const copied = (await page.evaluate(() => navigator.clipboard.readText())).split('\n');
  expect(copied.map((line) => line.split('\t')[0])).toEqual([first, second]);
  await page.keyboard.press('Escape');

  const height = async () => (await page.locator('[role=row][data-domain]').first().boundingBox())?.height;
  expect(await height()).toBe(29);
  await page.getByRole('button', { name: /^Columns/ }).click();
  await page.getByRole('menuitemcheckbox', { name: 'close together' }).click();
  await expect.poll(height).toBe(24);
  await page.reload();
  await expect.poll(height).toBe(24);
  await page.getByRole('button', { name: /^Columns/ }).click();
  await page.getByRole('menuitemcheckbox', { name: 'as usual' }).click();

  await grid.focus();
  await page.keyboard.press('Home');
  await page.keyboard.press('z');
  await expect(page.getByText(`${first}: snoozed`)).toBeVisible();
  const { judged, snoozedUntil } = await (await request.get(`/api/v1/domains/${first}`)).json();
  expect(judged).toBe('snoozed');
  expect(snoozedUntil - Date.UTC(2026, 10, 20)).toBeGreaterThan(7 * 86_400_000);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect.poll(async () => (await (await request.get(`/api/v1/domains/${first}`)).json()).judged).toBe('not-yet');
});

test('a kept sieve is kept once more under another name', async ({ page, request }) => {
  await request.post('/api/v1/sieves', { data: { name: 'Old hives', view: 'c=name:wordish=hive&c=age:5..' } });
  await page.goto('/pool?c=name%3Awordish%3Dhive&c=age%3A5..');
  await page.getByRole('button', { name: 'Kept sieves' }).click();
  await page.getByRole('menuitem', { name: 'Old hives', exact: true }).click();
  await page.getByRole('button', { name: 'Kept sieves' }).click();
  await page.getByRole('menuitem', { name: 'Keep this sieve…' }).click();
  await page.getByLabel('Name for this sieve').fill('Old hives, stricter');
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  await expect(page.getByText('Kept as "Old hives, stricter"')).toBeVisible();
  const { sieves } = await (await request.get('/api/v1/sieves')).json();
  const view = (name: string) => sieves.find((sieve: { name: string }) => sieve.name === name)?.view;
  expect(view('Old hives, stricter')).toBe(view('Old hives'));
});

test('a quick look follows the cursor', async ({ page }) => {
  await openPool(page, `?${LAPSED}&c=strength:2..`);
  const [first, second] = await names(page);
  await page.locator('#grid').focus();
  await page.keyboard.press('v');
  const look = page.getByRole('complementary', { name: 'Quick look' });
  await expect(look).toContainText(first.split('.')[0]);
  await page.keyboard.press('ArrowDown');
  await expect(look).toContainText(second.split('.')[0]);
  await expect(look.getByRole('heading', { name: /^Who links/ })).toBeVisible();
  await noSeriousFaults(page);
});

test('a mark made elsewhere shows within a second, and the row under the pointer stays', async ({ page, request }) => {
  await openPool(page, `?${LAPSED}&sort=name:up`);
  const row = page.locator('[aria-rowindex="12"]');
  await row.hover();
  const held = await row.getAttribute('data-domain');
  const place = await row.boundingBox();
  const [gone] = await names(page);
  const started = Date.now();
  await request.post('/api/v1/actions', {
    data: { act: { kind: 'judge', judged: 'excluded' }, which: { names: [gone] } },
  });
  await expect.poll(async () => (await names(page)).includes(gone), { intervals: [50] }).toBe(false);
  // within a second where nothing else is at work; a busy core is borne
  expect(Date.now() - started).toBeLessThan(10_000);
  const after = await page.locator(`[data-domain="${held}"]`).boundingBox();
  expect(Math.abs((after?.y ?? 0) - (place?.y ?? 0))).toBeLessThan(2);
});

test('a kept sieve runs after an import, marks what is new, and offers it as feed, digest and file', async ({
  page,
  request,
}) => {
  const { id } = await (
    await request.post('/api/v1/sieves', {
      data: { name: 'Wharves to come', view: 'c=name:wordish=wharf,anchor&sort=name:up' },
    })
  ).json();
  await page.goto(`/pool?${(await kept(page, id)).view}`);
  await page.getByRole('button', { name: 'Kept sieves' }).click();
  await page.getByRole('menuitem', { name: /^Schedule and rename/ }).click();
  await page.getByLabel('after each import, crawl, check and measure').check();
  await page.getByLabel(/^goes on the shortlist for/).selectOption({ index: 1 });
  await page.getByRole('button', { name: 'Save' }).click();
  expect((await (await request.post(`/api/v1/sieves/${id}/run`)).json()).fresh).toBe(0);
  const list = await request.post('/api/v1/sources/lists?name=late+names', {
    headers: { 'content-type': 'text/csv' },
    data: 'domain\npellgatewharf.org\nmirrowbyanchors.org\nossenmerelate.org\n',
  });
  expect(list.status()).toBe(202);
  await expect.poll(async () => (await kept(page, id)).fresh).toBe(2);
  await page.goto('/');
  await expect(page.getByRole('link', { name: 'review 2 new' })).toBeVisible();
  await page.getByRole('link', { name: 'Wharves to come' }).click();
  await expect(page.locator('[data-domain="pellgatewharf.org"]')).toContainText('new');
  await expect(page.getByText('runs after each import; 2 new')).toBeVisible();

  const feed = await request.get(`/api/v1/sieves/${id}/feed`);
  expect(feed.headers()['content-type']).toContain('application/atom+xml');
  expect(await feed.text()).toContain('<title>pellgatewharf.org</title>');
  const digest = await (await request.post('/api/v1/digest')).json();
  const mail = readFileSync(join(folder(), 'outbox', digest.file), 'utf8');
  expect(readdirSync(join(folder(), 'outbox'))).toHaveLength(1);
  expect(mail).toContain('multipart/alternative');
  expect(mail).toContain('pellgatewharf.org');
  const { brief } = { brief: (await (await request.get('/api/v1/briefs')).json()).briefs[0] };
  const shortlist = await (await request.get(`/api/v1/shortlist?brief=${brief.id}`)).json();
  expect(shortlist.entries.map((entry: { domain: { name: string } }) => entry.domain.name)).toContain(
    'pellgatewharf.org',
  );

  const file = await (await request.get(`/api/v1/sieves/${id}/file`)).json();
  const again = await request.post('/api/v1/sieves/file', { data: { ...file, name: 'Wharves, shared' } });
  expect(again.status()).toBe(201);
  expect((await again.json()).view).toBe((await kept(page, id)).view);
});

async function kept(page: Page, id: number) {
  const { sieves } = await (await page.request.get('/api/v1/sieves')).json();
  return sieves.find((sieve: { id: number }) => sieve.id === id);
}

test('a review goes through the new ones by key, takes back, and tallies', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('link', { name: 'review 2 new' }).click();
  await expect(page.getByText('1 of 2')).toBeVisible();
  await noSeriousFaults(page);
  await page.keyboard.press('n');
  await page.keyboard.press('6');
  await expect(page.getByText('2 of 2')).toBeVisible();
  await page.keyboard.press('u');
  await expect(page.getByText('1 of 2')).toBeVisible();
  await page.keyboard.press('y');
  await expect(page.getByText('2 of 2')).toBeVisible();
  await page.keyboard.press('n');
  await page.keyboard.press('1');
  await expect(page.getByRole('heading', { name: 'Through' })).toBeVisible();
  await expect(page.getByText(/2 of 2 judged in .*: 1 kept, 1 passed over/)).toBeVisible();
  await expect(page.getByRole('rowheader', { name: 'off subject' })).toBeVisible();
  await page.getByRole('link', { name: 'Back to the pool' }).click();
  await expect(page.getByRole('heading', { name: 'Wharves to come' })).toBeVisible();
});

test('each starting point gives its reasons and can be started with', async ({ page }) => {
  await openPool(page);
  await page.getByRole('button', { name: 'Kept sieves' }).click();
  await page.getByRole('menuitem', { name: 'Starting points' }).click();
  await expect(page.getByText('A hyphen has to be explained')).toBeVisible();
  await page.getByRole('button', { name: 'Start with Names to sell on' }).click();
  await expect(page.locator('[data-condition=hyphens]')).toContainText('Hyphens at most 0');
  const odd = async () => (await names(page)).filter((name) => /[-0-9]/.test(name.split('.')[0]));
  await expect.poll(odd).toEqual([]);
  expect((await names(page)).length).toBeGreaterThan(0);
});
