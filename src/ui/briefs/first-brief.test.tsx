import { render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it, vi } from 'vitest';
import type { StoredBrief } from '../../contracts/briefs';
import { answering, asked } from '../testing';
import { FirstBrief } from './first-brief';

const brief = {
  id: 1,
  name: 'First brief',
  purpose: 'rebuild',
  subjectWords: [],
  trustedSites: [],
  excludedEndings: [],
  budgetMinor: null,
  currency: 'EUR',
  risk: 'even',
  requiredWords: [],
  unwantedWords: [],
  languages: [],
  countries: [],
  limits: {},
  weights: null,
  mix: null,
} as unknown as StoredBrief;

function show(pool = { total: 12, size: 4000 }) {
  answering(({ path }) => (path === '/pool/query' ? { rows: [], ...pool } : {}));
  const onWhole = vi.fn();
  render(<FirstBrief brief={brief} onWhole={onWhole} />);
  return { onWhole };
}
const words = () => screen.getByLabelText(/Which words/);
const save = () => userEvent.click(screen.getByRole('button', { name: /That is my brief/ }));
const saved = () => asked.find(({ method }) => method === 'PATCH')?.body as StoredBrief | undefined;

describe('a first brief', () => {
  it('tells how many names of the pool hold its words, once the hand rests', async () => {
    show();
    await userEvent.type(words(), 'bee hive');
    await waitFor(() =>
      expect(screen.getByRole('status').textContent).toBe('12 names of 4,000 in the pool say one of them'),
    );
    expect(asked.map(({ path }) => path)).toEqual(['/pool/query']);
    expect(asked[0].body).toMatchObject({
      parts: [{ fact: 'name', mode: 'wordish', values: ['bee', 'hive'] }],
      limit: 0,
    });
  });

  it('is named after its first word, with what was said, and leads on', async () => {
    show();
    await userEvent.type(words(), 'bee, hive');
    await userEvent.click(screen.getByLabelText('a name to sell on'));
    await userEvent.type(screen.getByLabelText(/Which sites/), 'apiary.org\ncombs.net');
    await userEvent.type(screen.getByLabelText(/How much/), '250.50');
    await waitFor(() => expect(screen.getByRole('status').textContent).toContain('12 names'));
    await save();
    expect(await screen.findByText('Kept. Where shall the first find come from?')).toBeTruthy();
    expect(saved()).toMatchObject({
      name: 'bee, to resell',
      purpose: 'resell',
      subjectWords: ['bee', 'hive'],
      trustedSites: ['apiary.org', 'combs.net'],
      budgetMinor: 25_050,
    });
    expect(screen.getByText(/Crawl the 2 trusted sites/).getAttribute('href')).toBe(
      '/sources?add=crawl&seed=apiary.org&seed=combs.net',
    );
    expect(screen.getByText('The pool, through this brief').getAttribute('href')).toMatch(/^\/pool\?c=/);
  });

  it('wants a word and an amount that is one', async () => {
    show({ total: 0, size: 0 });
    await save();
    expect((await screen.findByRole('alert')).textContent).toBe('Say at least one word of the subject.');
    await userEvent.type(words(), 'bee');
    await userEvent.type(screen.getByLabelText(/How much/), 'little');
    await save();
    await waitFor(() => expect(screen.getByRole('alert').textContent).toMatch(/^The budget is no amount/));
    expect(saved()).toBeUndefined();
    await waitFor(() => expect(screen.getByRole('status').textContent).toBe('the pool is empty yet'));
  });

  it('can be said in all its fields instead', async () => {
    const { onWhole } = show();
    await userEvent.click(screen.getByText('All fields at once'));
    expect(onWhole).toHaveBeenCalled();
  });
});
