import { describe, expect, it } from 'vitest';
import { gateOf, isForm, type Seen } from './search-gate';

const CLUB: Seen = {
  title: 'Beekeepers of the Merrow vale',
  text: 'We keep colonies of bees in the heather, teach how to treat mites, look after swarms and sell honey from our hives. Join us at the apiary on the first Sunday of the month, when the frames are looked through and the queens are marked.',
};
const PAPER: Seen = {
  title: 'The Umberley Gazette',
  text: 'Council meets over the bypass. Football: Umberley lose at home. Weather for the week. Readers write on parking. A beekeeper of the town found varroa in her hive. School fete, births, deaths and what is on at the pictures.',
};
const BAKER: Seen = {
  title: 'Wick Road bakery',
  text: 'Bread and rolls every morning from six. Cakes to order, closed on Mondays.',
};
const wanted = (phrase: string, briefWords: string[] = []) => ({ phrase, briefWords });

describe('the gate of a search', () => {
  it('lets a site pass by its subject and words, not by the letters of the phrase', () => {
    expect(gateOf(CLUB, CLUB, wanted('beekeeping'))).toMatchObject({ gate: 'site' });
    expect(gateOf(CLUB, CLUB, wanted('varroa treatment', ['bees', 'hives', 'honey'])).gate).toBe('site');
    expect(gateOf(CLUB, CLUB, wanted('swarm', ['apiary'])).because).toMatch(/^its home page /);
  });
  it('reads an all-purpose site for the page that was found', () => {
    const page = { title: 'Varroa found in Umberley', text: 'Varroa mites were found in hives.' };
    expect(gateOf(PAPER, page, wanted('varroa'))).toEqual({
      gate: 'page',
      because: 'its home page is about something else, the page has "varroa" in its title',
    });
  });
  it('reads nothing where neither speaks of it', () => {
    expect(gateOf(BAKER, BAKER, wanted('varroa', ['bees', 'hives']))).toEqual({
      gate: 'none',
      because: 'its home page is about something else, and the page does not speak of it either',
    });
  });
  it('says what could not be read, and goes by the page then', () => {
    expect(gateOf('the server answered 500', CLUB, wanted('bees'))).toMatchObject({ gate: 'page' });
    expect(gateOf('robots.txt forbids it', 'robots.txt forbids it', wanted('bees'))).toEqual({
      gate: 'none',
      because: 'its home page was not read: robots.txt forbids it; the page was not read: robots.txt forbids it',
    });
  });
});

describe('forms of a word', () => {
  it.each([
    ['beekeepers', 'beekeeper'],
    ['printing', 'printed'],
    ['presses', 'press'],
    ['imkerei', 'imker'],
    ['apiculteurs', 'apiculteur'],
  ])('%s is one of %s', (word, of) => {
    expect(isForm(word, of)).toBe(true);
  });
  it.each([
    ['press', 'pressure'],
    ['honeymoon', 'honey'],
    ['class', 'clay'],
  ])('%s is none of %s', (word, of) => {
    expect(isForm(word, of)).toBe(false);
  });
});
