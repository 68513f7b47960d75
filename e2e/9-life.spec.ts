import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { type APIRequestContext, expect, type Page } from '@playwright/test';
import ICAL from 'ical.js';
import { noSeriousFaults } from './faults';
import { LONG, test } from './test';

test.describe.configure({ mode: 'serial' });

/** What a person does to find out when names are free: batches, the watch, deadlines, confirming; with the world's time moving on. */
const CLUB = 'ossenmerebeeclub.org';
const MUSEUM = 'lathergillbeemuseum.org';
const LATE = 'tallowendhoneypath.net';
const HOUR = 3_600_000;
const DAY = 24 * HOUR;

const droplist = () =>
  readFileSync(join(process.env.E2E_FOLDER ?? '', 'world/drop-list.csv'), 'utf8')
    .split('\r\n')
    .slice(1)
    .map((line) => line.split(',')[0])
    .filter(Boolean);
const forward = (request: APIRequestContext, forwardMs: number) =>
  request.post('/api/v1/clock', { data: { forwardMs } });
const number = async (page: Page, step: string) =>
  Number((await page.locator(`[data-step=${step}] .font-serif`).textContent())?.replace(/,/g, ''));
const dossier = async (request: APIRequestContext, name: string) =>
  (await request.get(`/api/v1/domains/${name}`)).json();

test('names are pasted, normalised and checked, and every one of them is accounted for', async ({ page, request }) => {
  const names = droplist()
    .filter((name) => name !== CLUB && (name.endsWith('.org') || name.endsWith('.com')))
    .slice(0, 150);
  await page.goto('/check');
  await page
    .getByLabel('Names or addresses')
    .fill(
      [
        ...names,
        `https://www.${CLUB}/guide.html`,
        names[3].toUpperCase(),
        'nonsense',
        MUSEUM,
        LATE,
        'thornabeckhoney.com',
        'merrowvalegazette.com',
      ].join(', '),
    );
  await page.getByLabel('are good enough').selectOption('0');
  await page.getByLabel('How far they are asked').selectOption('registrar');
  await page.getByRole('button', { name: 'Check them' }).click();
  await expect(page.getByRole('heading', { name: /^Batch of/ })).toBeVisible();
  await expect(page.getByText('Nothing of this batch waits')).toBeVisible({ timeout: 60_000 });
  const [given, known, dns, record] = await Promise.all(
    ['given', 'known', 'dns', 'record'].map((step) => number(page, step)),
  );
  expect(given).toBe(known + 2);
  expect(dns).toBe(known);
  // the newspaper is delegated, and goes no further
  expect(record).toBeLessThan(dns);
  await expect(page.locator('[data-step=given]')).toContainText('1 no domain');
  await expect(page.locator('[data-step=registrar]')).toContainText('reserved');
  await noSeriousFaults(page);

  await page.getByRole('link', { name: /^reserved \d/ }).click();
  await expect(page.locator(`[data-domain="${MUSEUM}"]`)).toContainText('refuses it');
  const id = page.url().match(/check\/(\d+)/)?.[1];
  const csv = await (await request.get(`/api/v1/batches/${id}/file?format=csv`)).text();
  expect(csv.trim().split('\n')).toHaveLength(known + 1);
  const museum = csv.split('\n').find((line) => line.startsWith(MUSEUM));
  expect(museum).toMatch(/dns .*nxdomain.*rdap .*not-found.*registrar .*reserved/);
  const lines = (await (await request.get(`/api/v1/batches/${id}/file?format=jsonl`)).text()).trim().split('\n');
  expect(JSON.parse(lines[0]).evidence.length).toBeGreaterThan(0);
});

test('a batch whose engine is killed loses no name, and asks hardly one again', LONG, async ({ request }) => {
  test.setTimeout(900_000);
  const names = droplist()
    .filter((name) => name.endsWith('.com'))
    .slice(200, 1400);
  const { id } = await (
    await request.post('/api/v1/batches', { data: { text: names.join(' '), freshMinutes: 0 } })
  ).json();
  const cells = async (): Promise<{ waits: string | null; by: string; count: number }[]> =>
    (await (await request.get(`/api/v1/batches/${id}`)).json()).cells;
  const settled = async () =>
    (await cells()).reduce(
      (sum, { waits, by, count }) => sum + (waits === null && by !== 'none' && by !== 'queue' ? count : 0),
      0,
    );
  for (const share of [0.2, 0.5]) {
    await expect.poll(settled, { timeout: 240_000, intervals: [250] }).toBeGreaterThan(names.length * share);
    const { pid } = JSON.parse(readFileSync(join(process.env.E2E_FOLDER ?? '', 'engine.json'), 'utf8'));
    process.kill(pid, 'SIGKILL');
    await expect
      .poll(() => JSON.parse(readFileSync(join(process.env.E2E_FOLDER ?? '', 'engine.json'), 'utf8')).pid, {
        timeout: 30_000,
      })
      .not.toBe(pid);
  }
  await expect.poll(settled, { timeout: 240_000 }).toBe(names.length);
  // an answer that was not on disk yet when the engine was killed is asked for again: what was under way in 40 ms
  const lines = (await (await request.get(`/api/v1/batches/${id}/file?format=jsonl`)).text()).trim().split('\n');
  expect(lines).toHaveLength(names.length);
  for (const line of lines) expect(JSON.parse(line).evidence.length, line).toBeGreaterThanOrEqual(2);
});

test('an empty paste and an absurd one are answered where the person looks', async ({ page }) => {
  await page.goto('/check');
  await page.getByRole('button', { name: 'Check them' }).click();
  await expect(page.getByRole('alert').filter({ hasText: 'no name in the text' })).toBeVisible();
});

test(
  'a registry that answers seldom has a forecast, and a name can be asked first',
  LONG,
  async ({ page, request }) => {
    const names = droplist()
      .filter((name) => name.endsWith('.me'))
      .slice(0, 14);
    const { id } = await (await request.post('/api/v1/batches', { data: { text: names.join(' ') } })).json();
    await page.goto(`/check/${id}`);
    const lane = page.locator('[data-lane="rdap.tarnregistry.me"]');
    await expect(lane).toContainText(/5 an hour|4 an hour/, { timeout: 30_000 });
    await expect(lane).toContainText(/\d+ wait, through \d+ Nov/);
    await expect(lane).toContainText('learned: it refused and asked for');
    // the job does not wait for it
    await expect
      .poll(async () => (await (await request.get('/api/v1/jobs')).json()).jobs[0].state, { timeout: 30_000 })
      .toBe('done');
    const waiting = (await (await request.get(`/api/v1/batches/${id}`)).json()).lanes[0].mine;
    expect(waiting).toBeGreaterThan(3);
    const states = await Promise.all(
      names.map(async (name) => ({ name, place: (await dossier(request, name)).place })),
    );
    const last = states.filter(({ place }) => place).sort((a, b) => b.place.before - a.place.before)[0];
    await page.goto(`/domains/${last.name}`);
    await expect(page.getByText(/questions stand before it at rdap.tarnregistry.me/)).toBeVisible();
    await page.getByRole('button', { name: 'ask it first' }).click();
    await expect(page.getByText('0 questions stand before it')).toBeVisible();
  },
);

test('a verdict is taken again at the moment of acting, and a change is put before the person', async ({
  page,
  request,
}) => {
  // a list that has it as deleted is all that was known
  await page.goto(`/domains/${CLUB}`);
  await page.keyboard.press('f');
  await expect(page.getByRole('status').filter({ hasText: 'asked just now' })).toContainText('pending delete');
  await page.getByRole('button', { name: 'Shortlist', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Remove from the shortlist' })).toBeVisible();
  await page.goto('/shortlist');
  await page.getByLabel(`Stage of ${CLUB}`).selectOption('to act on');
  await page.getByRole('button', { name: `Details of ${CLUB}` }).click();
  await expect(page.getByRole('region', { name: `Ways to have ${CLUB}` }).getByRole('status')).toContainText(
    'pending delete',
  );
  // and a free name that only the registrar refuses
  const { id } = await (await request.post('/api/v1/batches', { data: { text: MUSEUM, freshMinutes: 0 } })).json();
  await expect
    .poll(async () => (await (await request.get(`/api/v1/batches/${id}`)).json()).cells.at(0)?.phase, {
      timeout: 30_000,
    })
    .toBe('free');
  await page.goto(`/domains/${MUSEUM}`);
  await page.getByRole('button', { name: 'Confirm it now' }).click();
  const alert = page.getByRole('alert').filter({ hasText: 'It has changed' });
  await expect(alert).toContainText('reserved');
  await expect(alert).toContainText('it was available');
  await expect(
    page.getByText('Available by registration data, but reserved: the registrar refuses it.').first(),
  ).toBeVisible();
});

test('the dossier shows the way to the drop, with its reasons, by rules that the person can change', async ({
  page,
}) => {
  await page.goto(`/domains/${CLUB}`);
  const figure = page.getByRole('img', { name: /Pending delete from \d+ Nov to 22 Nov/ });
  await expect(figure).toBeVisible();
  await expect(page.getByText(/Expected to drop between/)).toContainText('22 Nov 14:00 UTC and 22 Nov 16:00 UTC');
  await noSeriousFaults(page);
  await page.goto('/settings');
  await page.locator('[data-policy=org]').getByRole('button', { name: 'change' }).click();
  const form = page.getByRole('form', { name: 'Rules of a TLD' });
  await form.getByLabel('Pending delete, days').fill('soon');
  await form.getByRole('button', { name: 'Keep' }).click();
  await expect(form.getByRole('alert')).toContainText('write it like 30 or 0 to 45');
  await form.getByLabel('Pending delete, days').fill('7');
  await form.getByLabel('Drop hours, UTC').fill('9 to 10');
  await form.getByRole('button', { name: 'Keep' }).click();
  await expect(page.locator('[data-policy=org]')).toContainText('9 to 10');
  await page.goto(`/domains/${CLUB}`);
  await page.keyboard.press('f');
  await expect(page.getByText(/Expected to drop between/)).toContainText('24 Nov 09:00 UTC and 24 Nov 10:00 UTC');
  await page.goto('/settings');
  await page.locator('[data-policy=org]').getByRole('button', { name: 'as published' }).click();
  await expect(page.locator('[data-policy=org]')).toContainText('14 to 16');
  await page.goto(`/domains/${CLUB}`);
  await page.keyboard.press('f');
  await expect(page.getByText(/Expected to drop between/)).toContainText('22 Nov 14:00 UTC');
});

test('deadlines stand by day in the zone of the user, and in a calendar that knows them again', async ({
  page,
  request,
}) => {
  await page.goto('/deadlines');
  const row = page.locator('[data-deadline=drop]').filter({ hasText: CLUB });
  await expect(row).toContainText('14:00');
  await expect(row).toContainText('16:00');
  await expect(page.getByText('Europe/London time')).toBeVisible();
  await noSeriousFaults(page);
  const events = async () => {
    const answer = await request.get('/api/v1/deadlines/calendar');
    expect(answer.headers()['content-type']).toContain('text/calendar');
    const calendar = new ICAL.Component(ICAL.parse(await answer.text()));
    return calendar.getAllSubcomponents('vevent').map((event) => new ICAL.Event(event));
  };
  const drop = async () => (await events()).find(({ summary }) => summary === `${CLUB} expected to drop`);
  const first = await drop();
  expect(first?.startDate.toJSDate().toISOString()).toBe('2026-11-22T14:00:00.000Z');
  expect((await drop())?.sequence).toBe(first?.sequence);

  // whoever is at the screen is reminded, once
  await request.patch('/api/v1/settings', { data: { reminderMinutes: 40_000 } });
  await page.reload();
  await expect(page.getByText(`${CLUB} expected to drop`).last()).toBeVisible();
  await page.evaluate(() => localStorage.clear());
  await request.patch('/api/v1/settings', { data: { reminderMinutes: 60 } });

  // another zone, on the other side of the date line
  await request.patch('/api/v1/settings', { data: { timeZone: 'Pacific/Auckland' } });
  await page.reload();
  await expect(page.locator('section').filter({ has: row }).getByRole('heading')).toContainText('23 Nov');
  await expect(row).toContainText('03:00');
  const refused = await request.patch('/api/v1/settings', { data: { timeZone: 'Merrow/Vale' } });
  expect((await refused.json()).detail).toContain('a time zone is written like Europe/Vienna');
  await request.patch('/api/v1/settings', { data: { timeZone: 'Europe/London' } });

  await page.goto('/deadlines?scope=all');
  await expect(page.getByText(/domains of the whole pool/)).toBeVisible();
  expect(await page.locator('[data-deadline=drop]').count()).toBeGreaterThan(50);
  await page.getByRole('link', { name: 'List', exact: true }).click();
  const list = page.getByRole('table', { name: 'Deadlines', exact: true });
  await expect(list.getByRole('columnheader', { name: 'Where it comes from' })).toBeVisible();
});

test('a watched name is asked about again as its life goes on, and each change is told of', async ({
  page,
  request,
}) => {
  await page.goto(`/domains/${LATE}`);
  await page.keyboard.press('w');
  await expect(page.getByRole('button', { name: 'Watch no longer' })).toBeVisible();
  await page.goto(`/pool?c=name:starts=ossenmerebeeclub`);
  await page.locator('#grid[aria-busy=false]').focus();
  await page.keyboard.press('w');
  await expect(page.getByText(`${CLUB}: watched`)).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect.poll(async () => (await dossier(request, CLUB)).watched).not.toBe('by hand');
  // one press on a page that knows of the undo: a second one would take the watch away again
  await page.reload();
  await page.locator('#grid[aria-busy=false]').focus();
  await page.keyboard.press('w');
  await expect.poll(async () => (await dossier(request, CLUB)).watched).toBe('by hand');
  await expect.poll(async () => (await dossier(request, LATE)).phase, { timeout: 30_000 }).toBe('auto-renew');

  // the first look after the drop window has begun
  await forward(request, 2 * DAY + 9 * HOUR);
  await expect
    .poll(async () => (await dossier(request, CLUB)).events.map(({ kind }: { kind: string }) => kind), {
      timeout: 60_000,
    })
    .toContain('dropped');
  await expect
    .poll(async () => (await dossier(request, LATE)).events.map(({ kind }: { kind: string }) => kind), {
      timeout: 60_000,
    })
    .toContain('renewed-late');
  for (const path of ['/', '/check']) {
    await page.goto(path);
    await expect(page.locator('[data-event=dropped]').filter({ hasText: CLUB })).toBeVisible();
  }
  await expect(page.locator('[data-event=renewed-late]').filter({ hasText: LATE })).toContainText(
    'Renewed after its expiry',
  );
  await page.goto(`/domains/${CLUB}`);
  await expect(page.getByText('Dropped: available').first()).toBeVisible();
  expect((await dossier(request, CLUB)).phase).toBe('free');
});

test('lapsing names that are worth it are watched by themselves', async ({ page }) => {
  await expect
    .poll(
      async () => {
        await page.goto('/check');
        return page.locator('[data-watched]').count();
      },
      { timeout: 90_000 },
    )
    .toBeGreaterThan(3);
  await noSeriousFaults(page);
  await page.goto('/deadlines?scope=near');
  await expect(page.getByText(/watched names? from then on|is asked about again/).first()).toBeVisible();
});
