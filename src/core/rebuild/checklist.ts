/** What somebody decided on a step; without a word of theirs it stands as it was suggested. */
export const STEP_STATES = ['wanted', 'done', 'left'] as const;
export type StepState = (typeof STEP_STATES)[number];

/** Steps that every rebuild has, in their order. */
export const COMMON_STEPS = {
  owner: 'Move the registration to your own account, and renew it for more than a year',
  servers: 'Point the name to your server, with a certificate for it and for www',
  subject: 'Keep to the subjects that the links were given for',
  texts: 'Write your own texts: those of the captures belong to who wrote them',
  moved: 'Decide where the other old addresses move: to the page that is like them, or gone (410)',
  referrers: 'Tell the strongest referring domains that the site is back, one by one',
  watch: 'Watch whether the links stay: look at them again after a month',
} as const;
export type CommonStep = keyof typeof COMMON_STEPS;

export interface Step {
  /** `page:/path`, `step:owner`, `own:…`. */
  key: string;
  words: string;
  state: StepState;
  /** When somebody decided so; null: it is suggested. */
  at: number | null;
}

export interface KeptStep {
  key: string;
  state: StepState;
  words: string | null;
  at: number;
}

/** The checklist of a rebuild: common steps, a step for each page that is brought back, and one's own. */
export function checklistOf(
  pages: readonly { path: string; title: string | null; isSuggested: boolean }[],
  kept: readonly KeptStep[],
): Step[] {
  const decided = new Map(kept.map((step) => [step.key, step]));
  const stepOf = (key: string, words: string, suggested: StepState): Step => {
    const own = decided.get(key);
    return { key, words, state: own?.state ?? suggested, at: own?.at ?? null };
  };
  const [before, after] = [
    ['owner', 'servers', 'subject', 'texts'],
    ['moved', 'referrers', 'watch'],
  ].map((keys) => (keys as CommonStep[]).map((key) => stepOf(`step:${key}`, COMMON_STEPS[key], 'wanted')));
  const written = pages
    .map(({ path, title, isSuggested }) =>
      stepOf(
        `page:${path}`,
        `Write ${path}${title ? ` again (“${title}”)` : ' again'}`,
        isSuggested ? 'wanted' : 'left',
      ),
    )
    // a page that nobody wants back is no step
    .filter(({ state }) => state !== 'left');
  const own = kept
    .filter(({ key, words }) => key.startsWith('own:') && words !== null)
    .sort((a, b) => a.key.localeCompare(b.key))
    .map(({ key, state, words, at }): Step => ({ key, words: words ?? '', state, at }));
  return [...before, ...written, ...after, ...own];
}

/** How many steps are done, of those that are wanted. */
export function progressOf(steps: readonly Step[]): { done: number; all: number } {
  const counted = steps.filter(({ state }) => state !== 'left');
  return { done: counted.filter(({ state }) => state === 'done').length, all: counted.length };
}
