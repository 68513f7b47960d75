import { describe, expect, it } from 'vitest';
import { isEmptyValue, isNoPrice, markOf, parseCurrency, parseNumber, parsePrice, parseYesNo } from './amounts';

describe('parseNumber', () => {
  const cases: [text: string, value: number | null][] = [
    ['1234', 1234],
    ['1,234', 1234],
    ['1.234', 1234],
    ['1 234 567', 1234567],
    ['1,234,567.5', 1234567.5],
    ['1.234.567,5', 1234567.5],
    ['4.5', 4.5],
    ['4,5', 4.5],
    ['0.125', 0.125],
    ['1.2k', 1200],
    ['1.234k', 1234],
    ['3M', 3e6],
    ['-7', -7],
    ['1,23,4', null],
    ['twelve', null],
    ['', null],
    ['-', null],
    ["1'234.50", 1234.5],
    ['1\u2019234', 1234],
    ['12,34,567', 1234567],
    ['12,34,56', null],
    ['45%', 45],
    ['(12)', -12],
    ['~100', 100],
    ['1,000+', 1000],
    ['1.2 Mio', 1.2e6],
    ['5 Tsd.', 5000],
    ['.5', 0.5],
    ['1.234.56', null],
    ['1e5', 1e5],
    ['1.2E+03', 1200],
    ['12e5', null],
  ];
  it.each(cases)('reads %j as %j', (text, value) => expect(parseNumber(text)).toBe(value));
});

describe('the mark of a column', () => {
  it('is told by all of its values', () => {
    expect(markOf(['12.50', '1.234'])).toBe('.');
    expect(markOf(['12,5', '3'])).toBe(',');
    expect(markOf(['1.234.567'])).toBe(',');
    expect(markOf(['1.234', '2.345'])).toBeNull();
    expect(parseNumber('1.234', '.')).toBe(1.234);
    expect(parseNumber('1.234', ',')).toBe(1234);
    expect(parseNumber('1,234', ',')).toBe(1.234);
  });
});

describe('parsePrice', () => {
  const cases: [text: string, minor: number | null, currency: string | null][] = [
    ['$1,250', 125000, 'USD'],
    ['12,50 €', 1250, 'EUR'],
    ['£9.99', 999, 'GBP'],
    ['EUR 140', 14000, 'EUR'],
    ['69', 6900, null],
    ['eur 140', 14000, 'EUR'],
    ["CHF 1'200.-", 120000, 'CHF'],
    ['CHF 1\u2019200.\u2013', 120000, 'CHF'],
    ['120,-', 12000, null],
    ['69 dollars', 6900, 'USD'],
    ['from 12 EUR', 1200, 'EUR'],
    ['US$ 1,200', 120000, 'USD'],
    ['$ 2,500 CAD', 250000, 'CAD'],
    ['1\u00a0200,50 z\u0142', 120050, 'PLN'],
    ['Rs. 1,25,000', 12500000, 'INR'],
    ['1.250,00 EUR', 125000, 'EUR'],
    ['kr 500', 50000, null],
    ['R$ 1.500,00', 150000, 'BRL'],
    ['$1.2k', 120000, 'USD'],
    ['12 USD/yr', 1200, 'USD'],
    ['1250 usd (fixed)', 125000, 'USD'],
    ['free', null, null],
    ['offer', null, null],
    ['-5', null, null],
  ];
  it.each(cases)('reads %j', (text, minor, currency) => {
    expect(parsePrice(text)).toEqual(minor === null ? null : { minor, currency });
  });
});

describe('the words of cells', () => {
  it('name currencies by code, sign or word', () => {
    expect(['€', 'eur', 'US Dollar', 'pounds', 'kr', 'soon'].map(parseCurrency)).toEqual([
      'EUR',
      'EUR',
      'USD',
      'GBP',
      null,
      null,
    ]);
  });
  it('say yes and no in several languages', () => {
    expect(['Ja', 'oui', 'sí', '✓', '1', 'Nein', 'não', 'false'].map(parseYesNo)).toEqual([
      true,
      true,
      true,
      true,
      true,
      false,
      false,
      false,
    ]);
    expect(parseYesNo('perhaps')).toBeNull();
  });
  it('say that there is nothing, or no price', () => {
    expect(['', ' - ', 'N/A', '–', 'k. A.'].every(isEmptyValue)).toBe(true);
    expect(isEmptyValue('0')).toBe(false);
    expect(['Make offer', 'VB', 'Price on request', 'n/a'].every(isNoPrice)).toBe(true);
    expect(isNoPrice('12')).toBe(false);
  });
});
