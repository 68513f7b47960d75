import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it } from 'vitest';
import type { Suggestion } from '../../contracts/learning';
import { answering, asked, problem, refreshed, said } from '../testing';
import { Suggestions } from './suggestions';

const WORDS = {
  evidence: '2 of 8 were had',
  effect: 'the Brier score would have been 0.2',
  now: '90%',
  suggested: '53%',
};
const SETTING: Suggestion = {
  ...WORDS, key: 'buyNow', words: 'The chance to be the first', of: 'settings', change: { chances: { buyNow: 0.53 } } as never,
  back: { chances: { buyNow: 0.9 } } as never,
}; // biome-ignore format: one suggestion
const BRIEF: Suggestion = {
  ...WORDS, key: 'weights', words: 'The weights of fit for Hives', of: 'brief', brief: 7, change: { limits: {} }, back: { limits: { mostSpamRisk: 80 } },
}; // biome-ignore format: one suggestion

describe('suggestions from outcomes', () => {
  it('say what they rest on, and change nothing by themselves', () => {
    answering(() => ({}));
    render(<Suggestions suggestions={[SETTING]} />);
    expect(screen.getByRole('row', { name: /chance to be the first/ })).toHaveProperty(
      'textContent',
      expect.stringContaining('2 of 8 were had'),
    );
    expect(asked).toEqual([]);
  });

  it('are accepted where they belong, and taken back', async () => {
    answering(() => ({}));
    render(<Suggestions suggestions={[SETTING, BRIEF]} />);
    await userEvent.click(screen.getByRole('button', { name: 'Accept: The chance to be the first' }));
    expect(asked).toMatchObject([{ method: 'PATCH', path: '/settings', body: { chances: { buyNow: 0.53 } } }]);
    expect(said[0].words).toBe('The chance to be the first: changed');
    said[0].undo?.();
    await expect.poll(() => asked[1]?.body).toEqual({ chances: { buyNow: 0.9 } });
    await userEvent.click(screen.getByRole('button', { name: /weights of fit/ }));
    expect(asked[2]).toMatchObject({ path: '/briefs/7', body: { limits: {} } });
    expect(refreshed.times).toBeGreaterThan(1);
  });

  it('that are not taken are told so', async () => {
    answering(() => problem('The chance is 0.01 to 0.99.'));
    render(<Suggestions suggestions={[SETTING]} />);
    await userEvent.click(screen.getByRole('button', { name: /Accept/ }));
    expect(said.map(({ words }) => words)).toEqual(['The chance is 0.01 to 0.99.']);
  });

  it('that there are none of say what is needed', () => {
    render(<Suggestions suggestions={[]} />);
    expect(screen.getByText(/at least five outcomes/)).toBeTruthy();
  });
});
