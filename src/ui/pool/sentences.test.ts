import { describe, expect, it } from 'vitest';
import { type Condition, parseCondition } from '../../core/pool/conditions';
import { sentence } from './sentences';

const say = (text: string) =>
  sentence(parseCondition(text) as Condition, (id) => `source ${id}`)
    .map((part) => part.text)
    .join('');

describe('sentence', () => {
  it.each([
    ['phase:free,pending-delete', 'Phase is free or pending delete'],
    ['ending:!edu,gov', 'Ending is not edu or gov'],
    ['ending:a,b,c,d,e,f', 'Ending is a, b, c, d or 2 more'],
    ['strength:20..', 'Strength at least 20'],
    ['spamRisk:..25?', 'Spam risk at most 25, unknown kept'],
    ['age:5..12', 'Age 5 to 12 years'],
    ['closing:..24', 'Closes within 24 hours from now'],
    ['backlinks:..', 'Backlinks is anything'],
    ['name:contains=bee,hive', 'Name contains bee or hive'],
    ['name:!starts=bee', 'Name does not start with bee'],
    ['source:3', 'Source is source 3'],
    ['phase:', 'Phase is nothing yet'],
  ])('says %s', (text, words) => expect(say(text)).toBe(words));

  it('marks what the person set', () => {
    const parts = sentence(parseCondition('strength:20..') as Condition, String);
    expect(parts.filter((part) => part.set).map((part) => part.text)).toEqual(['20']);
  });
});
