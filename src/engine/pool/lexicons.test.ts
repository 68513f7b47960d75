import { describe, expect, it } from 'vitest';
import { standsAsWord } from '../../core/names/keyword';
import { makeNameWords, nameWordsFor } from './lexicons';

const split = (label: string, ...languages: string[]) => nameWordsFor(languages).read(label);

describe('words of names', () => {
  it.each([
    ['fahrradverleih', 'de', 'fahrrad verleih'],
    ['hochzeitsfotograf', 'de', 'hochzeits fotograf'],
    ['maschinenverleih', 'de', 'maschinen verleih'],
    ['muenchenreisen', 'de', 'muenchen reisen'],
    ['käsekuchen', 'de', 'käse kuchen'],
    ['xn--kse-qla', 'de', 'xn--kse-qla'],
    ['maisondelamer', 'fr', 'maison de la mer'],
    ['boulangerielyon', 'fr', 'boulangerie lyon'],
    ['cocinadeabuela', 'es', 'cocina de abuela'],
    ['tuincentrumutrecht', 'nl', 'tuin centrum utrecht'],
    ['cucinadellanonna', 'it', 'cucina della nonna'],
  ])('splits %s (%s)', (label, language, words) => expect(split(label, language).split.words.join(' ')).toBe(words));

  it.each([
    ['podcasthosting', 'podcast hosting'],
    ['cryptowalletreviews', 'crypto wallet reviews'],
    ['seoaudit', 'seo audit'],
    ['web3gaming', 'web3 gaming'],
  ])('knows what the web has made: %s', (label, words) => expect(split(label).split.words.join(' ')).toBe(words));

  it('tells the language by the label where none was asked for, and keeps to those asked for where either would do', () => {
    expect(split('bienenzuchtverein').language).toBe('de');
    expect(split('reparationvelo').language).toBe('fr');
    expect(split('gardenclub', 'de').language).not.toBe('it');
    expect(makeNameWords(['de']).read('reparationvelo').language).not.toBe('fr');
  });

  it('gives the runner-up in the letters of the label', () => {
    const { split: one } = split('käserezepte', 'de');
    expect(one.words).toEqual(['käse', 'rezepte']);
    expect(one.runnerUp?.join('')).toBe('käserezepte');
  });

  it('passes over languages that it has no words of', () =>
    expect(split('honeyfarm', 'ja', 'en').split.words).toEqual(['honey', 'farm']));
});

describe('standsAsWord', () => {
  const stands = (label: string, keyword: string) => {
    const known = nameWordsFor(['en']);
    return standsAsWord(known.read(label).split.words, keyword);
  };
  it.each([
    ['kitchenknives', 'knife'],
    ['honeybeefarm', 'bee'],
    ['smartphonerepair', 'phone'],
    ['beekeepersguild', 'bee keeper'],
    ['dogtoys', 'toy'],
    ['beehives', 'bee'],
    ['childrensbooks', 'child'],
  ])('%s has %s', (label, keyword) => expect(stands(label, keyword)).toBe(true));
  it.each([
    ['beerfestival', 'bee'],
    ['carpetcleaning', 'car'],
    ['carpetcleaning', 'pet'],
    ['startupadvice', 'art'],
    ['lensshop', 'len'],
    ['honeymoonsuite', 'moon'],
    ['bluetoothspeaker', 'tooth'],
    ['archiveroom', 'hive'],
    ['cateringservice', 'ring'],
    ['friendshipclub', 'ship'],
  ])('%s has no %s', (label, keyword) => expect(stands(label, keyword)).toBe(false));
});
