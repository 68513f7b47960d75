import { fireEvent, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it } from 'vitest';
import { answering, asked, problem, said } from '../testing';
import { type HoldingShown, HoldingsScreen } from './holdings-screen';

const HIVES = {
  domainId: 1, name: 'tarnhives.org', orderId: null, briefId: 7, briefName: 'Hives', briefCurrency: 'EUR', seller: 'Quill Auctions',
  boughtAt: 1_700_000_000_000, costMinor: 4200, feesMinor: 300, currency: 'GBP', renewsAt: Date.UTC(2027, 3, 5), renewalMinor: 1250, plan: 'rebuild',
  status: 'held', note: 'ask Mara', stepsDone: 2, resultMinor: -4500, homeRenewalMinor: 1250,
} as unknown as HoldingShown; // biome-ignore format: one holding

const show = (holdings: HoldingShown[] = [HIVES]) =>
  render(<HoldingsScreen holdings={holdings} currency="EUR" by="domain" lines={[]} />);
const serve = () => answering(({ path }) => (path.endsWith('/entries') ? { id: 9 } : { before: { note: 'ask Mara' } }));

describe('what is owned', () => {
  it('is said with its costs, its renewal and what comes next', () => {
    serve();
    show();
    const row = within(screen.getByRole('row', { name: /tarnhives/ }));
    expect(row.getByRole('link', { name: 'what to bring back' }).getAttribute('href')).toBe(
      '/domains/tarnhives.org/rebuild',
    );
    expect(row.getByText('2 steps done')).toBeTruthy();
    expect(screen.getByLabelText<HTMLInputElement>('Renewal date of tarnhives.org').value).toBe('2027-04-05');
  });

  it('is changed where it stands, kept when the field is left, and given back', async () => {
    serve();
    show();
    const note = screen.getByLabelText('Note on tarnhives.org');
    await userEvent.clear(note);
    await userEvent.type(note, 'sold to Mara');
    expect(asked).toEqual([]);
    await userEvent.tab();
    expect(asked).toMatchObject([{ method: 'PATCH', path: '/holdings/tarnhives.org', body: { note: 'sold to Mara' } }]);
    await expect.poll(() => said.length).toBe(1);
    said[0].undo?.();
    await expect.poll(() => asked[1]?.body).toEqual({ note: 'ask Mara' });
    // a change that is taken back is no change to take back
    expect(said).toHaveLength(1);
  });

  it('asks for nothing where a field is left as it was', async () => {
    serve();
    show();
    for (const label of ['Note on tarnhives.org', 'Renewal date of tarnhives.org', 'Renewal price of tarnhives.org'])
      fireEvent.blur(screen.getByLabelText(label));
    expect(asked).toEqual([]);
    await userEvent.selectOptions(screen.getByLabelText('Plan for tarnhives.org'), 'resell');
    expect(asked).toMatchObject([{ body: { plan: 'resell' } }]);
  });

  it('takes a renewal date away where it is emptied', () => {
    serve();
    show();
    fireEvent.blur(screen.getByLabelText('Renewal date of tarnhives.org'), { target: { value: '' } });
    expect(asked).toMatchObject([{ body: { renewsAt: null } }]);
  });

  it('takes sums by a form that says what is wrong, and can be taken back', async () => {
    serve();
    show();
    await userEvent.click(screen.getByRole('button', { name: 'Enter a sum for tarnhives.org' }));
    const sum = screen.getByLabelText('Sum');
    fireEvent.change(document.querySelector('input[name=at]') as HTMLInputElement, { target: { value: '2026-11-20' } });
    await userEvent.type(sum, 'much');
    await userEvent.click(screen.getByRole('button', { name: /^Enter it/ }));
    expect(await screen.findByText('Write the sum as 140 or 140.50.')).toBeTruthy();
    expect(asked).toEqual([]);
    await userEvent.clear(sum);
    await userEvent.type(sum, '140.50');
    await userEvent.selectOptions(screen.getByLabelText('Kind of sum'), 'renewal');
    await userEvent.click(screen.getByRole('button', { name: /^Enter it/ }));
    await expect
      .poll(() => asked[0])
      .toMatchObject({
        path: '/holdings/tarnhives.org/entries',
        body: { kind: 'renewal', amountMinor: 14_050, currency: 'EUR', at: Date.UTC(2026, 10, 20) },
      });
    await expect.poll(() => said.length).toBe(1);
    said[0].undo?.();
    await expect.poll(() => asked[1]?.body).toEqual({ id: 9, isRemoved: true });
  });

  it('comes in from a table, with what was not understood counted', async () => {
    answering(() => ({ taken: 3, known: 1, setAside: 2, aside: [], act: 5 }));
    show([]);
    const file = new File(['domain\ntarnhives.org'], 'mine.csv', { type: 'text/csv' });
    await userEvent.upload(screen.getByLabelText('Bring in what you own'), file);
    await expect.poll(() => said[0]?.words).toBe('3 domains taken, 1 known already, 2 rejected');
    expect(asked[0]).toMatchObject({ method: 'POST', path: '/holdings' });
  });

  it('says what the server does not take', async () => {
    answering(() => problem('There is no such plan.'));
    show();
    await userEvent.selectOptions(screen.getByLabelText('Plan for tarnhives.org'), 'resell');
    await expect.poll(() => said.map(({ words }) => words)).toEqual(['There is no such plan.']);
  });
});
