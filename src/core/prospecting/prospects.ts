/** Where a page that links to a dead target stands: to be written to, written, and what came of it. */
export const PROSPECT_STATES = [
  'to write',
  'written',
  'will change',
  'changed',
  'declined',
  'no answer',
  'left out',
] as const;
export type ProspectState = (typeof PROSPECT_STATES)[number];

/** Nothing more is to be done about these. */
const DONE: ReadonlySet<ProspectState> = new Set(['changed', 'declined', 'no answer', 'left out']);
const ANSWERED: ReadonlySet<ProspectState> = new Set(['will change', 'changed', 'declined']);

export interface ProspectTimes {
  state: ProspectState;
  /** ms since 1970 UTC; null: not yet. */
  writtenAt: number | null;
  answeredAt: number | null;
}

/** What a change of state says of the times: written once, answered when the first answer came; back at the start nothing was. */
export function stateChanged(before: ProspectTimes, state: ProspectState, now: number): ProspectTimes {
  if (state === 'to write' || state === 'left out')
    return { state, writtenAt: state === 'left out' ? before.writtenAt : null, answeredAt: null };
  return {
    state,
    writtenAt: before.writtenAt ?? now,
    answeredAt: ANSWERED.has(state) ? (before.answeredAt ?? now) : null,
  };
}

const DAY = 86_400_000;
/** Who has not answered by then is reminded once. */
export const REMIND_AFTER_DAYS = 10;
/** Then it is let be. */
export const LET_BE_AFTER_DAYS = 24;

/** What to do next, in words, and whether it is to be done now. */
export function nextStep(
  { state, writtenAt }: ProspectTimes,
  { hasContact, hasStandIn }: { hasContact: boolean; hasStandIn: boolean },
  now: number,
): { words: string; isDue: boolean } {
  if (DONE.has(state)) return { words: 'done', isDue: false };
  if (state === 'will change') return { words: 'look whether it changed', isDue: true };
  if (state === 'written') {
    const days = writtenAt === null ? 0 : (now - writtenAt) / DAY;
    if (days >= LET_BE_AFTER_DAYS) return { words: 'no answer: let it be', isDue: true };
    if (days >= REMIND_AFTER_DAYS) return { words: 'remind once', isDue: true };
    return { words: `wait ${Math.ceil(REMIND_AFTER_DAYS - days)} days`, isDue: false };
  }
  if (!hasStandIn) return { words: 'choose the page that stands in', isDue: true };
  if (!hasContact) return { words: 'find out how to reach them', isDue: true };
  return { words: 'write', isDue: true };
}

/** How often a state is met, and of those who were written to, how many answered and changed; 0 to 1, null: nobody was written to. */
export function prospectTally(all: readonly ProspectTimes[]) {
  const written = all.filter(({ writtenAt }) => writtenAt !== null);
  const share = (of: (one: ProspectTimes) => boolean) =>
    written.length === 0 ? null : written.filter(of).length / written.length;
  return {
    toWrite: all.filter(({ state }) => state === 'to write').length,
    written: written.length,
    answered: share(({ answeredAt }) => answeredAt !== null),
    changed: share(({ state }) => state === 'changed'),
  };
}
