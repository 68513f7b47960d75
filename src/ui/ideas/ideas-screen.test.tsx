import { render, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it } from 'vitest';
import type { IdeaView } from '../../contracts/ideas';
import { IDEA_PARTS } from '../../core/ideas/score';
import { answering, asked, problem, refreshed, said, sentTo } from '../testing';
import { IdeasScreen } from './ideas-screen';

const brief = { id: 4, name: 'Bees', words: ['hive', 'comb'], excludedEndings: [], currency: 'EUR' };
const idea = (label: string, score: number, part: Partial<IdeaView> = {}): IdeaView => ({
  rank: 1,
  label,
  words: [label],
  joint: 'joined',
  score,
  parts: Object.fromEntries(IDEA_PARTS.map((part) => [part, 0.5])) as IdeaView['parts'],
  readsAs: null,
  worthLowMinor: null,
  worthHighMinor: null,
  mark: null,
  endings: [{ ending: 'org', name: `${label}.org`, phase: null, phaseAt: null, isShortlisted: false }],
  sisters: [],
  fit: { score: null, least: 0, most: 100 } as IdeaView['fit'],
  ...part,
});
const pattern = {
  slots: [{ title: 'own', words: ['tarn', 'pell'], isOptional: false }],
  isAnyOrder: false,
  withTwins: false,
  joints: ['joined' as const],
  endings: ['org'],
  mostLetters: 16,
};
const run = { id: 9, pattern, made: 40, createdAt: 1, doneAt: 2 };
const screenWith = (part: Partial<Parameters<typeof IdeasScreen>[0]> = {}) => (
  <IdeasScreen brief={brief} places={[]} near={null} run={null} rows={[]} kept={0} {...part} />
);

describe('ideas', () => {
  it('begin with words of the brief, and say how many labels a pattern gives before it is made', async () => {
    answering(() => ({ id: 12, job: {} }));
    render(screenWith({ near: { name: 'tarnhives.org', pattern } }));
    expect(screen.getByRole('link', { name: 'tarnhives.org' })).toBeTruthy();
    expect(screen.getByText(/labels at most/).textContent).toMatch(/^2 labels/);
    await userEvent.clear(screen.getByLabelText('TLDs'));
    await userEvent.type(screen.getByLabelText('TLDs'), 'com, net');
    await userEvent.click(screen.getByLabelText('with a hyphen'));
    await userEvent.click(screen.getByRole('button', { name: 'Make and judge them' }));
    await waitFor(() => expect(sentTo).toEqual(['/ideas?run=12']));
    expect(asked[0]).toMatchObject({
      path: '/ideas',
      body: { briefId: 4, pattern: { endings: ['com', 'net'], joints: ['joined', 'hyphen'] } },
    });
  });

  it('are sorted by a head, and those that are ticked are asked about and shortlisted', async () => {
    answering(() => ({}));
    const rows = [idea('tarncomb', 60), idea('pellhive', 80, { mark: 'PELLHIVE' })];
    render(screenWith({ run, rows, kept: 2 }));
    const shown = () => [...document.querySelectorAll<HTMLElement>('tr[data-idea]')].map(({ dataset }) => dataset.idea);
    expect(shown()).toEqual(['tarncomb', 'pellhive']);
    await userEvent.click(within(screen.getByRole('columnheader', { name: 'Judged' })).getByRole('button'));
    expect(shown()).toEqual(['pellhive', 'tarncomb']);
    expect(screen.getByText('like the trademark PELLHIVE')).toBeTruthy();
    await userEvent.click(screen.getByLabelText('Tick tarncomb.org'));
    await userEvent.click(screen.getByRole('button', { name: 'Ask about 1' }));
    await waitFor(() => expect(asked[0]).toMatchObject({ path: '/batches', body: { text: 'tarncomb.org' } }));
    await userEvent.click(screen.getByRole('button', { name: 'Shortlist 1' }));
    await waitFor(() => expect(refreshed.times).toBe(1));
    expect(asked.at(-1)).toMatchObject({ path: '/shortlist', body: { briefId: 4, names: ['tarncomb.org'] } });
    // nothing is ticked any more
    expect(screen.queryByRole('button', { name: /^Shortlist/ })).toBeNull();
  });

  it('say what went wrong, and keep the pattern', async () => {
    answering(() => problem('It would give 9,000,000 labels.', 400));
    render(screenWith({ run: { ...run, doneAt: null } }));
    expect(screen.getByText('They are being made and judged …')).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Make and judge them' }));
    await waitFor(() => expect(said[0].words).toBe('It would give 9,000,000 labels.'));
    expect(sentTo).toEqual([]);
    expect(screen.getByLabelText('TLDs')).toHaveProperty('value', 'org');
  });
});
