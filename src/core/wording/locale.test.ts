import { afterEach, describe, expect, it } from 'vitest';
import { hundredths, whole } from '../formats/figures';
import { readAmount, typedAmount } from '../money/typed-amount';
import { day, moment, money, monthOf, score, weekday } from './format';
import { DEFAULT_LOCALE, LOCALES, localeNow, localeOf, tellLocaleBy } from './locale';

const THEN = Date.UTC(2024, 10, 24, 18, 5);
const NOW = Date.UTC(2026, 10, 28);
const of = <T>(locale: string, what: () => T): T => {
  tellLocaleBy(() => locale);
  return what();
};

afterEach(() => tellLocaleBy(undefined));

describe('the locale of a request', () => {
  it.each([
    ['de-AT,de;q=0.9,en;q=0.8', undefined, 'de-AT'],
    ['fr;q=0.4, it-IT', undefined, 'it-IT'],
    ['fr;q=0.4, it-IT', 'sv-SE', 'sv-SE'],
    // what none can be written in is passed over: nonsense, anything, what is not wanted, a language alone that says nothing of dates
    ['x,de-DE', undefined, 'de-DE'],
    ['*', undefined, DEFAULT_LOCALE],
    ['de;q=0', undefined, DEFAULT_LOCALE],
    ['en', undefined, DEFAULT_LOCALE],
    // a browser has not what the server has
    ['is-IS', undefined, DEFAULT_LOCALE],
    ['de_DE; q=,,;', 'no locale!', DEFAULT_LOCALE],
    [undefined, undefined, DEFAULT_LOCALE],
  ])('of %j, with %j chosen, is %s', (accepted, chosen, locale) => expect(localeOf(accepted, chosen)).toBe(locale));

  it('is one that figures and days can be written in, for each that can be chosen', () => {
    for (const [locale] of LOCALES) expect(localeOf(undefined, locale)).toBe(locale);
  });
});

describe('figures and days in a locale', () => {
  it('are those of the United Kingdom while nobody asks', () => {
    expect(localeNow()).toBe('en-GB');
    expect([whole(1_234_567), money(125_050, 'EUR'), day(THEN, NOW)]).toEqual([
      '1,234,567',
      '1,250.50 EUR',
      '24 Nov 2024',
    ]);
  });

  it('are written as one writes them there', () => {
    expect(of('de-DE', () => [whole(1_234_567), money(125_050, 'EUR'), score(6.84)])).toEqual([
      '1.234.567',
      '1.250,50 EUR',
      '6,8',
    ]);
    expect(of('en-IN', () => whole(1_234_567))).toBe('12,34,567');
    expect(of('en-US', () => day(THEN, NOW))).toBe('Nov 24, 2024');
    expect(of('fr-FR', () => [day(THEN, THEN), hundredths(0.25)])).toEqual(['24 nov.', '0,25']);
    expect(of('nl-NL', () => [weekday(THEN), monthOf(THEN)])).toEqual(['zondag', 'nov 2024']);
  });

  it('have hours from 0 to 23 everywhere', () => {
    for (const [locale] of LOCALES) expect(of(locale, () => moment(THEN, NOW))).toMatch(/18[:.]05 UTC$/);
    expect(of('en-US', () => moment(Date.UTC(2026, 0, 1, 0, 7), NOW))).toMatch(/00:07 UTC$/);
  });

  it('change at once with who asks', () => {
    let locale = 'de-DE';
    tellLocaleBy(() => locale);
    expect(whole(1234)).toBe('1.234');
    locale = 'de-CH';
    expect(whole(1234)).toMatch(/^1['’]234$/);
  });
});

describe('an amount in a field', () => {
  it('is read again as it was written, in every locale', () => {
    for (const [locale] of LOCALES)
      for (const minor of [0, 5, 14_000, 14_050, 125_050, 99_999_999_99])
        expect(
          of(locale, () => readAmount(typedAmount(minor))),
          `${minor} in ${locale}`,
        ).toBe(minor);
    expect(typedAmount(null)).toBe('');
  });

  it('may have thousands parted as one does there', () => {
    for (const text of ['1.250,50', '1’250.50', "1'250.50", '1\u202f250,50', '1\u00a0250,50', '1,250.50'])
      expect(readAmount(text), text).toBe(125_050);
    expect(readAmount('1.250')).toBe(125_000);
  });
});
