import { render, screen } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import '../testing';
import { type MoneyFigures, MoneyLine, moneyWords, spanOf } from './money-line';

const NOTHING: MoneyFigures = {
  priceMinor: null,
  rivalsMinor: null,
  maximumMinor: null,
  worthLowMinor: null,
  worthHighMinor: null,
};

describe('the line of price, rivals, maximum and worth', () => {
  it('reaches over all figures that stand below each other, to whole steps', () => {
    expect(
      spanOf([
        { ...NOTHING, priceMinor: 730 },
        { ...NOTHING, worthHighMinor: 61_000 },
      ]),
    ).toEqual({
      leastMinor: 500,
      mostMinor: 100_000,
    });
    // one figure alone still has a width, and none at all has one
    expect(spanOf([{ ...NOTHING, priceMinor: 5000 }])).toEqual({ leastMinor: 5000, mostMinor: 50_000 });
    expect(spanOf([NOTHING, { ...NOTHING, maximumMinor: 0 }])).toEqual({ leastMinor: 100, mostMinor: 100_000 });
    expect(spanOf([{ ...NOTHING, priceMinor: 3 }]).leastMinor).toBe(100);
  });

  it('says its figures in words, each with its currency', () => {
    const figures = {
      priceMinor: 900,
      rivalsMinor: 2140,
      maximumMinor: 7000,
      worthLowMinor: 8000,
      worthHighMinor: 20_000,
    };
    expect(moneyWords(figures, 'EUR')).toBe(
      'price 9 EUR, rivals likely to 21 EUR, maximum 70 EUR, worth 80 EUR to 200 EUR',
    );
    expect(moneyWords(NOTHING, 'EUR')).toBe('neither price nor worth is known');
  });

  it('stands where its figures are, on the scale of all', () => {
    const span = { leastMinor: 100, mostMinor: 100_000 };
    const figures = { ...NOTHING, priceMinor: 1000, maximumMinor: 10_000 };
    const { container } = render(<MoneyLine figures={figures} currency="EUR" span={span} width={300} />);
    expect(screen.getByRole('img', { name: 'price 10 EUR, maximum 100 EUR' })).toBeTruthy();
    const [price, maximum] = container.querySelectorAll('rect');
    expect(Number(price.getAttribute('width'))).toBeCloseTo(100, 5);
    expect(Number(maximum.getAttribute('x'))).toBeCloseTo(199, 5);
  });
});
