import { readFileSync } from 'node:fs';
import { expect } from '@playwright/test';
import { test } from './test';

/** What a person does in five minutes. */
const MOST_ACTS = 25;

interface Step {
  act: 'Click' | 'Press' | 'Type';
  what: string;
  /** What is to be seen then. */
  sees: string | null;
}

/** The numbered steps of the guide, each with its one act and what it says is seen. */
function stepsOfGuide(): Step[] {
  const lines = readFileSync('docs/guide/first-find.md', 'utf8').split('\n');
  return lines.flatMap((line): Step[] => {
    const [, act, what] = /^\d+\. (Click|Press|Type) [_`](.+?)[_`]\./.exec(line) ?? [];
    if (!act) return [];
    const [, sees = null] = /See \*\*(.+?)\*\*/.exec(line) ?? [];
    return [{ act: act as Step['act'], what, sees }];
  });
}

test('the steps of the guide, to the letter, lead to a shortlisted find', async ({ page, request }) => {
  const steps = stepsOfGuide();
  const numbered = readFileSync('docs/guide/first-find.md', 'utf8').match(/^\d+\. /gm) ?? [];
  expect(steps.length, 'every step has an act that can be taken').toBe(numbered.length);
  expect(steps.length).toBeGreaterThan(5);
  expect(steps.length).toBeLessThanOrEqual(MOST_ACTS);
  const { entries: before } = await (await request.get('/api/v1/shortlist')).json();
  await page.goto('/');
  for (const { act, what, sees } of steps) {
    if (act === 'Click') {
      await page.getByRole('navigation', { name: 'Main' }).getByRole('link', { name: what }).click();
      await expect(page).toHaveURL(new RegExp(`/${what.toLowerCase()}`));
      await expect(page.locator('[data-keys=heard]').first()).toBeAttached();
      if (what === 'Pool') await expect(page.locator('#grid[aria-busy=false]')).toBeVisible();
    } else if (act === 'Press') await page.keyboard.press(what);
    else await page.keyboard.type(what);
    if (sees)
      await expect(
        page
          .getByText(sees)
          .or(page.getByRole('table', { name: sees }))
          .first(),
      ).toBeVisible();
  }
  const { entries } = await (await request.get('/api/v1/shortlist')).json();
  expect(entries.length).toBe(before.length + 1);
});
