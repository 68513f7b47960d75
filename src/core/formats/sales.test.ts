import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readSales } from './sales';

describe('lists of names that were sold', () => {
  it('finds its columns by their titles, whatever the delimiter, and reads prices and dates as they are written', () => {
    const { sales, aside, problem } = readSales(
      'Sold on;Domain;Price;Where\n3 May 2024;tarnhive.com;"€ 1.250,00";Quayside\n2023-01-02;fellbee.co.uk;£80;\n',
    );
    expect(problem).toBeNull();
    expect(aside).toEqual([]);
    expect(sales).toEqual([
      {
        line: 2,
        name: 'tarnhive.com',
        ending: 'com',
        priceMinor: 125_000,
        currency: 'EUR',
        at: Date.UTC(2024, 4, 3),
        venue: 'Quayside',
      },
      {
        line: 3,
        name: 'fellbee.co.uk',
        ending: 'co.uk',
        priceMinor: 8000,
        currency: 'GBP',
        at: Date.UTC(2023, 0, 2),
        venue: null,
      },
    ]);
  });

  it('says which columns are missing', () => {
    expect(readSales('domain,amount\ntarn.com,5\n').problem).toBe('No line of titles names a column for date.');
    expect(readSales('').problem).toBe('No line of titles names a column for domain, price, date.');
  });

  it('sets aside with the line what makes no sense, and keeps the rest', () => {
    const { sales, aside } = readSales(
      'domain,price,date\ntarn.com,5,2024-01-01\nno name,5,2024-01-01\nfell.com,much,2024-01-01\nmoor.com,7,some day\nvale.com,0,2024-01-01\n',
    );
    expect(sales.map(({ name }) => name)).toEqual(['tarn.com']);
    expect(aside.map(({ line, reason }) => `${line}: ${reason}`)).toEqual([
      '3: "no name" is no registrable domain',
      '4: "much" is no price',
      '5: "some day" is no date',
      '6: "0" is no price',
    ]);
  });

  it('loses no row of a mutated file, and never fails', () => {
    const cell = fc.constantFrom('tarn.com', '5', '2024-01-01', '"', 'a,b', '', '€9', '\u0000', 'x'.repeat(90));
    fc.assert(
      fc.property(fc.array(fc.array(cell, { minLength: 1, maxLength: 4 }), { maxLength: 12 }), (rows) => {
        const text = `domain,price,date\n${rows.map((row) => row.join(',')).join('\n')}\n`;
        const { sales, aside, problem } = readSales(text);
        expect(problem).toBeNull();
        const filled = rows.filter((row) => row.join(',').trim() !== '').length;
        expect(sales.length + aside.length).toBeLessThanOrEqual(filled);
        if (!text.includes('"')) expect(sales.length + aside.length).toBe(filled);
      }),
    );
  });
});
