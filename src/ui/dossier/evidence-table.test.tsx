import { render, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it } from 'vitest';
import type { TableView } from '../../contracts/dossier';
import { answering, asked, problem } from '../testing';
import { EvidenceTable } from './evidence-table';

const columns = [
  { key: 'site', title: 'Site', type: 'text' as const },
  { key: 'pages', title: 'Pages', type: 'number' as const },
];
const view = (sites: string[], part: Partial<TableView> = {}): TableView =>
  ({
    columns,
    rows: sites.map((site, n) => ({ cells: [site, n + 1], href: null, note: n === 0 ? 'the same owner' : null })),
    found: sites.length,
    total: sites.length,
    ...part,
  }) as TableView;

const shown = [
  ['pages', '30%'],
  ['site', '70%'],
] as const;

const table = (first: TableView) => (
  <EvidenceTable domain="a.org" table="referrers" label="Referrers" first={first} shown={shown} noteUnder="site" />
);
const query = () => new URLSearchParams(asked.at(-1)?.path.split('?')[1]);

describe('a table of evidence', () => {
  it('shows the columns that are wanted, in their order, with the note under its row', () => {
    render(table(view(['apiary.org', 'combs.net'])));
    expect(screen.getAllByRole('columnheader').map(({ textContent }) => textContent)).toEqual(['Pages', 'Site']);
    const [first] = screen.getAllByRole('row').slice(1);
    expect(
      within(first)
        .getAllByRole('cell')
        .map(({ textContent }) => textContent),
    ).toEqual(['1', 'apiary.orgthe same owner']);
    expect(screen.getByRole('status').textContent).toBe('2');
  });

  it('sorts numbers from the top and words from A, and the other way round at the second click', async () => {
    answering(() => view(['combs.net']));
    render(table(view(['apiary.org'])));
    await userEvent.click(screen.getByText('Pages'));
    await waitFor(() => expect(asked).toHaveLength(1));
    expect(Object.fromEntries(query())).toEqual({ sort: 'pages', order: 'down', limit: '1' });
    await userEvent.click(screen.getByText('Pages'));
    await waitFor(() => expect(query().get('order')).toBe('up'));
    await userEvent.click(screen.getByText('Site'));
    await waitFor(() => expect(Object.fromEntries(query())).toMatchObject({ sort: 'site', order: 'up' }));
    expect(screen.getByText('Site').closest('th')?.getAttribute('aria-sort')).toBe('ascending');
  });

  it('asks once for letters that are typed in one go, and says how many hold them', async () => {
    answering(() => view(['combs.net'], { found: 1, total: 40 }));
    render(table(view(['apiary.org'], { found: 40, total: 40 })));
    await userEvent.type(screen.getByRole('searchbox'), 'comb');
    await waitFor(() => expect(screen.getByRole('status').textContent).toBe('1 of 40'));
    expect(asked.map(({ path }) => new URLSearchParams(path.split('?')[1]).get('filter'))).toEqual(['comb']);
    await userEvent.click(screen.getByRole('button', { name: /^Export/ }));
    const csv = screen.getByRole('menuitem', { name: 'CSV' });
    expect(csv.getAttribute('href')).toBe('/api/v1/domains/a.org/tables/referrers?filter=comb&format=csv');
  });

  it('brings more rows, and says that nothing holds the words', async () => {
    answering(({ path }) => (path.includes('filter') ? view([], { found: 0, total: 3 }) : view(['a', 'b', 'c'])));
    render(table(view(['a'], { found: 3, total: 3 })));
    await userEvent.click(screen.getByText(/^2 more of 2/));
    await waitFor(() => expect(screen.getAllByRole('row')).toHaveLength(4));
    expect(query().get('limit')).toBe('51');
    await userEvent.type(screen.getByRole('searchbox'), 'x');
    expect(await screen.findByText('Nothing holds these words.')).toBeTruthy();
  });

  it('keeps its rows and says so when the server has a problem', async () => {
    answering(() => problem('Something broke on our side.', 500));
    render(table(view(['apiary.org'])));
    await userEvent.click(screen.getByText('Site'));
    expect((await screen.findByRole('alert')).textContent).toBe('Something broke on our side.');
    expect(screen.getByText('apiary.org')).toBeTruthy();
  });
});
