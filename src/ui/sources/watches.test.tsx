import { render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it } from 'vitest';
import type { StoredWatch } from '../../contracts/sources';
import { answering, asked, problem, refreshed, said } from '../testing';
import { Watches, WatchForm } from './watches';

const HOUR = 3_600_000;
const watch: StoredWatch = {
  id: 7,
  kind: 'folder',
  target: '/srv/lists',
  name: 'Quillmere drops',
  options: { excludedEndings: [], checkAfter: false, from: '', subject: '' },
  sourceId: null,
  everyMs: HOUR,
  isOn: true,
  nextAt: 2 * HOUR,
  lastAt: null,
  outcome: null,
  etag: null,
  modified: null,
  hash: null,
};

describe('what is watched', () => {
  it('tells how often it is looked at, and what the last look brought', () => {
    const { rerender } = render(<Watches watches={[watch]} now={HOUR} />);
    expect(screen.getByRole('row', { name: /Quillmere drops/ }).textContent).toContain('not looked at yet');
    rerender(<Watches watches={[{ ...watch, isOn: false, lastAt: HOUR, outcome: '12 rows' }]} now={HOUR} />);
    expect(screen.getByRole('row', { name: /Quillmere drops/ }).textContent).toMatch(/paused.*12 rows/);
  });

  it('rests, and is watched again from the notice', async () => {
    answering(({ path }) => (path.endsWith('undo') ? {} : { act: 5 }));
    render(<Watches watches={[watch]} now={HOUR} />);
    await userEvent.click(screen.getByText('Pause'));
    await waitFor(() => expect(said[0]?.words).toBe('"Quillmere drops" is paused'));
    expect(asked[0]).toEqual({ method: 'PATCH', path: '/watches/7', body: { isOn: false } });
    said[0].undo?.();
    await waitFor(() => expect(said[1]?.words).toBe('Undone'));
    expect(asked[1].path).toBe('/acts/5/undo');
  });

  it('is forgotten with what it brought in staying, or says why not', async () => {
    answering(() => problem('It is being read.', 409));
    render(<Watches watches={[watch]} now={HOUR} />);
    await userEvent.click(screen.getByText('Remove'));
    await waitFor(() => expect(said.map(({ words }) => words)).toEqual(['It is being read.']));
    expect(refreshed.times).toBe(0);
    answering(() => ({ act: null }));
    await userEvent.click(screen.getByText('Remove'));
    await waitFor(() => expect(said[1]?.words).toBe('"Quillmere drops" is watched no more; what it brought in stays'));
    expect(said[1].undo).toBeUndefined();
    expect(refreshed.times).toBe(1);
  });
});

describe('a new watch', () => {
  it('is named after its target where no name is given, and its endings are parted', async () => {
    answering(() => ({ watch }));
    render(<WatchForm excludedEndings={['xyz']} />);
    await userEvent.click(screen.getByLabelText('an address'));
    await userEvent.type(screen.getByLabelText(/^Address/), ' http://quaysidelots.com/drops.csv ');
    await userEvent.type(screen.getByLabelText(/^Excluded TLDs/), '; top');
    await userEvent.click(screen.getByLabelText('check and measure what is new'));
    await userEvent.click(screen.getByRole('button', { name: /Watch it/ }));
    await waitFor(() => expect(asked).toHaveLength(1));
    expect(asked[0].body).toEqual({
      kind: 'address',
      target: 'http://quaysidelots.com/drops.csv',
      name: 'http://quaysidelots.com/drops.csv',
      everyMinutes: 15,
      excludedEndings: ['xyz', 'top'],
      checkAfter: true,
    });
  });
});
