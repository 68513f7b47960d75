/** A key, what it does, and how it is written where its name in the browser says nothing. */
interface Key {
  /** As `KeyboardEvent.key` has them; `Ctrl+` where Ctrl or Cmd is held with it. */
  keys: readonly string[];
  shown?: string;
  words: string;
}

const DIGITS = ['1', '2', '3', '4', '5', '6', '7', '8', '9'];
const MARKS = {
  spam: { keys: ['!'], words: 'spam' },
  clean: { keys: ['+'], words: 'sound' },
  takeBack: { keys: ['u'], words: 'take the last one back' },
} as const satisfies Record<string, Key>;
const REASONS = {
  reason: { keys: DIGITS.slice(0, 6), shown: '1 to 6', words: 'after pass: the reason' },
  withoutReason: { keys: ['Enter', 'n'], shown: 'Enter or n', words: 'after pass: without a reason' },
  notPassed: { keys: ['Escape'], shown: 'Esc', words: 'after pass: do not' },
} as const satisfies Record<string, Key>;
const order = { keys: ['o'], words: 'order it: bid, buy or register, on the terms of this moment' } as const;
const beside = { keys: ['b'], words: 'put it beside others, or the selected two to four side by side' } as const;
const next = { keys: ['ArrowDown', 'j', 'J'], shown: '↓ or j', words: 'next' } as const;
const previous = { keys: ['ArrowUp', 'k', 'K'], shown: '↑ or k', words: 'previous' } as const;

/**
 * All keys, by the screen that hears them. The handlers ask here what was pressed (`pressed`), and the list under `?` is written from it: what
 * is not here does nothing, and what does something is told.
 */
export const KEYS = {
  everywhere: {
    palette: { keys: ['Ctrl+k'], shown: 'Ctrl K', words: 'go anywhere' },
    list: { keys: ['?'], words: 'this list' },
    go: { keys: ['g'], shown: 'g, then a letter', words: 'to a place' },
  },
  today: { hideTour: { keys: ['h'], words: 'hide the first steps for good' } },
  pool: {
    next: { ...next, words: 'next domain; with Shift also selected' },
    previous: { ...previous, words: 'previous domain; with Shift also selected' },
    pageDown: { keys: ['PageDown'], shown: 'Page Down', words: 'a page on' },
    pageUp: { keys: ['PageUp'], shown: 'Page Up', words: 'a page back' },
    first: { keys: ['Home'], words: 'to the first' },
    last: { keys: ['End'], words: 'to the last' },
    open: { keys: ['Enter'], words: 'open the dossier' },
    peek: { keys: ['v'], words: 'look at it beside the grid; the look follows' },
    select: { keys: ['x', ' '], shown: 'x or space', words: 'select' },
    selectAll: { keys: ['Ctrl+a'], shown: 'Ctrl A', words: 'select all that match' },
    selectNone: { keys: ['Escape'], shown: 'Esc', words: 'select none; close the look' },
    copy: { keys: ['Ctrl+c'], shown: 'Ctrl C', words: 'copy the selected as text' },
    shortlist: { keys: ['s'], words: 'shortlist, or not any more' },
    watch: { keys: ['w'], words: 'watch, or not any more' },
    keep: { keys: ['y'], words: 'keep' },
    pass: { keys: ['n'], words: 'pass' },
    ...MARKS,
    snooze: { keys: ['z'], words: 'snooze a week' },
    exclude: { keys: ['e'], words: 'exclude' },
    takeBack: { keys: ['u'], words: 'take the mark back' },
    measure: { keys: ['c'], words: 'check and measure the selected, or the current one' },
    beside,
    order,
    review: { keys: ['r'], words: 'review what is left' },
    search: { keys: ['/'], words: 'condition on the name' },
    add: { keys: ['a'], words: 'add conditions by typing' },
    clear: { keys: ['0'], words: 'clear all conditions' },
  },
  dossier: {
    section: { keys: DIGITS, shown: '1 to 9', words: 'to a section' },
    top: { keys: ['0'], words: 'to the top' },
    shortlist: { keys: ['s'], words: 'shortlist, or not any more' },
    watch: { keys: ['w'], words: 'watch, or not any more' },
    measure: { keys: ['c'], words: 'check and measure' },
    confirm: { keys: ['f'], words: 'confirm it now, down to the registrar' },
    order,
    beside,
    pass: { keys: ['n'], words: 'pass' },
    ...MARKS,
    ...REASONS,
    note: { keys: ['m'], words: 'write a note' },
  },
  'lifeline, with the focus': {
    closer: { keys: ['+', '='], shown: '+', words: 'closer' },
    wider: { keys: ['-'], shown: '−', words: 'wider' },
    earlier: { keys: ['ArrowLeft'], shown: '←', words: 'back in time' },
    later: { keys: ['ArrowRight'], shown: '→', words: 'on in time' },
    whole: { keys: ['0'], words: 'all of it' },
  },
  review: {
    keep: { keys: ['y'], words: 'keep' },
    pass: { keys: ['n'], words: 'pass' },
    ...MARKS,
    ...REASONS,
    snooze: { keys: ['z'], words: 'snooze a week' },
    later: { keys: ['ArrowRight', ' '], shown: '→ or space', words: 'leave it, go on' },
    earlier: { keys: ['ArrowLeft'], shown: '←', words: 'one back' },
    order,
  },
  'shortlist, on a row': {
    stage: { keys: DIGITS.slice(0, 6), shown: '1 to 6', words: 'to a stage' },
    order,
  },
  'side by side': { differs: { keys: ['d'], words: 'only what differs' } },
  redirects: {
    next,
    previous,
    first: { keys: ['y'], words: 'take the first proposal' },
    candidate: { keys: DIGITS.slice(0, 4), shown: '1 to 4', words: 'take another' },
    gone: { keys: ['g'], words: 'let it be gone' },
    say: { keys: ['e'], words: 'say where it moves' },
    open: { keys: ['x'], words: 'leave it open' },
    takeBack: MARKS.takeBack,
  },
  rebuild: {
    next,
    previous,
    bring: { keys: ['y'], words: 'bring the page back' },
    leave: { keys: ['x'], words: 'leave it' },
    takeBack: MARKS.takeBack,
  },
} as const satisfies Record<string, Record<string, Key>>;

export type KeyScreen = keyof typeof KEYS;
export type KeyOf<Screen extends KeyScreen> = keyof (typeof KEYS)[Screen];

/** What was pressed on a screen; null: nothing that it hears. */
export function pressed<Screen extends KeyScreen>(
  screen: Screen,
  { key, ctrlKey = false, metaKey = false }: { key: string; ctrlKey?: boolean; metaKey?: boolean },
): KeyOf<Screen> | null {
  const name = ctrlKey || metaKey ? `Ctrl+${key}` : key;
  const entries = Object.entries(KEYS[screen]) as [KeyOf<Screen> & string, Key][];
  return entries.find(([, { keys }]) => keys.includes(name))?.[0] ?? null;
}

/** Which of the digits from 1 on was pressed, from 0. */
export const placeOf = ({ key }: { key: string }): number => Number(key) - 1;

/** How a key is written. */
export const keyWords = ({ keys, shown }: Key): string => shown ?? keys.join(', ');
