import { test as base, type Page, type Response } from '@playwright/test';

const LISTENS_MS = 10_000;

/** Lets a page that is gone to, or loaded again, be used only once it hears keys, clicks and files: scripts come after the first picture. */
export function listening(page: Page): Page {
  const whenItListens = async (response: Response | null) => {
    if (response?.headers()['content-type']?.includes('text/html') && response.ok())
      await page.locator('body[data-listens]').waitFor({ state: 'attached', timeout: LISTENS_MS });
    return response;
  };
  const goto = page.goto.bind(page);
  const reload = page.reload.bind(page);
  page.goto = async (...given) => whenItListens(await goto(...given));
  page.reload = async (...given) => whenItListens(await reload(...given));
  return page;
}

export const test = base.extend({
  page: async ({ page }, use) => use(listening(page)),
});
