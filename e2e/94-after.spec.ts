import { readFileSync } from 'node:fs';
import { type APIRequestContext, expect, type Page } from '@playwright/test';
import { buyersFor } from '../standins/buyers';
import { noSeriousFaults } from './faults';
import { allDone, send } from './stories';
import { LONG, test } from './test';

/** What comes after a purchase: from a name that was won to rules, a plan, letters, a sale, and what it teaches. */
const DAY = 86_400_000;
const VENUE = 'Saltmarch Exchange';
/** A name whose first buyer comes up by halves, so that there is something to answer. */
const NAME =
  Array.from({ length: 200 }, (_, n) => `oldcombs${n}.org`).find((name) => {
    const [first] = buyersFor(`saltmarchexchange.com ${name}`, 1, 0).sort((a, b) => a.comesAt - b.comesAt);
    return first.temper === 'patient';
  }) ?? '';
const TOPICS = ['winter-feeding', 'swarms', 'queens', 'mites'];

const forward = async (request: APIRequestContext, forwardMs: number) =>
  expect((await request.post('/api/v1/clock', { data: { forwardMs } })).ok()).toBe(true);
const download = async (page: Page, link: string) => {
  const saved = page.waitForEvent('download');
  await page.getByRole('link', { name: link }).click();
  return readFileSync(await (await saved).path(), 'utf8');
};

test.describe.configure({ mode: 'serial' });

test('a name is won, its old addresses move, and the server’s log says what they carried', async ({
  page,
  request,
}) => {
  const links = ['from,to,anchor'];
  for (const [n, topic] of TOPICS.entries())
    for (let site = 0; site <= n; site++)
      links.push(`http://linksite${site}.org/p${n},http://${NAME}/blog/${topic},about ${topic.replace('-', ' ')}`);
  await send(request, '/sources/lists?name=Combs', NAME);
  await send(request, '/sources/links?name=Links+of+combs', links.join('\n'));
  await allDone(request);
  await request.post(`/api/v1/domains/${NAME}/confirm`, { data: {} });
  const { briefs } = await (await request.get('/api/v1/briefs')).json();
  const order = { name: NAME, briefId: briefs[0].id, venue: 'Coombe Names', kind: 'register', amountMinor: 3000 };
  await request.post('/api/v1/orders', { data: order });
  await page.goto('/holdings');
  const row = page.locator(`tr[data-holding="${NAME}"]`);
  await expect(async () => {
    await page.reload();
    await expect(row).toBeVisible({ timeout: 2000 });
  }).toPass();
  // what was won is watched from then on
  expect((await (await request.get(`/api/v1/domains/${NAME}`)).json()).watched).toBe('by hand');
  await row.getByLabel(`Plan for ${NAME}`).selectOption('redirect');
  await row.getByRole('link', { name: 'where its addresses move' }).click();
  const sitemap = TOPICS.map((topic) => `https://combsofthevale.org/guide/${topic},${topic.replace('-', ' ')}`);
  await page.getByLabel('Take a sitemap, a table or a list').setInputFiles({
    name: 'combs.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(`url,title\n${sitemap.join('\n')}`),
  });
  await expect(page.getByText('4 own pages taken')).toBeVisible();
  const rows = page.locator('tr[data-path]');
  await expect(rows).toHaveCount(4);
  await expect(rows.last()).toContainText('combsofthevale.org');
  // as quick as one likes
  for (let n = 0; n < 3; n++) await page.keyboard.press('y');
  await expect(page.getByText('3 of 4 old addresses decided')).toBeVisible();
  expect(await (await request.get(`/api/v1/domains/${NAME}/redirects/file?format=nginx`)).text()).toContain(NAME);

  const hit = (path: string, status: number) =>
    `198.51.100.7 - - [20/Nov/2026:10:00:00 +0000] "GET ${path} HTTP/1.1" ${status} 0 "-" "Mozilla/5.0"\n`;
  const log =
    hit('/blog/mites', 301).repeat(6) + hit('/blog/queens', 301).repeat(2) + hit('/blog/forgotten', 410).repeat(2);
  const take = (buffer: Buffer) =>
    page
      .getByLabel('take the access log of your server')
      .setInputFiles({ name: 'access.log', mimeType: 'text/plain', buffer });
  await take(Buffer.from('nothing of a log\n'));
  await expect(page.getByText('No line of it is one of an access log')).toBeVisible();
  await take(Buffer.from(log));
  await expect(page.getByText('8 visits sent on, 2 told gone')).toBeVisible();
  await page.goto('/learning');
  const told = page.locator(`tr[data-redirected="${NAME}"]`);
  await expect(told).toContainText('80%');
  await expect(told).toContainText('/blog/forgotten (2)');
  await noSeriousFaults(page);
});

test('a site is planned to be brought back, page by page, with a list of what is to be done', async ({ page }) => {
  await page.goto(`/domains/${NAME}`);
  await page.getByRole('link', { name: 'what to bring back' }).click();
  const rows = page.locator('tr[data-path]');
  await expect(rows.first()).toHaveAttribute('data-path', '/blog/mites');
  await expect(page.getByText(/pages brought back of 4 old pages/)).toBeVisible();
  const last = rows.last();
  await expect(last).toContainText('no');
  const steps = page.getByRole('region', { name: /^To do/ });
  await expect(steps).not.toContainText('/blog/winter-feeding');
  for (let n = 0; n < 3; n++) await page.keyboard.press('ArrowDown');
  await page.keyboard.press('y');
  await expect(steps).toContainText('Write /blog/winter-feeding again');
  await page.keyboard.press('u');
  await expect(steps).not.toContainText('/blog/winter-feeding');
  await steps.getByLabel(/^Point the name to your server/).check();
  await expect(steps).toContainText('1 of');
  await steps.getByLabel('A step of your own').fill('Ask the club for its old photographs');
  await steps.getByRole('button', { name: 'Add it' }).click();
  await expect(steps).toContainText('Ask the club for its old photographs');
  await noSeriousFaults(page);
  const text = await download(page, 'Take it as Markdown');
  expect(text).toContain(`# Bringing ${NAME} back`);
  expect(text).toContain('- [x] Point the name to your server');
  expect(text).toContain('- [ ] Ask the club for its old photographs');
  expect(text).toContain('| `/blog/mites` |');
});

test('who links is put on the outreach list and written to, one by one', async ({ page }) => {
  await page.goto(`/domains/${NAME}/redirects`);
  const mention = page.locator('tr[data-mention]').filter({ hasText: 'linksite3.org/p3' });
  await mention.getByRole('button', { name: /^Write to/ }).click();
  await expect(mention).toContainText('on the outreach list');
  await page.goto('/targets');
  const row = page.locator('tr[data-prospect="http://linksite3.org/p3"]');
  await expect(row).toContainText('combsofthevale.org/guide/mites could stand there');
  await expect(row).toContainText('find out how to reach them');
  await row.getByLabel('How to reach linksite3.org/p3').fill('keeper@linksite3.org');
  await row.getByLabel('Note on linksite3.org/p3').click();
  await expect(row).toContainText('write');
  await row.getByRole('button', { name: 'Letter to linksite3.org/p3' }).click();
  await expect(page.getByText('I look after that domain now')).toBeVisible();
  await expect(page.getByRole('link', { name: 'Open in my mail' })).toHaveAttribute(
    'href',
    /^mailto:keeper@linksite3\.org\?/,
  );
  await noSeriousFaults(page);
  await page.getByRole('button', { name: 'It is written' }).click();
  await expect(page.getByText('0 pages to write to, 1 written')).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).last().click();
  await expect(page.getByText('1 page to write to, 0 written')).toBeVisible();
});

test(
  'a name is offered with what is evidenced, a buyer is answered, and the price is in the books',
  LONG,
  async ({ page, request }) => {
    await page.goto(`/domains/${NAME}/sale`);
    await expect(page.getByText('the venue’s 10%')).toBeVisible();
    // what is asked follows what it is thought to be worth
    await page.getByLabel('Worth, low').fill('20');
    await page.getByLabel('Worth, high').fill('300');
    await expect(page.getByLabel('Asked', { exact: true })).toHaveValue('350.00');
    await page
      .getByRole('checkbox', { name: /effective referring domains|characters/ })
      .first()
      .waitFor();
    await page.getByLabel(/^Floor/).fill('9');
    await noSeriousFaults(page);
    await page.getByRole('button', { name: 'Offer it' }).click();
    const sale = page.locator(`section[data-sale="${VENUE}"]`);
    await expect(sale).toContainText('listed, 350 EUR asked, not under 9 EUR');
    await expect(page.getByText('for sale').first()).toBeVisible();

    const open = async () => {
      const { sales } = await (await request.get('/api/v1/resales')).json();
      const one = sales.find(({ name }: { name: string }) => name === NAME);
      await request.post(`/api/v1/resales/${one.id}`);
      return one.inquiries.length;
    };
    for (let day = 0; day < 24 && (await open()) === 0; day++) await forward(request, DAY);
    expect(await open()).toBeGreaterThan(0);
    const { deadlines } = await (await request.get('/api/v1/deadlines?scope=mine&kinds=answer&hours=200')).json();
    expect(deadlines).toMatchObject([{ name: NAME, kind: 'answer' }]);
    await page.goto('/');
    const waiting = page.locator(`tr[data-decision="${NAME}"]`);
    await expect(waiting).toContainText('is interested');
    await waiting.getByRole('link', { name: 'Answer' }).click();
    await expect(sale.locator('[data-inquiry=open]')).toContainText('Suggested: counter');
    await noSeriousFaults(page);
    await sale.getByRole('button', { name: /^Accept/ }).click();
    await expect(sale).toContainText('sold for');
    await page.goto('/holdings');
    await expect(page.getByLabel(`How ${NAME} stands`)).toHaveValue('sold');
    const csv = await (await request.get('/api/v1/holdings/profit?format=csv')).text();
    const lines = csv.split('\r\n').filter((line) => line.includes(NAME));
    expect(lines.some((line) => line.includes(`sold at ${VENUE}`))).toBe(true);
    expect(lines.some((line) => line.includes(`kept by ${VENUE}`))).toBe(true);
  },
);

test('ideas near a name that is taken are composed from its words', LONG, async ({ page }) => {
  await page.goto(`/domains/${NAME}`);
  await page.getByRole('link', { name: 'ideas near this name' }).click();
  await expect(page.getByText('The pattern at the left gives what is nearest')).toBeVisible();
  await page.getByRole('button', { name: 'Make and judge them' }).click();
  const table = page.getByRole('table', { name: 'Ideas' });
  await expect(table).toBeVisible({ timeout: 60_000 });
  await expect(table.locator('tr[data-idea]').first()).toContainText('comb');
  await noSeriousFaults(page);
});
