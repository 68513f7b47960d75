import { describe, expect, it } from 'vitest';
import { LEAST_SALES, ResaleIndex, type Sale, type SoldName } from './resale';

const YEAR = 365.2425 * 86_400_000;
const NOW = Date.UTC(2026, 10, 20);
const commonness = (word: string) => (word.length < 5 ? 10 : 6);
const name = (words: string[], ending = 'com', more: Partial<SoldName> = {}): SoldName => ({
  words,
  ending,
  length: words.join('').length,
  hyphens: 0,
  digits: 0,
  subject: words.includes('bee') || words.includes('hive') ? 'bees' : null,
  name: `${words.join('')}.${ending}`,
  ...more,
});

let seed = 5;
const random = () => {
  seed = (seed * 1_103_515_245 + 12_345) & 0x7fffffff;
  return (seed + 0.5) / 0x80000000;
};
/** Sales whose logarithms follow a rule, give or take a half. */
const made = (count: number): Sale[] =>
  Array.from({ length: count }, () => {
    const words = [
      ['tarn', 'fell', 'vale', 'moor'][Math.floor(random() * 4)],
      ['bee', 'hive', 'press', 'print'][Math.floor(random() * 4)],
    ];
    const sold = name(words, random() < 0.5 ? 'com' : 'net');
    const log =
      5 +
      (sold.ending === 'com' ? 1 : 0) +
      (words[1] === 'bee' ? 0.8 : 0) -
      0.1 * (sold.length - 8) +
      0.9 * (random() + random() - 1);
    return { ...sold, priceMinor: Math.round(100 * Math.exp(log)), at: NOW - random() * 5 * YEAR, venue: null };
  });

describe('what names would bring, by those that were sold', () => {
  const index = new ResaleIndex(made(600), commonness);
  const worth = (sold: SoldName) => {
    const found = index.estimate(sold, NOW);
    if (!found) throw new Error('too few sales');
    return found;
  };

  it('takes the nearest sales, says how near they are, and corrects them for what they differ in', () => {
    const { near, lowMinor, medianMinor, highMinor } = worth(name(['tarn', 'bee']));
    expect(near.length).toBe(24);
    expect(near[0].sale.words).toEqual(['tarn', 'bee']);
    expect(near.every(({ distance }, n) => n === 0 || distance >= near[n - 1].distance)).toBe(true);
    expect(lowMinor).toBeLessThan(medianMinor);
    expect(medianMinor).toBeLessThan(highMinor);
    // the same name under another ending is corrected towards this one
    const other = near.find(({ sale }) => sale.ending === 'net');
    if (other) expect(other.adjustedMinor).toBeGreaterThan(other.sale.priceMinor);
  });

  it('follows the rule behind the prices', () => {
    const com = worth(name(['tarn', 'hive'])).medianMinor;
    expect(com / worth(name(['tarn', 'hive'], 'net')).medianMinor).toBeGreaterThan(1.8);
    expect(worth(name(['fell', 'bee'])).medianMinor).toBeGreaterThan(worth(name(['fell', 'print'])).medianMinor);
  });

  it('gives ranges that hold about six times in ten on sales it has not seen', () => {
    const unseen = made(500);
    const held = unseen.filter((sale) => {
      const { lowMinor, highMinor } = worth(sale);
      return sale.priceMinor >= lowMinor && sale.priceMinor <= highMinor;
    }).length;
    expect(held / unseen.length).toBeGreaterThan(0.5);
    expect(held / unseen.length).toBeLessThan(0.72);
  });

  it('says nothing by too few sales, and something of a name unlike all of them', () => {
    expect(new ResaleIndex(made(LEAST_SALES - 1), commonness).estimate(name(['tarn', 'bee']), NOW)).toBeNull();
    expect(new ResaleIndex([], commonness).estimate(name(['tarn', 'bee']), NOW)).toBeNull();
    const { lowMinor, near } = worth(name(['quoin'], 'info', { hyphens: 2, digits: 3 }));
    expect(lowMinor).toBeGreaterThan(0);
    expect(near[0].distance).toBeGreaterThan(0.5);
  });
});
