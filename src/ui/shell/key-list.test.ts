import { describe, expect, it } from 'vitest';
import { KEYS, type KeyScreen, keyWords, placeOf, pressed } from './key-list';

const SCREENS = Object.keys(KEYS) as KeyScreen[];
/** Heard only while a reason is asked for, and then before the others. */
const WHILE_ASKED = new Set(['reason', 'withoutReason', 'notPassed']);

describe('the list of keys', () => {
  it('has each key once on a screen, and no key of all screens on one of them', () => {
    const everywhere = Object.values(KEYS.everywhere).flatMap(({ keys }) => [...keys] as string[]);
    for (const screen of SCREENS) {
      const keys = Object.entries(KEYS[screen])
        .filter(([id]) => !WHILE_ASKED.has(id))
        .flatMap(([, key]) => [...key.keys] as string[]);
      expect(new Set(keys).size, screen).toBe(keys.length);
      // g lets an old address be gone: there it is not the way to a place
      if (screen !== 'everywhere' && screen !== 'redirects')
        expect(
          keys.filter((key) => everywhere.includes(key)),
          screen,
        ).toEqual([]);
    }
  });

  it('says what was pressed, with Ctrl or Cmd where they belong to it and not else', () => {
    expect(pressed('pool', { key: 's' })).toBe('shortlist');
    expect(pressed('pool', { key: 's', ctrlKey: true })).toBeNull();
    expect(pressed('pool', { key: 'a' })).toBe('add');
    expect(pressed('pool', { key: 'a', metaKey: true })).toBe('selectAll');
    expect(pressed('dossier', { key: '7' })).toBe('section');
    expect(placeOf({ key: '7' })).toBe(6);
    expect(pressed('review', { key: 'q' })).toBeNull();
  });

  it('writes each as it is read on a keyboard, with words', () => {
    for (const screen of SCREENS)
      for (const [id, key] of Object.entries(KEYS[screen])) {
        expect(keyWords(key), id).not.toMatch(/Arrow|Escape|^ |Ctrl\+/);
        expect(key.words.length, id).toBeGreaterThan(3);
      }
  });
});
