import type { SetChoices } from '../../contracts/pool';
import type { Condition, SievePart, TextMode } from '../../core/pool/conditions';
import { factSpec, type MemberFact } from '../../core/pool/facts';
import { count } from '../../core/wording/format';
import { STATUS_NAMES } from '../../core/wording/status';

/** Part of a condition's sentence; `set` parts are what the person chose, `bound` ones can be typed over where they stand. */
export interface SentencePart {
  text: string;
  set?: boolean;
  bound?: 'min' | 'max';
}

const WORDS: Record<string, string> = {
  ...STATUS_NAMES,
  'expired-auction': 'expired-name auction',
  'buy-now': 'buy now',
  offer: 'make an offer',
  falling: 'falling price',
  'not-yet': 'not yet judged',
  keep: 'kept',
  pass: 'passed over',
  spam: 'spam',
  clean: 'sound',
  snoozed: 'snoozed',
  excluded: 'excluded',
};

export function wordFor(value: string): string {
  return WORDS[value] ?? value;
}

/** What a set of a fact is called, by its number. */
export type SetName = (fact: MemberFact, id: number) => string;
export const setNameOf =
  (sets: SetChoices): SetName =>
  (fact, id) =>
    sets[fact].find((set) => set.id === id)?.name ?? `number ${id}`;

/** A condition or a group as one text. */
export function partWords(part: SievePart, setName: SetName): string {
  if (part.type !== 'group')
    return sentence(part, setName)
      .map(({ text }) => text)
      .join('');
  const joined = part.parts.map((inner) => partWords(inner, setName)).join(part.mode === 'all' ? ', and ' : ', or ');
  return part.mode === 'none' ? `None of: ${joined}` : joined;
}

export const MODE_WORDS: Record<TextMode, [is: string, isNot: string]> = {
  contains: ['contains', 'does not contain'],
  starts: ['starts with', 'does not start with'],
  ends: ['ends with', 'does not end with'],
  is: ['is', 'is not'],
  word: ['has the word', 'does not have the word'],
  wordish: ['has the word, singular or plural,', 'does not have the word, singular or plural,'],
  pattern: ['fits the pattern', 'does not fit the pattern'],
};

const MEMBER_WORDS: Record<MemberFact, [is: string, isNot: string]> = {
  source: ['Found in', 'Not found in'],
  tag: ['Tagged', 'Not tagged'],
  shortlist: ['On the shortlist for', 'Not on the shortlist for'],
  fresh: ['New in', 'Not new in'],
};

/** A condition as a sentence with its values marked. `listSize` says how long a kept list is. */
export function sentence(condition: Condition, setName: SetName, listSize?: (list: number) => number): SentencePart[] {
  const spec = factSpec(condition.fact);
  const noun: SentencePart = { text: spec.label };
  switch (condition.type) {
    case 'range': {
      const { min, max, keepUnknown } = condition;
      const parts: SentencePart[] = [noun];
      const isAhead = spec.towards === 'future';
      if (min === null && max === null) parts.push({ text: ' is ' }, { text: 'known', set: true });
      else if (min !== null && max !== null)
        parts.push(
          { text: isAhead ? ' in ' : ' ' },
          { text: figure(min), set: true, bound: 'min' },
          { text: ' to ' },
          { text: figure(max), set: true, bound: 'max' },
        );
      else if (min !== null)
        parts.push({ text: isAhead ? ' not before ' : ' at least ' }, { text: figure(min), set: true, bound: 'min' });
      else
        parts.push({ text: isAhead ? ' within ' : ' at most ' }, { text: figure(max ?? 0), set: true, bound: 'max' });
      if (spec.unit && (min !== null || max !== null)) parts.push({ text: ` ${spec.unit}` });
      if (min === null && max === null && keepUnknown) return [noun, { text: ' is ' }, { text: 'anything', set: true }];
      if (spec.optional) parts.push({ text: keepUnknown ? ', unknown kept' : '' });
      return parts;
    }
    case 'choice': {
      const verb = condition.fact === 'judged' ? ': ' : condition.not ? ' is not ' : ' is ';
      const not = condition.fact === 'judged' && condition.not ? [{ text: 'not ' }] : [];
      const parts = [noun, { text: verb }, ...not, ...either(condition.values.map(wordFor))];
      if (spec.optional && condition.keepUnknown) parts.push({ text: ', unknown kept' });
      return parts;
    }
    case 'member':
      return [
        { text: `${MEMBER_WORDS[condition.fact][condition.not ? 1 : 0]} ` },
        ...either(condition.values.map((id) => setName(condition.fact, id))),
      ];
    case 'visit':
      return [noun, { text: condition.not ? ' not ' : ' ' }, { text: 'since my last visit', set: true }];
    case 'text': {
      const verb = MODE_WORDS[condition.mode][condition.not ? 1 : 0];
      const values = condition.list
        ? [{ text: `one of ${count(listSize?.(condition.list) ?? null) || 'a list of'} words`, set: true }]
        : either(condition.values.map((value) => (value.length > 40 ? `${value.slice(0, 40)}…` : value)));
      return [noun, { text: ` ${verb} ` }, ...values];
    }
  }
}

function figure(value: number): string {
  return Number.isInteger(value) ? count(value) : String(value);
}

const SHOWN = 4;

function either(values: string[]): SentencePart[] {
  if (values.length === 0) return [{ text: 'nothing yet', set: true }];
  const shown = values.slice(0, SHOWN);
  const parts: SentencePart[] = [];
  shown.forEach((value, index) => {
    if (index > 0) parts.push({ text: index === shown.length - 1 && values.length <= SHOWN ? ' or ' : ', ' });
    parts.push({ text: value, set: true });
  });
  if (values.length > SHOWN) parts.push({ text: ` or ${count(values.length - SHOWN)} more` });
  return parts;
}
