/** One place of a pattern: words that may stand there. */
export interface Slot {
  /** What the slot is called: brief, places, a list of one's own. */
  title: string;
  /** Lower-case words, a to z and digits. */
  words: readonly string[];
  /** Whether it may also be left out. */
  isOptional: boolean;
}

/** How words are put together. */
export const JOINTS = ['joined', 'hyphen', 'overlap'] as const;
export type Joint = (typeof JOINTS)[number];

/** What names are made from. */
export interface IdeaPattern {
  slots: readonly Slot[];
  /** Also with the slots in every other order. */
  isAnyOrder: boolean;
  /** Also with the last word in its other number. */
  withTwins: boolean;
  joints: readonly Joint[];
  /** Without the dot. */
  endings: readonly string[];
  /** Longer labels are not made. */
  mostLetters: number;
}

export interface Idea {
  label: string;
  /** What it was made from, in order; of an overlap the words whole. */
  words: string[];
  joint: Joint;
}

/** A label by RFC 1035: 1 to 63 letters, digits and inner hyphens. */
const LABEL = /^[a-z0-9](?:[a-z0-9-]{0,61}[a-z0-9])?$/;
/** Fewer shared letters are no overlap. */
const LEAST_SHARED = 2;
/** Orders of more slots would be too many. */
const MOST_ORDERED = 4;

/** Other number of a word: hive and hives. @returns null where it has none. */
export type Twin = (word: string) => string | null;

/**
 * How many ideas a pattern gives at most, before those that are too long, made twice or no labels fall out; times its endings.
 */
export function countIdeas({ slots, isAnyOrder, withTwins, joints, endings }: IdeaPattern): number {
  const used = slots.filter(({ words }) => words.length > 0);
  if (used.length === 0) return 0;
  const ways = used.reduce((product, { words, isOptional }) => product * (words.length + (isOptional ? 1 : 0)), 1);
  const empty = used.every(({ isOptional }) => isOptional) ? 1 : 0;
  const orders = isAnyOrder && used.length <= MOST_ORDERED ? factorial(used.length) : 1;
  return (ways - empty) * orders * (withTwins ? 2 : 1) * joints.length * endings.length;
}

const factorial = (n: number): number => (n < 2 ? 1 : n * factorial(n - 1));

/** Makes the labels of a pattern, each once, the first of each slot first. @param twin for patterns with twins. */
export function* makeIdeas(pattern: IdeaPattern, twin: Twin): Generator<Idea> {
  const seen = new Set<string>();
  const used = pattern.slots.filter(({ words }) => words.length > 0);
  const orders = pattern.isAnyOrder && used.length <= MOST_ORDERED ? permutations(used) : [used];
  for (const order of orders)
    for (const words of choices(order))
      for (const idea of forms(words, pattern, twin)) {
        if (idea.label.length > pattern.mostLetters || !LABEL.test(idea.label) || seen.has(idea.label)) continue;
        seen.add(idea.label);
        yield idea;
      }
}

function* forms(words: string[], { joints, withTwins }: IdeaPattern, twin: Twin): Generator<Idea> {
  const last = words.at(-1) as string;
  const other = withTwins ? twin(last) : null;
  const both = other === null || other === last ? [words] : [words, [...words.slice(0, -1), other]];
  for (const form of both)
    for (const joint of joints) {
      const label = join(form, joint);
      if (label !== null) yield { label, words: form, joint };
    }
}

/** @returns null where the words cannot be put together in this way. */
function join(words: string[], joint: Joint): string | null {
  if (joint === 'joined') return words.join('');
  if (words.length < 2) return null;
  if (joint === 'hyphen') return words.join('-');
  let label = words[0];
  let isShared = false;
  for (const word of words.slice(1)) {
    const shared = sharedLetters(label, word);
    if (shared > 0) isShared = true;
    label += word.slice(shared);
  }
  return isShared ? label : null;
}

/** Letters that end one word and begin the next, from two on: "ossen" and "senate" share "sen". One of them whole is no overlap. */
export function sharedLetters(first: string, second: string): number {
  for (let length = Math.min(first.length, second.length) - 1; length >= LEAST_SHARED; length--)
    if (first.endsWith(second.slice(0, length))) return length;
  return 0;
}

function* choices(slots: readonly Slot[]): Generator<string[]> {
  if (slots.length === 0) return;
  const at = slots.map(() => 0);
  const sizes = slots.map(({ words, isOptional }) => words.length + (isOptional ? 1 : 0));
  for (;;) {
    const words: string[] = [];
    for (let n = 0; n < slots.length; n++) {
      const word = slots[n].words[at[n]];
      if (word !== undefined && words.at(-1) !== word) words.push(word);
    }
    if (words.length > 0) yield words;
    let n = slots.length - 1;
    while (n >= 0 && ++at[n] === sizes[n]) at[n--] = 0;
    if (n < 0) return;
  }
}

function* permutations<T>(items: readonly T[]): Generator<T[]> {
  if (items.length <= 1) {
    yield [...items];
    return;
  }
  for (let n = 0; n < items.length; n++) {
    const rest = items.filter((_, other) => other !== n);
    for (const order of permutations(rest)) yield [items[n], ...order];
  }
}
