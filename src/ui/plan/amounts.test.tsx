import { fireEvent, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it } from 'vitest';
import type { PlanEntry } from '../../contracts/plan';
import { answering, asked, problem, refreshed, said } from '../testing';
import { Amounts } from './amounts';

const ENTRY = {
  name: 'tarnhives.org', display: 'tarnhives.org', worthLowMinor: 20_000, worthHighMinor: null, feesMinor: null, maximumBidMinor: null,
} as PlanEntry; // biome-ignore format: one entry
const show = () => render(<Amounts entry={ENTRY} briefId={7} feesMinor={300} />);
const field = (label: string) => screen.getByLabelText<HTMLInputElement>(`${label} of tarnhives.org`);

describe('what one says of a name in the plan', () => {
  it('is kept when its field is left, or on Enter, and given back', async () => {
    answering(() => ({ before: {}, act: 1 }));
    show();
    expect(field('Worth at least').value).toBe('200');
    expect(field('Fees').placeholder).toBe('3');
    await userEvent.type(field('Worth at most'), '400.50{Enter}');
    expect(asked).toMatchObject([
      { method: 'PATCH', path: '/shortlist/tarnhives.org', body: { briefId: 7, worthHighMinor: 40_050 } },
    ]);
    await expect.poll(() => said[0]?.words).toBe('tarnhives.org: kept');
    said[0].undo?.();
    await expect.poll(() => asked[1]?.body).toEqual({ briefId: 7, worthHighMinor: null });
    await expect.poll(() => refreshed.times).toBe(2);
  });

  it('is not asked for where nothing changed', () => {
    answering(() => ({}));
    show();
    fireEvent.blur(field('Worth at least'));
    fireEvent.blur(field('Maximum bid'));
    expect(asked).toEqual([]);
  });

  it('that is no sum is told where it stands, and nothing is sent', async () => {
    answering(() => ({}));
    show();
    await userEvent.type(field('Maximum bid'), 'all of it');
    await userEvent.tab();
    expect(field('Maximum bid').getAttribute('aria-invalid')).toBe('true');
    expect(screen.getByText('write it as 140 or 140.50')).toBeTruthy();
    expect(asked).toEqual([]);
  });

  it('that is not taken is told', async () => {
    answering(() => problem('There is no such entry.'));
    show();
    await userEvent.type(field('Fees'), '4{Enter}');
    await expect.poll(() => said.map(({ words }) => words)).toEqual(['There is no such entry.']);
  });
});
