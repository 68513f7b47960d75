import AxeBuilder from '@axe-core/playwright';
import { expect, type Page } from '@playwright/test';

/**
 * The page has a title, and nothing that keeps someone from using it.
 *
 * @param part selector of what is looked at; else all of it.
 */
export async function noSeriousFaults(page: Page, part?: string): Promise<void> {
  await expect(page).toHaveTitle(/Jam Ladle/);
  // the title is asked for above; while a page is drawn again it may be gone for a moment
  const look = new AxeBuilder({ page }).exclude('[data-sonner-toaster]').disableRules(['document-title']);
  const { violations } = await (part ? look.include(part) : look).analyze();
  const serious = violations.filter(({ impact }) => impact === 'serious' || impact === 'critical');
  expect(serious.map(({ id, nodes }) => [id, nodes[0].html])).toEqual([]);
}
