import AxeBuilder from '@axe-core/playwright';
import { expect, type Page } from '@playwright/test';

/** Rules by the WCAG; what is only advised is never serious. */
const WCAG = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'];

/**
 * The page has a title, and nothing that keeps someone from using it.
 *
 * @param part selector of what is looked at; else all of it.
 */
export async function noSeriousFaults(page: Page, part?: string): Promise<void> {
  await expect(page).toHaveTitle(/Jam Ladle/);
  // the title is asked for above; while a page is drawn again it may be gone for a moment. Contrast is half of the work: in
  // `npm test` noFaintText looks at it on the screens that are used most, and `npm run soak -- tests` looks here, too
  const rules = { 'document-title': { enabled: false }, 'color-contrast': { enabled: IS_LONG }, ...OF_FINGERS };
  await lookWith(builder(page, part).options({ ...ONLY_FAULTS, runOnly: { type: 'tag', values: WCAG }, rules }));
}

/** Targets of 24 px, or as far from each other: not looked at by itself. */
const OF_FINGERS = { 'target-size': { enabled: true } };
const IS_LONG = Boolean(process.env.E2E_LONG);

/** Its texts can be read on what is behind them. */
export async function noFaintText(page: Page): Promise<void> {
  const runOnly = { type: 'rule' as const, values: ['color-contrast'] };
  await lookWith(builder(page).options({ ...ONLY_FAULTS, runOnly }));
}

/** What can be pressed is as large as a finger needs, or as far from the next. */
export async function noSmallTargets(page: Page): Promise<void> {
  const runOnly = { type: 'rule' as const, values: ['target-size'] };
  await lookWith(builder(page).options({ ...ONLY_FAULTS, runOnly, rules: OF_FINGERS }));
}

/** What is in order is not described. */
const ONLY_FAULTS: Parameters<AxeBuilder['options']>[0] = { resultTypes: ['violations'] };

/** Rows behind the first dozen are drawn as those are, and would take most of the time. */
const MORE_ROWS = ['tbody tr:nth-child(n+13)', '[role=grid] [role=row]:nth-child(n+13)'];

function builder(page: Page, part?: string): AxeBuilder {
  // there are no frames, for which it would open a page beside
  const look = new AxeBuilder({ page }).setLegacyMode(true).exclude('[data-sonner-toaster]');
  for (const rows of MORE_ROWS) look.exclude(rows);
  return part ? look.include(part) : look;
}

async function lookWith(look: AxeBuilder): Promise<void> {
  const { violations } = await look.analyze();
  const serious = violations.filter(({ impact }) => impact === 'serious' || impact === 'critical');
  expect(serious.map(({ id, nodes }) => [id, nodes[0].html])).toEqual([]);
}
