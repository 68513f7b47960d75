import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { test as base, type Page, type Response } from '@playwright/test';
import { portOf } from './files';
import { Product } from './product';
import { copyState, type State } from './states';

/** What takes longer than `npm test` may, and is tried below the screens there: `npm run soak -- tests` runs it. */
export const LONG = { tag: '@long' };

const LISTENS_MS = 30_000;
const START_MS = 150_000;

/**
 * Lets a page that is gone to, or loaded again, be used only once it hears keys, clicks and files: scripts come after the first
 * picture. Keys wait until whatever of the screen hears them is there, also where a screen has come without a load.
 */
export function listening(page: Page): Page {
  const heard = () => page.locator('[data-keys=unheard]').waitFor({ state: 'detached', timeout: LISTENS_MS });
  const whenItListens = async (response: Response | null) => {
    if (response?.headers()['content-type']?.includes('text/html') && response.ok()) {
      await page.locator('body[data-listens]').waitFor({ state: 'attached', timeout: LISTENS_MS });
      await heard();
    }
    return response;
  };
  const goto = page.goto.bind(page);
  const reload = page.reload.bind(page);
  page.goto = async (...given) => whenItListens(await goto(...given));
  page.reload = async (...given) => whenItListens(await reload(...given));
  const press = page.keyboard.press.bind(page.keyboard);
  page.keyboard.press = async (...given) => {
    await heard();
    await press(...given);
  };
  return page;
}

/**
 * Each file has a product of its own, in a copy of the data folder that it begins with (files.ts). A file that failed is begun again
 * from its first test, in another worker and so on another copy.
 */
export const test = base.extend<object, { product: Product | null }>({
  product: [
    // biome-ignore lint/correctness/noEmptyPattern: that is how it is asked for nothing
    async ({}, use, { project }) => {
      const state = project.metadata.state as State;
      if (state === 'none') {
        await use(null);
        return;
      }
      const folder = mkdtempSync(join(tmpdir(), `jam-ladle-${project.name}-`));
      copyState(state, folder);
      process.env.E2E_FOLDER = folder;
      const product = await Product.start(folder, portOf());
      await use(product);
      await product.stop();
      rmSync(folder, { recursive: true, force: true });
    },
    { scope: 'worker', auto: true, timeout: START_MS },
  ],
  page: async ({ page }, use) => use(listening(page)),
});
