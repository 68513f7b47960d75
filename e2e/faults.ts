import AxeBuilder from '@axe-core/playwright';
import { expect, type Page } from '@playwright/test';

/** The page has a title, and nothing that keeps someone from using it. */
export async function noSeriousFaults(page: Page): Promise<void> {
  await expect(page).toHaveTitle(/Jam Ladle/);
  const { violations } = await new AxeBuilder({ page }).exclude('[data-sonner-toaster]').analyze();
  const serious = violations.filter(({ impact }) => impact === 'serious' || impact === 'critical');
  expect(serious.map(({ id, nodes }) => [id, nodes[0].html])).toEqual([]);
}
