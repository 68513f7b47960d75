import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { isBrand, isCommercial, scriptOf, sellingKind, sellingWords } from './selling';

describe('sellingKind', () => {
  it.each([
    ['buy cheap viagra', 'pills'],
    ['cialis 20mg', 'pills'],
    ['Viagra ohne Rezept', 'pills'],
    ['online casino bonus', 'gambling'],
    ['казино онлайн', 'gambling'],
    ['娱乐城', 'gambling'],
    ['slot gacor', 'gambling'],
    ['payday loans', 'loans'],
    ['Kredit ohne Schufa', 'loans'],
    ['préstamos rápidos online', 'loans'],
    ['free porn', 'adult'],
    ['replica watches', 'replicas'],
    ['名牌包包', 'replicas'],
    ['essay writing service', 'essays'],
    ['crypto presale', 'crypto'],
    ['keygen', 'downloads'],
  ])('of "%s"', (text, kind) => expect(sellingKind(text)).toBe(kind));
  it.each([
    'photo credit: Anna', 'bonus track', 'the library loan scheme', 'debt advice', 'help with payday loans', 'problem gambling support',
    'credit union', 'casino plan rejected', 'village pharmacy', 'sex education policy', 'adult learning', 'coin collectors', 'slot car club',
    'token ring', 'stock exchange', 'essay prize', 'replica railway', 'Ossenmere Bee Club', 'a good bet', 'click here', '', 'cheap days out by train',
    'расписание уроков', '中文學校',
  ])('nothing of "%s"', (text) => expect(sellingKind(text)).toBeNull()); // biome-ignore format: a list
  it('answers any text', () => {
    fc.assert(fc.property(fc.string({ unit: 'binary', maxLength: 400 }), (text) => void sellingKind(text)));
  });
});

describe('sellingWords', () => {
  it('counts different words of a page by what they sell', () => {
    const found = sellingWords('We throw jugs Viagra cialis and more viagra casino'.split(' '));
    expect(found.get('pills')?.size).toBe(2);
    expect(found.get('gambling')?.size).toBe(1);
    expect(sellingWords('bees and honey, cards and loans of books'.split(' ')).size).toBe(0);
  });
});

describe('isCommercial', () => {
  it.each(['best plumber', 'cheap car insurance quotes', 'buy tiles online', 'günstig kaufen'])('%s', (text) =>
    expect(isCommercial(text)).toBe(true),
  );
  it.each(['Ossenmere Bee Club', 'read the story', 'free debt advice', 'plumber'])('not %s', (text) =>
    expect(isCommercial(text)).toBe(false),
  );
});

describe('isBrand', () => {
  it('is a name that has more than words that sell', () => {
    expect(isBrand('The Casino Rats')).toBe(true);
    expect(isBrand('best online casino')).toBe(false);
    expect(isBrand('viagra')).toBe(false);
  });
});

describe('scriptOf', () => {
  it.each([
    ['bees', 'Latin'],
    ['пчёлы and bees пчёлы', 'Cyrillic'],
    ['蜂蜜', 'Han'],
    ['12 !', null],
  ])('of %s', (text, script) => expect(scriptOf(text)).toBe(script));
});
