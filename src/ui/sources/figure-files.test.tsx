import { fireEvent, render, screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { answering, asked, problem, refreshed } from '../testing';
import { KeywordsFile, SalesFile } from './figure-files';

const choose = (label: string) =>
  fireEvent.change(screen.getByLabelText(label), { target: { files: [new File(['x'], 'Sales of 2026.csv')] } });

describe('figures from a file', () => {
  it('of sales say what was taken, and each rejected row with its line and reason', async () => {
    const aside = [{ line: 4, reason: 'the price is no number', sample: 'tarnhives.org,dear' }];
    answering(() => ({ taken: 12, repeated: 3, setAside: 2, aside, known: { count: 12, from: 1, to: 2 } }));
    render(<SalesFile />);
    choose('Choose a list of sales');
    await screen.findByText('12 sales taken, 3 known already, 2 rejected');
    expect(asked[0].path).toMatch(/^\/sales\?name=Sales/);
    const rows = screen.getByRole('table', { name: 'Rejected rows' });
    expect(within(rows).getByRole('row', { name: /^line 4/ }).textContent).toBe(
      'line 4the price is no numbertarnhives.org,dear',
    );
    expect(screen.getByText('and 1 more rejected rows')).toBeTruthy();
    expect(refreshed.times).toBe(1);
  });

  it('of keywords say of how many names nothing is known here', async () => {
    answering(() => ({ taken: 1, unknown: 5, setAside: 0, aside: [] }));
    render(<KeywordsFile />);
    choose('Choose a list of keywords');
    await screen.findByText('1 keyword taken, 5 of names not in the pool, 0 rejected');
    expect(screen.queryByRole('table')).toBeNull();
  });

  it('that cannot be read are told, and a second try is free', async () => {
    let isFirst = true;
    answering(() => {
      if (!isFirst) return { taken: 1, repeated: 0, setAside: 0, aside: [], known: { count: 1, from: 1, to: 1 } };
      isFirst = false;
      return problem('No line of titles names a column for domain, price, date.');
    });
    render(<SalesFile />);
    choose('Choose a list of sales');
    await screen.findByText('No line of titles names a column for domain, price, date.');
    choose('Choose a list of sales');
    await screen.findByText('1 sale taken, 0 known already, 0 rejected');
    await waitFor(() => expect(screen.queryByRole('alert')).toBeNull());
  });
});
