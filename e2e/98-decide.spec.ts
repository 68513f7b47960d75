import { expect } from '@playwright/test';
import { LOCALES } from '../src/core/wording/locale';
import { noSeriousFaults, noSmallTargets } from './faults';
import { allDone, CASINO, CLUB, send } from './stories';
import { listening, test } from './test';

test.describe.configure({ mode: 'serial' });

/** What a decision goes by, where it stands, and that nothing typed is lost. */
test('what decides stands in the head of the dossier, and every measure says what it is with the focus', async ({
  page,
}) => {
  await page.goto(`/domains/${CLUB}`);
  const strip = page.getByRole('region', { name: 'What decides' });
  await expect(strip.getByRole('img', { name: /^fit \d+/ })).toBeVisible();
  for (const label of ['Fit', 'Worth', 'Status', 'Price', 'Spam risk', 'Referring domains', 'Age', 'Subject'])
    await expect(strip.getByRole('button', { name: label, exact: true })).toBeVisible();
  const { y = 999, height = 0 } = (await page.getByRole('group', { name: /^Lifeline/ }).boundingBox()) ?? {};
  expect(y + height).toBeLessThan(800);
  const spam = strip.getByRole('button', { name: 'Spam risk' });
  await strip.getByRole('button', { name: 'Price' }).focus();
  await page.keyboard.press('Tab');
  await expect(spam).toBeFocused();
  await expect(page.getByRole('tooltip')).toContainText('0 to 100, from the crawls and link files read here');
  await noSeriousFaults(page);
  await page.keyboard.press('Tab');
  await expect(page.getByRole('tooltip')).toContainText('Domains with at least one page that links to it');
});

test('on a phone a measure says what it is at a tap', async ({ browser }) => {
  const context = await browser.newContext({ viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true });
  const page = await context.newPage();
  await page.goto(`/domains/${CLUB}`);
  await expect(page.locator('body[data-listens]')).toBeAttached();
  await page.getByRole('button', { name: 'Spam risk' }).first().tap();
  await expect(page.getByRole('tooltip')).toContainText('How likely it was abused');
  await noSmallTargets(page);
  await context.close();
});

test('fit, worth and traffic value are columns; those of one brief are asked for together', async ({
  page,
  request,
}) => {
  const sent = await request.post('/api/v1/rankings?name=Vale+Ranks', {
    headers: { 'content-type': 'text/csv' },
    data: `domain,keyword,position,volume,cpc\n${CLUB},bee club,1,900,0.80 EUR\n${CASINO},casino,30,5000,2.00 EUR\n`,
  });
  expect(sent.ok()).toBe(true);
  const questions: string[] = [];
  page.on('request', (asked) => asked.url().endsWith('/decisions') && questions.push(asked.postData() ?? ''));
  await page.goto(
    '/pool?all=1&c=phase:free,pending-delete,redemption&sort=trafficValue:down&columns=1|domain,fit,worth,trafficValue,phase',
  );
  const club = page.locator(`[data-domain="${CLUB}"]`);
  await expect(club.getByRole('img', { name: /^fit \d+/ })).toBeVisible();
  await expect(club).toContainText(/\d/);
  await expect(page.locator('[data-domain]').first()).toHaveAttribute('data-domain', CLUB);
  const names = questions.flatMap((body) => JSON.parse(body).names as string[]);
  expect(new Set(names).size).toBe(names.length);
  expect(names.length / questions.length).toBeGreaterThan(5);
  const { decisions } = await (await request.post('/api/v1/decisions', { data: { names: [CLUB, CASINO] } })).json();
  expect(decisions.map(({ name }: { name: string }) => name)).toEqual([CLUB, CASINO]);
  expect((await request.post('/api/v1/decisions', { data: { names: ['nobodysname.org'] } })).status()).toBe(404);
});

test('what was typed and is not kept is told of before it is left, and what is wrong is said at its field', async ({
  page,
}) => {
  await page.goto('/briefs');
  await page.getByRole('button', { name: 'All fields at once' }).click();
  await page.getByLabel('Months until it pays').fill('many');
  await page.getByRole('button', { name: /^Save the brief/ }).click();
  const field = page.getByLabel('Months until it pays');
  await expect(field).toBeFocused();
  await expect(field).toHaveAttribute('aria-invalid', 'true');
  await expect(page.getByRole('alert').filter({ hasText: '"many" is no number.' })).toBeVisible();
  await page.getByRole('link', { name: 'Pool', exact: true }).click();
  const question = page.getByRole('alertdialog', { name: 'What you typed is not kept' });
  await expect(question).toBeVisible();
  await noSeriousFaults(page, '[role=alertdialog]');
  await question.getByRole('button', { name: 'Stay' }).click();
  await expect(field).toHaveValue('many');
  await field.fill('14');
  await page.getByRole('button', { name: /^Save the brief/ }).click();
  await expect(page.getByText(/is saved$/)).toBeVisible();
  await page.getByRole('link', { name: 'Pool', exact: true }).click();
  await expect(page).toHaveURL(/\/pool/);
});

test('the lines of money of domains side by side reach as far', async ({ page, request }) => {
  await send(
    request,
    '/sources/lists?name=Lots',
    `domain,venue,kind,price,currency\n${CLUB},Quillmere,buy now,90,EUR\n`,
  );
  await allDone(request);
  await page.goto(`/compare?name=${CLUB}&name=${CASINO}`);
  const line = page.locator(`[data-money="${CLUB}"]`);
  await expect(line).toContainText('price 90 EUR');
  await noSeriousFaults(page);
});

test('whoever asks for more contrast has small print at 7 to 1 and lines at 3 to 1 of what they stand on, by day and by night', async ({
  page,
}) => {
  await page.goto(`/domains/${CLUB}`);
  /** As WCAG 2.2 counts it, of the small print and of the lines. */
  const ratios = () =>
    page.evaluate(() => {
      const pen = document.createElement('canvas').getContext('2d', { willReadFrequently: true });
      const luminance = (colour: string) => {
        if (!pen) throw new Error('nothing to draw on');
        pen.fillStyle = colour;
        pen.fillRect(0, 0, 1, 1);
        const [r, g, b] = [...pen.getImageData(0, 0, 1, 1).data].map((value) => {
          const part = value / 255;
          return part <= 0.04045 ? part / 12.92 : ((part + 0.055) / 1.055) ** 2.4;
        });
        return 0.2126 * r + 0.7152 * g + 0.0722 * b;
      };
      const paper = luminance(getComputedStyle(document.documentElement).backgroundColor);
      const against = (colour: string) => {
        const one = luminance(colour);
        return (Math.max(one, paper) + 0.05) / (Math.min(one, paper) + 0.05);
      };
      const small = document.querySelector('main .small');
      const line = document.querySelector('main .border-rule');
      if (!small || !line) throw new Error('neither small print nor lines');
      return { small: against(getComputedStyle(small).color), line: against(getComputedStyle(line).borderTopColor) };
    });
  for (const colorScheme of ['light', 'dark'] as const) {
    await page.emulateMedia({ colorScheme, contrast: 'no-preference' });
    const usual = await ratios();
    await page.emulateMedia({ colorScheme, contrast: 'more' });
    const asked = await ratios();
    expect(asked.small).toBeGreaterThan(Math.max(7, usual.small));
    expect(asked.line).toBeGreaterThan(Math.max(3, usual.line));
  }
});

test('numbers and dates are written as the browser has them, or as was chosen, by the server and the browser alike', async ({
  browser,
}) => {
  const context = await browser.newContext({ locale: 'de-DE' });
  const page = listening(await context.newPage());
  const errors: string[] = [];
  page.on('pageerror', (error) => errors.push(error.message));
  const written = () => page.getByText(/domains in the pool/).last();
  await page.goto('/');
  await expect(written()).toContainText(/\d{2}\.\d{3} domains in the pool, \d+\. [A-ZÄ]/);
  await page.goto(`/domains/${CLUB}`);
  const links = page.getByRole('table', { name: 'Referring domains', exact: true });
  await expect(links.getByText(/^\d+,\d+$/).first()).toBeVisible();
  await page.goto('/settings');
  await expect(page.getByText(/^now 1\.234,50 and /)).toBeVisible();
  await page.getByLabel('Numbers and dates').selectOption('English (India)');
  await expect(page.getByText(/^now 1,234\.50 and /)).toBeVisible();
  await page.goto('/');
  await expect(written()).toContainText(/\d{2},\d{3} domains in the pool, \d+ [A-Z]/);
  // what the server wrote is what the browser would write: nothing is drawn a second time
  expect(errors).toEqual([]);
  const moment = Date.UTC(2026, 8, 5, 18, 5);
  const samples = (locales: readonly string[], at: number) =>
    locales.map((locale) =>
      [
        ...[1234, 1_234_567].map((value) => new Intl.NumberFormat(locale).format(value)),
        new Intl.NumberFormat(locale, { minimumFractionDigits: 2 }).format(1234.5),
        ...Array.from({ length: 12 }, (_, month) =>
          new Intl.DateTimeFormat(locale, { day: 'numeric', month: 'short', timeZone: 'UTC' }).format(
            Date.UTC(2026, month, 5),
          ),
        ),
        new Intl.DateTimeFormat(locale, { day: 'numeric', month: 'short', year: 'numeric', timeZone: 'UTC' }).format(
          at,
        ),
      ].join(' | '),
    );
  const locales = LOCALES.map(([locale]) => locale);
  const there = await page.evaluate(`(${samples})(${JSON.stringify(locales)}, ${moment})`);
  expect(there).toEqual(samples(locales, moment));
  await context.close();
});
