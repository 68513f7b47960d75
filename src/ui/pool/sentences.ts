import type { Condition } from '../../core/pool/conditions';
import { factSpec } from '../../core/pool/facts';
import { count } from '../format';

/** Part of a condition's sentence; `set` parts are what the person chose. */
export interface SentencePart {
  text: string;
  set?: boolean;
}

const WORDS: Record<string, string> = {
  'pending-delete': 'pending delete',
  'auto-renew': 'auto-renew period',
  'not-registrable': 'not registrable',
  'expired-auction': 'expired-name auction',
  'buy-now': 'buy now',
  offer: 'make an offer',
  falling: 'falling price',
};

export function wordFor(value: string): string {
  return WORDS[value] ?? value;
}

/** A condition as a sentence with its values marked. `sourceName` names a source by its number. */
export function sentence(condition: Condition, sourceName: (id: number) => string): SentencePart[] {
  const { label, unit } = factSpec(condition.fact);
  const noun: SentencePart = { text: label };
  switch (condition.type) {
    case 'range': {
      const { min, max, keepUnknown } = condition;
      const parts: SentencePart[] = [noun];
      const isTimeAhead = condition.fact === 'closing';
      if (min === null && max === null) parts.push({ text: ' is ' }, { text: 'anything', set: true });
      else if (min !== null && max !== null)
        parts.push(
          { text: isTimeAhead ? ' in ' : ' ' },
          { text: figure(min), set: true },
          { text: ' to ' },
          { text: figure(max), set: true },
        );
      else if (min !== null)
        parts.push({ text: isTimeAhead ? ' not before ' : ' at least ' }, { text: figure(min), set: true });
      else parts.push({ text: isTimeAhead ? ' within ' : ' at most ' }, { text: figure(max ?? 0), set: true });
      if (unit) parts.push({ text: ` ${unit}` });
      if (keepUnknown) parts.push({ text: ', unknown kept' });
      return parts;
    }
    case 'choice':
      return [noun, { text: condition.not ? ' is not ' : ' is ' }, ...either(condition.values.map(wordFor))];
    case 'member':
      return [noun, { text: condition.not ? ' is not ' : ' is ' }, ...either(condition.values.map(sourceName))];
    case 'text': {
      const verb = { contains: 'contains', starts: 'starts with', ends: 'ends with', is: 'is' }[condition.mode];
      const no = {
        contains: 'does not contain',
        starts: 'does not start with',
        ends: 'does not end with',
        is: 'is not',
      }[condition.mode];
      return [noun, { text: ` ${condition.not ? no : verb} ` }, ...either(condition.values)];
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
  if (values.length > SHOWN) parts.push({ text: ` or ${values.length - SHOWN} more` });
  return parts;
}
