import { fireEvent, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { describe, expect, it, vi } from 'vitest';
import '../testing';
import { columnsFor } from './columns';
import { type RowSelectionState, type SortingState, Table } from './table';

interface Lot {
  name: string;
  price: number | null;
  group: string;
}
const LOTS: Lot[] = [
  { name: 'tarnhives.org', price: 40, group: 'soon' },
  { name: 'ossencomb.net', price: null, group: 'soon' },
  { name: 'pellgate.com', price: 7, group: 'later' },
];
const column = columnsFor<Lot>();
const COLUMNS = [
  column.accessor('name', { header: 'Domain', sortFn: 'alphanumeric', meta: { isHead: true } }),
  column.accessor(({ price }) => price ?? undefined, {
    id: 'price',
    header: 'Price',
    sortUndefined: 'last',
    sortFn: 'basic',
    meta: { isNumber: true, about: 'what it costs now' },
  }),
  column.display({
    id: 'act',
    header: 'Act',
    cell: ({ row }) => <button type="button">buy {row.original.name}</button>,
  }),
];

function Lots({ rows = LOTS, onKey }: { rows?: Lot[]; onKey?(key: string, name: string): void }) {
  const [sorting, setSorting] = useState<SortingState>([]);
  const [ticked, setTicked] = useState<RowSelectionState>({});
  return (
    <>
      <Table
        label="Lots"
        columns={COLUMNS}
        rows={rows}
        rowId={({ name }) => name}
        rowProps={({ name }) => ({ 'data-domain': name })}
        groupOf={({ group }) => group}
        sorting={sorting}
        onSorting={setSorting}
        ticked={ticked}
        onTicked={setTicked}
        detail={({ name }) => <p>all about {name}</p>}
        onKey={onKey && ((event, { name }) => onKey(event.key, name))}
      />
      <output>{Object.keys(ticked).join(' ')}</output>
    </>
  );
}
const names = () => [...document.querySelectorAll('tr[data-domain]')].map((row) => (row as HTMLElement).dataset.domain);
const heads = () => screen.queryAllByRole('rowgroup').flatMap((part) => [...part.querySelectorAll('th[scope=colgroup]')].map((head) => head.textContent)); // biome-ignore format: one line
const openerOf = (name: string) => screen.getByRole('button', { name: `Details of ${name}` });

describe('the table of all screens', () => {
  it('stands in the given order under heads of groups, each once', () => {
    render(<Lots />);
    expect(names()).toEqual(LOTS.map(({ name }) => name));
    expect(heads()).toEqual(['soon', 'later']);
    expect(screen.getAllByRole('rowheader').map(({ textContent }) => textContent)).toEqual(names());
  });

  it('sorts by a head, the other way round by a second press, and gives the order back by a third; what is not known stands last', async () => {
    render(<Lots />);
    const price = screen.getByRole('columnheader', { name: 'Price' });
    const press = () => userEvent.click(within(price).getByRole('button'));
    await press();
    const first = names();
    expect(price.getAttribute('aria-sort')).toMatch(/ascending|descending/);
    expect(heads()).toEqual([]);
    await press();
    expect([first, names()].sort()).toEqual([
      ['pellgate.com', 'tarnhives.org', 'ossencomb.net'],
      ['tarnhives.org', 'pellgate.com', 'ossencomb.net'],
    ]);
    await press();
    expect(names()).toEqual(LOTS.map(({ name }) => name));
    expect(price.getAttribute('aria-sort')).toBeNull();
    // nothing to sort by
    expect(within(screen.getByRole('columnheader', { name: 'Act' })).queryByRole('button')).toBeNull();
  });

  it('is ticked row by row, and whole', async () => {
    render(<Lots />);
    await userEvent.click(screen.getByRole('checkbox', { name: 'Tick pellgate.com' }));
    expect(screen.getByRole('status').textContent).toBe('pellgate.com');
    await userEvent.click(screen.getByRole('checkbox', { name: 'Tick all' }));
    expect(screen.getByRole('status').textContent?.split(' ').sort()).toEqual(LOTS.map(({ name }) => name).sort());
    await userEvent.click(screen.getByRole('checkbox', { name: 'Tick all' }));
    expect(screen.getByRole('status').textContent).toBe('');
  });

  it('opens a row in place, and keeps it open when figures come anew', async () => {
    const { rerender } = render(<Lots />);
    await userEvent.click(openerOf('ossencomb.net'));
    expect(screen.getByText('all about ossencomb.net')).toBeTruthy();
    expect(openerOf('ossencomb.net').getAttribute('aria-expanded')).toBe('true');
    rerender(<Lots rows={LOTS.map((lot) => ({ ...lot, price: 1 }))} />);
    expect(screen.getByText('all about ossencomb.net')).toBeTruthy();
    await userEvent.click(openerOf('ossencomb.net'));
    expect(screen.queryByText('all about ossencomb.net')).toBeNull();
  });

  it('is walked by the arrows, and tells which row a key is about', () => {
    const onKey = vi.fn();
    render(<Lots onKey={onKey} />);
    openerOf('tarnhives.org').focus();
    fireEvent.keyDown(document.activeElement as Element, { key: 'ArrowDown' });
    fireEvent.keyDown(document.activeElement as Element, { key: 'ArrowDown' });
    expect(document.activeElement).toBe(openerOf('pellgate.com'));
    // there is no further row
    fireEvent.keyDown(document.activeElement as Element, { key: 'ArrowDown' });
    expect(document.activeElement).toBe(openerOf('pellgate.com'));
    fireEvent.keyDown(document.activeElement as Element, { key: 'ArrowUp' });
    expect(document.activeElement).toBe(openerOf('ossencomb.net'));
    fireEvent.keyDown(screen.getByRole('button', { name: 'buy tarnhives.org' }), { key: 'o' });
    expect(onKey).toHaveBeenLastCalledWith('o', 'tarnhives.org');
  });

  it('keeps what is typed and its focus when the screen makes its columns anew, as it does with each minute', async () => {
    const user = userEvent.setup();
    const noted = (minute: number) => [
      ...COLUMNS,
      column.display({
        id: 'note',
        header: () => `Note at ${minute}`,
        cell: ({ row }) => <input aria-label={`Note on ${row.original.name}`} defaultValue="" />,
      }),
    ];
    const at = (minute: number, rows = LOTS) => <Table label="Lots" columns={noted(minute)} rows={rows} rowId={({ name }) => name} />; // biome-ignore format: one line
    const { rerender } = render(at(1));
    const note = screen.getByRole('textbox', { name: 'Note on pellgate.com' });
    await user.type(note, 'ask the seller');
    rerender(at(2));
    rerender(at(3, LOTS.map((lot) => ({ ...lot, price: 9 })))); // biome-ignore format: one line
    expect(screen.getByText('Note at 3')).toBeTruthy();
    expect(screen.getByRole('textbox', { name: 'Note on pellgate.com' })).toBe(note);
    expect(document.activeElement).toBe(note);
    expect(note).toHaveProperty('value', 'ask the seller');
  });
});
