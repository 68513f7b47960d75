import { describe, expect, it } from 'vitest';
import { draftOf, draftOfSlot, NO_CUT, slotOf, wordsIn } from './slots';

const PLACES = [
  { word: 'big', title: 'Big', people: 900_000, growthPercent: 1 },
  { word: 'pellgate', title: 'Pellgate', people: 900, growthPercent: -1 },
];

describe('slots', () => {
  it('have words as they can stand in a name, each once', () => {
    expect(wordsIn('Bee, hive\nHÖNIG bee;  st.-ossen')).toEqual(['bee', 'hive', 'honig', 'stossen']);
  });

  it('begin with the words of the brief, or a list', () => {
    expect(slotOf(draftOf('brief', ['Bee', 'hive']), PLACES)).toMatchObject({
      words: ['bee', 'hive'],
      isOptional: false,
    });
    expect(slotOf(draftOf('after', []), PLACES).words).toContain('guide');
    expect(slotOf(draftOf('own', ['bee']), PLACES).words).toEqual([]);
  });

  it('of places are cut, and of an earlier run are what they were', () => {
    const cut = { ...NO_CUT, mostPeople: 1000 };
    const slot = slotOf({ ...draftOf('places', []), cut }, PLACES);
    expect(slot.words).toEqual(['pellgate']);
    expect(draftOfSlot(slot)).toMatchObject({ kind: 'own', text: 'pellgate' });
    const after = { ...draftOf('after', []), isOptional: true };
    expect(draftOfSlot(slotOf(after, PLACES))).toEqual(after);
  });
});
