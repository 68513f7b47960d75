import { render, screen, waitFor } from '@testing-library/react';
import { beforeEach, describe, expect, it } from 'vitest';
import type { Decision } from '../../contracts/decision';
import { answering, asked } from '../testing';
import { BriefContext } from './brief-context';
import { FitCell, WorthCell, worthOrigin, worthWords } from './cells';
import { FitAndWorth, MoneyOf } from './figures';

const decision = (name: string, part: Partial<Decision> = {}): Decision => ({
  name,
  currency: 'EUR',
  fit: { score: 60, least: 54, most: 70, cappedAt: null },
  worth: { lowMinor: 20_040, highMinor: 40_000, by: 'sales' },
  priceMinor: 1290,
  rivalsMinor: null,
  maximumMinor: 7200,
  ...part,
});
const show = (what: React.ReactNode) => render(<BriefContext value={4}>{what}</BriefContext>);
const questions = () => asked.filter(({ path }) => path === '/decisions').map(({ body }) => body);

beforeEach(() => {
  answering(({ body }) => ({ decisions: (body as { names: string[] }).names.map((name) => decision(name)) }));
});

describe('fit and worth of rows', () => {
  it('are asked for together, once for each name, for the current brief', async () => {
    show(
      ['a.org', 'b.org', 'c.org'].map((name) => (
        <div key={name}>
          <FitCell name={name} />
          <WorthCell name={name} />
        </div>
      )),
    );
    await waitFor(() => expect(screen.getAllByText('200–400 EUR')).toHaveLength(3));
    expect(screen.getAllByRole('img', { name: 'fit 54 sure, 70 at most' })).toHaveLength(3);
    expect(questions()).toEqual([{ names: ['a.org', 'b.org', 'c.org'], brief: 4 }]);
  });

  it('that are not known stay empty, and say why', async () => {
    answering(() => ({
      decisions: [decision('a.org', { worth: null, fit: { score: null, least: 0, most: 100, cappedAt: null } })],
    }));
    const { container } = show(
      <>
        <FitCell name="a.org" />
        <WorthCell name="a.org" />
      </>,
    );
    await waitFor(() => expect(container.textContent).toBe(''));
    expect(screen.getByTitle('neither similar sales nor visits are known')).toBeTruthy();
  });
});

describe('the money of a decision', () => {
  it('is said in words that name the source of its worth', async () => {
    show(<MoneyOf name="a.org" width={300} />);
    expect(await screen.findByText(/worth 200 EUR to 400 EUR by similar sales/)).toBeTruthy();
    expect(worthWords(decision('a.org'))).toBe('200–400 EUR');
    expect(worthOrigin(decision('a.org', { worth: { lowMinor: 1, highMinor: 2, by: 'yours' } }))).toBe('as you say');
  });

  it('has the same scale for all that stand beside each other', async () => {
    answering(({ body }) => ({
      decisions: (body as { names: string[] }).names.map((name) =>
        decision(name, name === 'b.org' ? { priceMinor: 900_000 } : {}),
      ),
    }));
    const names = ['a.org', 'b.org'];
    const { container } = show(names.map((name) => <FitAndWorth key={name} name={name} names={names} width={200} />));
    await waitFor(() => expect(container.querySelectorAll('[data-money] svg')).toHaveLength(2));
    const bars = [...container.querySelectorAll('[data-money] svg rect[fill="var(--ink)"]')].map((bar) =>
      Number(bar.getAttribute('width')),
    );
    expect(bars[0]).toBeLessThan(bars[1] / 3);
  });
});
