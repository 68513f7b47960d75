import AxeBuilder from '@axe-core/playwright';
import { expect, type Page } from '@playwright/test';

/**
 * The page has a title, and nothing that keeps someone from using it.
 *
 * @param part selector of what is looked at; else all of it.
 */
export async function noSeriousFaults(page: Page, part?: string): Promise<void> {
  await expect(page).toHaveTitle(/Jam Ladle/);
  const look = new AxeBuilder({ page }).exclude('[data-sonner-toaster]');
  const { violations } = await (part ? look.include(part) : look).analyze();
  const serious = violations.filter(({ impact }) => impact === 'serious' || impact === 'critical');
  expect(serious.map(({ id, nodes }) => [id, nodes[0].html])).toEqual([]);
}
