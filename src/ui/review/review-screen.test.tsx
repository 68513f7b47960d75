import { render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { DomainView } from '../../core/pool/domain-view';
import type { Answer } from '../pool/use-pool';
import { answering, asked, problem, said } from '../testing';
import { ReviewScreen } from './review-screen';

// what is known of a domain is another screen's business
vi.mock('../evidence', () => ({ Evidence: ({ row }: { row: DomainView }) => <h1>{row.display}</h1> }));
vi.mock('../details', () => ({ useDetails: () => null, freshRow: (row: DomainView) => row }));

const row = (id: number) => ({ id, name: `name${id}.org`, display: `name${id}.org` }) as DomainView;
const rows = (from: number, many: number) => Array.from({ length: many }, (_, n) => row(from + n));

function show(total = 3, first = rows(1, Math.min(3, total))) {
  return render(
    <ReviewScreen
      briefId={4}
      briefName="Bees"
      parts={[]}
      sorts={[]}
      back="/pool?c=phase:free"
      sieveName="Hives"
      first={{ rows: first, total } as Answer}
    />,
  );
}
const shown = () => screen.queryByRole('heading', { level: 1 })?.textContent;
const acts = () =>
  asked.filter(({ path }) => path === '/actions').map(({ body }) => body as { act: object; which: object });

let number: number;
beforeEach(() => {
  number = 100;
  window.history.replaceState(null, '', '/review');
  window.sessionStorage.clear();
  answering(({ path }) => {
    if (path === '/actions') return { action: number++, changed: 1 };
    if (path === '/pool/query') return { rows: rows(4, 3), total: 6, size: 6 };
    return {};
  });
});

describe('a review', () => {
  it('keeps by one key, which also shortlists, and goes on at once', async () => {
    show();
    await userEvent.keyboard('y');
    expect(shown()).toBe('name2.org');
    await waitFor(() => expect(acts()).toHaveLength(2));
    expect(acts()).toEqual([
      { act: { kind: 'judge', judged: 'keep', reason: null, until: null }, which: { ids: [1] } },
      { act: { kind: 'shortlist', brief: 4 }, which: { ids: [1] } },
    ]);
    expect(screen.getByText('2 of 3')).toBeTruthy();
    expect(screen.getByText('1 kept')).toBeTruthy();
  });

  it('passes over with a reason by its number, without one, or not after all', async () => {
    show();
    await userEvent.keyboard('n2');
    await waitFor(() => expect(acts()).toHaveLength(1));
    expect(acts()[0].act).toMatchObject({ judged: 'pass', reason: 'too dear' });
    await userEvent.keyboard('n{Escape}');
    expect(shown()).toBe('name2.org');
    await userEvent.keyboard('nn');
    await waitFor(() => expect(acts()).toHaveLength(2));
    expect(acts()[1].act).toMatchObject({ judged: 'pass', reason: null });
  });

  it('takes the last back, the shortlist before the mark', async () => {
    show();
    await userEvent.keyboard('y');
    await waitFor(() => expect(acts()).toHaveLength(2));
    await userEvent.keyboard('u');
    expect(shown()).toBe('name1.org');
    await waitFor(() =>
      expect(asked.slice(2).map(({ path }) => path)).toEqual(['/actions/101/undo', '/actions/100/undo']),
    );
  });

  it('takes back what is still being written, once it is', async () => {
    let write = () => {};
    const written = new Promise<void>((resolve) => {
      write = resolve;
    });
    answering(async ({ path }) => {
      if (path === '/actions') await written;
      return { action: 7, changed: 1 };
    });
    show();
    await userEvent.keyboard('!');
    await userEvent.keyboard('u');
    expect(asked.map(({ path }) => path)).toEqual(['/actions']);
    write();
    await waitFor(() => expect(asked.map(({ path }) => path)).toEqual(['/actions', '/actions/7/undo']));
  });

  it('says what could not be marked, and does not count it', async () => {
    answering(() => problem('The disk is full.', 507));
    show();
    await userEvent.keyboard('z');
    await waitFor(() => expect(said[0]?.words).toBe('name1.org is not marked: The disk is full.'));
    expect(screen.queryByText(/snoozed/)).toBeNull();
  });

  it('leaves one, comes back to it, and tells at the end what became of all', async () => {
    show();
    await userEvent.keyboard('{ArrowRight}{ArrowLeft}');
    expect(shown()).toBe('name1.org');
    await userEvent.keyboard('yn1{ArrowRight}');
    expect(shown()).toBe('Through');
    expect(screen.getByText(/2 of 3 judged in/).textContent).toMatch(/1 kept, 1 passed/);
    expect(screen.getByRole('row', { name: /off subject/ }).textContent).toBe('off subject1');
    expect(screen.getByText('name1.org').getAttribute('href')).toBe('/domains/name1.org');
    await userEvent.click(screen.getByText('Undo the last'));
    expect(shown()).toBe('name2.org');
  });

  it('brings the rows behind before they are come to, each once', async () => {
    show(6);
    await waitFor(() => expect(asked.map(({ path }) => path)).toContain('/pool/query'));
    expect(asked.find(({ path }) => path === '/pool/query')?.body).toMatchObject({ offset: 3 });
    for (let n = 0; n < 5; n++) await userEvent.keyboard('{ArrowRight}');
    await waitFor(() => expect(shown()).toBe('name6.org'));
  });

  it('goes on where it was after the page is loaded again', async () => {
    const { unmount } = show();
    await userEvent.keyboard('!');
    await waitFor(() => expect(acts()).toHaveLength(1));
    expect(window.location.search).toMatch(/run=\d+/);
    unmount();
    show();
    await waitFor(() => expect(shown()).toBe('name2.org'));
    expect(screen.getByText('1 spam')).toBeTruthy();
  });

  it('has nothing to do where nothing gets through', () => {
    show(0, []);
    expect(shown()).toBe('Nothing to review');
    expect(screen.getByText('Back to the pool').getAttribute('href')).toBe('/pool?c=phase:free');
  });
});
