import { render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it, vi } from 'vitest';
import { answering, asked } from '../testing';
import { AddBox } from './add-box';

const ORG = { type: 'choice', fact: 'ending', values: ['org'], not: false, keepUnknown: false };
const OLD = { type: 'range', fact: 'age', min: 10, max: null, keepUnknown: false };
const ANSWERS: Record<string, object> = {
  'org over 10 years wobbly': {
    parts: [
      { part: ORG, start: 0, end: 3 },
      { part: OLD, start: 4, end: 17 },
    ],
    sorts: [{ fact: 'trust', descending: true }],
    unknown: [{ text: 'wobbly', start: 18, end: 24, reason: null, instead: ['hobbly'] }],
    completions: [],
  },
  'free ref': {
    parts: [],
    sorts: [],
    unknown: [],
    completions: [{ words: 'referring domains', text: 'free referring domains' }],
  },
};
const NOTHING = { parts: [], sorts: [], unknown: [], completions: [] };

function show() {
  answering(({ path, body }) =>
    path === '/pool/known'
      ? { size: 50, known: { strength: 40, trust: 0, length: 50, listScore2: 12 }, scores: ['Reach', 'Pull'] }
      : (ANSWERS[(body as { text: string }).text] ?? NOTHING),
  );
  const onAdd = vi.fn();
  const onOpen = vi.fn();
  render(
    <AddBox open onOpen={onOpen} onAdd={onAdd} withGroups setName={(_, id) => `set ${id}`}>
      Add a condition
    </AddBox>,
  );
  return { onAdd, onOpen };
}
/** It comes when the box is opened. */
const field = () => screen.findByRole<HTMLInputElement>('combobox', {}, { timeout: 30_000 });
const options = () => screen.getAllByRole('option').map(({ textContent }) => textContent);

describe('adding conditions', () => {
  it('is by a few letters of a fact, with how many domains have a value', async () => {
    const { onAdd, onOpen } = show();
    await userEvent.type(await field(), 'stren');
    await waitFor(() => expect(options()).toEqual([expect.stringMatching(/^Strength.*40$/)]));
    await userEvent.keyboard('{Enter}');
    expect(onAdd).toHaveBeenCalledWith([expect.objectContaining({ type: 'range', fact: 'strength', min: null })], []);
    expect(onOpen).toHaveBeenCalledWith(false);
  });

  it('finds scores of lists by their names, and offers no place that none has', async () => {
    const { onAdd } = show();
    await userEvent.type(await field(), 'pull');
    await waitFor(() => expect(options()).toEqual([expect.stringMatching(/^Second score \(lists\) Pull.*12$/)]));
    await userEvent.clear(await field());
    await userEvent.type(await field(), 'score');
    await waitFor(() =>
      expect(options()).toEqual([expect.stringMatching(/^Score \(lists\) Reach/), expect.stringMatching(/Pull/)]),
    );
    await userEvent.keyboard('{Enter}');
    expect(onAdd).toHaveBeenCalledWith([expect.objectContaining({ fact: 'listScore' })], []);
  });

  it('is by a line: each condition is shown before all or one of them is taken, and what is not understood is said', async () => {
    const { onAdd } = show();
    await userEvent.type(await field(), 'org over 10 years wobbly');
    await waitFor(() => expect(options()[0]).toBe('Add 2 conditions, sorted by trust Enter'));
    expect(options().slice(1)).toEqual(['TLD is org org', 'Age at least 10 years over 10 years']);
    expect(screen.getByRole('status').textContent).toBe('not understood: wobbly  Known is: hobbly.');
    await userEvent.keyboard('{Enter}');
    expect(onAdd).toHaveBeenCalledWith([ORG, OLD], [{ fact: 'trust', descending: true }]);
    await userEvent.type(await field(), 'org over 10 years wobbly');
    await waitFor(() => expect(options()[0]).toBe('Add 2 conditions, sorted by trust Enter'));
    await userEvent.click(screen.getAllByRole('option')[2]);
    expect(onAdd).toHaveBeenLastCalledWith([OLD], []);
  });

  it('goes on as its last words begin, by Tab', async () => {
    show();
    const typed = await field();
    await userEvent.type(typed, 'free ref');
    await waitFor(() => expect(options()).toContain('referring domains'));
    await userEvent.keyboard('{Tab}');
    expect(typed.value).toBe('free referring domains');
  });

  it('shows all facts by what they are about, those with values first; groups of them fold', async () => {
    show();
    await waitFor(() => expect(asked.map(({ path }) => path)).toContain('/pool/known'));
    await waitFor(() => expect(options().findIndex((text) => text?.startsWith('Strength'))).toBeGreaterThan(0));
    const at = (label: string) => options().findIndex((text) => text?.startsWith(label));
    await waitFor(() => expect(at('Strength')).toBeLessThan(at('Trusthow much')));
    expect(at('Traffic (lists)')).toBe(-1);
    await userEvent.click(screen.getByRole('option', { name: /^As lists state it/ }));
    expect(at('Traffic (lists)')).toBeGreaterThan(0);
    await userEvent.click(screen.getByRole('option', { name: /^As lists state it/ }));
    expect(at('Traffic (lists)')).toBe(-1);
  });
});
