import { render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { renderToStaticMarkup } from 'react-dom/server';
import { describe, expect, it } from 'vitest';
import '../testing';
import { HEAD, NUMBER, PlainTable, plainColumnsFor } from './plain-table';

interface Sale {
  name: string;
  price: number;
  year: string | null;
}
const SALES: Sale[] = [
  { name: 'tarnhives.org', price: 40, year: null },
  { name: 'ossencomb.net', price: 7, year: '2025' },
  { name: 'pellgate.com', price: 12, year: '2025' },
];
const column = plainColumnsFor<Sale>();
const NAME = column('Domain', ({ name }) => name, HEAD);
const PRICE = column('Price', ({ price }) => price, NUMBER);
const idOf = ({ name }: Sale) => name;
const bodyRows = () => screen.getAllByRole('row').filter((row) => within(row).queryByRole('rowheader'));

describe('a table that is only read', () => {
  it('names its rows and columns, and stands in the order that is given', () => {
    render(<PlainTable label="Sales" rows={SALES} rowId={idOf} columns={[NAME, PRICE]} />);
    expect(screen.getByRole('table', { name: 'Sales' })).toBeTruthy();
    expect(screen.getAllByRole('columnheader').map(({ textContent }) => textContent)).toEqual(['Domain', 'Price']);
    expect(bodyRows().map(({ textContent }) => textContent)).toEqual([
      'tarnhives.org40',
      'ossencomb.net7',
      'pellgate.com12',
    ]);
    expect(screen.queryByRole('button')).toBeNull();
  });

  it('keeps heads for those who do not see them, of a column or of all', () => {
    const act = column('What can be done', () => 'buy', { isUntitled: true });
    const { rerender } = render(<PlainTable label="Sales" rows={SALES} rowId={idOf} columns={[NAME, act]} />);
    expect(screen.getByText('What can be done').className).toBe('sr-only');
    rerender(<PlainTable label="Sales" isHeadless rows={SALES} rowId={idOf} columns={[NAME, act]} />);
    expect(screen.getByRole('columnheader', { name: 'Domain' }).closest('thead')?.className).toBe('sr-only');
  });

  it('puts a head above what belongs together, once, and none above what belongs nowhere', () => {
    render(<PlainTable label="Sales" rows={SALES} rowId={idOf} groupOf={({ year }) => year} columns={[NAME, PRICE]} />);
    const heads = [...document.querySelectorAll('th[scope=rowgroup]')];
    expect(heads.map(({ textContent }) => textContent)).toEqual(['2025']);
    expect(heads[0].closest('tr')?.nextElementSibling?.textContent).toBe('ossencomb.net7');
  });

  it('has its sums in a foot, a last line below them, and says when it is empty', () => {
    const columns = [
      { ...NAME, footer: 'all' },
      { ...PRICE, footer: () => 59 },
    ];
    const { rerender } = render(
      <PlainTable label="Sales" rows={SALES} rowId={idOf} columns={columns} last="as seen" />,
    );
    expect([...document.querySelectorAll('tfoot tr')].map(({ textContent }) => textContent)).toEqual([
      'all59',
      'as seen',
    ]);
    rerender(<PlainTable label="Sales" rows={[]} rowId={idOf} columns={[NAME, PRICE]} empty="Nothing was sold." />);
    expect(screen.getByRole('cell', { name: 'Nothing was sold.' }).getAttribute('colspan')).toBe('2');
    expect(document.querySelector('tfoot')).toBeNull();
  });

  it('gives its lines their attributes, and keeps what is typed in them when its columns are made anew', async () => {
    const at = (minute: number) => (
      <PlainTable
        label="Sales"
        rows={SALES}
        rowId={idOf}
        rowProps={({ name }, n) => ({ 'data-sale': name, className: n === 1 ? 'bg-damson-soft' : '' })}
        columns={[NAME, column('Note', ({ name }) => <input aria-label={`Note on ${name} at ${minute}`} />)]}
      />
    );
    const { rerender } = render(at(1));
    expect(document.querySelector('[data-sale="ossencomb.net"]')?.className).toContain('bg-damson-soft');
    const note = screen.getByLabelText('Note on ossencomb.net at 1');
    await userEvent.type(note, 'dear');
    rerender(at(2));
    expect(document.activeElement).toBe(note);
    expect((note as HTMLInputElement).value).toBe('dear');
  });

  it('needs no browser', () => {
    const drawn = renderToStaticMarkup(<PlainTable label="Sales" rows={SALES} rowId={idOf} columns={[NAME, PRICE]} />);
    expect(drawn).toContain('<th scope="row"');
    expect(drawn).toContain('pellgate.com');
  });
});
