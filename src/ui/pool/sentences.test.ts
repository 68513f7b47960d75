import { describe, expect, it } from 'vitest';
import { type Condition, parsePart } from '../../core/pool/conditions';
import { sentence } from './sentences';

const say = (text: string) =>
  sentence(
    parsePart(text) as Condition,
    (fact, id) => `${fact} ${id}`,
    () => 3000,
  )
    .map((part) => part.text)
    .join('');

describe('sentence', () => {
  it.each([
    ['phase:free,pending-delete', 'Status is available or pending delete'],
    ['ending:!edu,gov', 'TLD is not edu or gov'],
    ['ending:a,b,c,d,e,f', 'TLD is a, b, c, d or 2 more'],
    ['strength:20..', 'Strength at least 20'],
    ['spamRisk:..25?', 'Spam risk at most 25, unknown kept'],
    ['age:5..12', 'Age 5 to 12 years'],
    ['closing:..24', 'Closes within 24 hours from now'],
    ['backlinks:..', 'Backlinks is known'],
    ['backlinks:..?', 'Backlinks is anything'],
    ['added:visit', 'First found since my last visit'],
    ['named:!visit', 'Last found not since my last visit'],
    ['name:wordish=bee', 'Name has the word, singular or plural, bee'],
    ['name:is=@7', 'Name is one of 3,000 words'],
    ['judged:keep,not-yet', 'Judged by me: kept or not yet judged'],
    ['listing:!auction?', 'Listing is not auction, unknown kept'],
    ['tag:!4', 'Not tagged tag 4'],
    ['linksMeasured:..30', 'Links measured at most 30 days ago'],
    ['name:contains=bee,hive', 'Name contains bee or hive'],
    ['name:!starts=bee', 'Name does not start with bee'],
    ['source:3', 'Found in source 3'],
    ['phase:', 'Status is nothing yet'],
  ])('says %s', (text, words) => expect(say(text)).toBe(words));

  it('marks what the person set', () => {
    const parts = sentence(parsePart('strength:20..') as Condition, String);
    expect(parts.filter((part) => part.set).map((part) => part.text)).toEqual(['20']);
  });
});
