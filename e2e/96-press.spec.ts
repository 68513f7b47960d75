import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, type Locator, type Page } from '@playwright/test';
import { LONG, test } from './test';

const folder = () => process.env.E2E_FOLDER ?? '';

/** Between press and release, as of a hand that is not in a hurry. */
const HELD_MS = 700;

/** Presses a control where it is and lets go there later: it must not have moved or been switched off meanwhile, and must do its work. */
async function press(page: Page, control: Locator): Promise<void> {
  // in the middle: what is focused at the edge is scrolled to by the browser itself
  await control.evaluate((element) => element.scrollIntoView({ block: 'center' }));
  const before = await control.boundingBox();
  if (!before) throw new Error('the control is not there');
  await page.mouse.move(before.x + before.width / 2, before.y + before.height / 2);
  await page.mouse.down();
  await page.waitForTimeout(HELD_MS);
  expect(await control.boundingBox()).toEqual(before);
  await expect(control).toBeEnabled();
  await page.mouse.up();
}

const world = (name: string) => join(folder(), 'world', name);

/** Forms: what is filled in and typed last, the button, and where its work is seen. */
const FORMS: [
  name: string,
  address: string,
  fill: (page: Page) => Promise<void>,
  button: string | RegExp,
  done: RegExp,
][] = [
  [
    'a crawl',
    '/sources?add=crawl',
    async (page) => {
      await page.getByLabel('Seeds').fill('merrowvalebeekeepers.org');
      await page.getByLabel('Page budget').pressSequentially('9');
    },
    'Start the crawl',
    /\/sources\/\d+$/,
  ],
  [
    'a trial',
    '/sources?add=crawl',
    (page) => page.getByLabel('Seeds').pressSequentially('thornabeckhivenotes.org'),
    'Try the seeds first',
    /\/sources\/trials\/\d+$/,
  ],
  [
    'a search',
    '/sources?add=search',
    (page) => page.getByRole('textbox', { name: /^Keywords/ }).pressSequentially('varroa'),
    'Search',
    /\/sources\/searches\/\d+$/,
  ],
  [
    'referrers as seeds',
    '/sources?add=referrers',
    async (page) => {
      await page.getByLabel('Choose a referrer file').setInputFiles(world('competitor-referrers.csv'));
      await page.getByLabel('Languages').fill('de');
      await page.getByLabel('Strength at least').pressSequentially('70');
    },
    /^Try [\d,]+ as seeds$/,
    /\/sources\/trials\/\d+$/,
  ],
  [
    'referrers into the pool',
    '/sources?add=referrers',
    async (page) => {
      await page.getByLabel('Choose a referrer file').setInputFiles(world('competitor-referrers.csv'));
      await page.getByLabel('Countries').pressSequentially('at, de');
    },
    'Put them into the pool',
    /\/sources\/\d+$/,
  ],
  [
    'a list',
    '/sources?add=list',
    async (page) => {
      const path = join(folder(), 'a-short-list.csv');
      writeFileSync(path, readFileSync(world('drop-list.csv'), 'utf8').split('\n').slice(0, 12).join('\n'));
      await page.getByLabel('Choose a list').setInputFiles(path);
      await page.getByLabel('Name of the source').pressSequentially(' of today');
    },
    'Import the list',
    /\/sources\/\d+$/,
  ],
  [
    'a link export that is cut',
    '/sources?add=links',
    async (page) => {
      const path = join(folder(), 'outlinks.csv');
      writeFileSync(
        path,
        'From,To\nhttp://a-vale.org/,http://lapsedvale.org/\nhttp://a-vale.org/,http://other-vale.edu/\n',
      );
      await page.getByLabel('Choose a link export').setInputFiles(path);
      await page.getByRole('textbox', { name: /^Known sites/ }).pressSequentially('merrowmaps.com');
    },
    'Cut the export',
    /\/sources\/\d+$/,
  ],
  [
    'a batch of names',
    '/check',
    (page) => page.getByLabel('Names or addresses').pressSequentially('lapsedvale.org'),
    'Check them',
    /\/check\/\d+$/,
  ],
  [
    'one page',
    '/page',
    (page) => page.getByLabel('Address of a page').pressSequentially('merrowvalebeekeepers.org/links/4.html'),
    'Look at its links',
    /\/page\?.*check=\d+/,
  ],
];

/** Those of most days; the others are the long ones'. */
const USUAL = ['a list', 'a batch of names', 'a crawl'];
for (const [name, address, fill, button, done] of FORMS)
  test(`a press that is let go later is taken: ${name}`, USUAL.includes(name) ? {} : LONG, async ({ page }) => {
    await page.goto(address);
    await fill(page);
    // right after the last key, with whatever is still being counted
    await press(page, page.getByRole('button', { name: button, exact: typeof button === 'string' }));
    await expect(page).toHaveURL(done, { timeout: 30_000 });
  });

test('a venue is looked at and read by presses that are let go later', LONG, async ({ page }) => {
  await page.goto('/sources?add=feed');
  await page.getByLabel('Address of the listings').pressSequentially('http://quaysidelots.com/lots.csv');
  await press(page, page.getByRole('button', { name: 'Look at it' }));
  await page.getByRole('textbox', { name: 'Venue', exact: true }).pressSequentially('Quayside again');
  await press(page, page.getByRole('button', { name: 'Read the venue' }));
  await expect(page).toHaveURL(/\/sources\/\d+$/, { timeout: 30_000 });
});

test(
  'the figures of a source are the same in its head, its funnel, its pool and its interface',
  LONG,
  async ({ page, request }) => {
    test.setTimeout(900_000);
    const api = async (path: string) => (await request.get(`/api/v1${path}`)).json();
    const underWay = async () =>
      (await api('/jobs')).jobs
        .filter(({ state }: { state: string }) => ['queued', 'running'].includes(state))
        .map(({ kind, state, progress }: { kind: string; state: string; progress: { message: string } | null }) =>
          [kind, state, progress?.message].join(', '),
        );
    // of what is still read each figure is of another moment
    await expect.poll(underWay, { timeout: 600_000 }).toEqual([]);
    const { sources } = await api('/sources');
    const inPool = async (id: number) => {
      const answer = await request.post('/api/v1/pool/query', {
        data: {
          parts: [{ type: 'member', fact: 'source', values: [id], not: false }],
          limit: 1,
        },
      });
      return answer.ok() ? (await answer.json()).total : Number.NaN;
    };
    const kinds = new Set<string>();
    for (const { id, kind } of sources as { id: number; kind: string }[]) {
      if (kind === 'links') continue;
      kinds.add(kind);
      await page.goto(`/sources/${id}`);
      const tile = async (label: string) =>
        Number(
          (
            await page
              .locator('dl div', { has: page.getByText(label, { exact: true }) })
              .locator('dd')
              .textContent()
          )?.replace(/,/g, ''),
        );
      const phases = ((await api(`/sources/${id}`)).phases as { domains: number }[]).reduce(
        (sum, { domains }) => sum + domains,
        0,
      );
      const total = await inPool(id);
      expect([kind, await tile('in the pool'), total]).toEqual([kind, phases, phases]);
      if (kind !== 'crawl') continue;
      const { funnel } = await api(`/sources/${id}/crawl`);
      expect([await tile('domains found'), await tile('lapsed')]).toEqual([funnel.named, funnel.lapsed]);
      expect(funnel.inPool).toBe(phases);
      expect(funnel.named).toBe(
        funnel.inPool +
          funnel.leftOut +
          funnel.setAside.reduce((sum: number, one: { domains: number }) => sum + one.domains, 0),
      );
      expect(await tile('left out or rejected')).toBe(funnel.named - funnel.inPool);
    }
    for (const kind of ['crawl', 'list', 'venue', 'referrers', 'cut']) expect(kinds).toContain(kind);
  },
);

test('what is left out of a crawl’s finds is switched on its page, and the figures follow', async ({
  page,
  request,
}) => {
  const started = await request.post('/api/v1/sources/crawls', {
    data: {
      seeds: ['merrowvalebeekeepers.org'],
      depth: 2,
      pageBudget: 25,
      checkAfter: false,
      excludedEndings: ['org'],
    },
  });
  const { source } = await started.json();
  await expect
    .poll(async () => (await (await request.get(`/api/v1/sources/${source.id}`)).json()).jobs.at(-1).state, {
      timeout: 90_000,
    })
    .toBe('done');
  await page.goto(`/sources/${source.id}`);
  const line = page.locator('[data-switch=ending]');
  await expect(line).toContainText('keeps out');
  const out = async () => (await (await request.get(`/api/v1/sources/${source.id}/finds`)).json()).out as number;
  const before = await out();
  expect(before).toBeGreaterThan(0);
  await line.getByRole('checkbox').uncheck();
  await expect(line).toContainText('would keep out');
  await expect.poll(out).toBeLessThan(before);
  await line.getByRole('checkbox').check();
  await expect.poll(out).toBe(before);
});
