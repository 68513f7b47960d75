import { render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it, vi } from 'vitest';
import type { Answer } from '../../contracts/calls';
import type { WayToHave } from '../../contracts/orders';
import { answering, asked, problem, refreshed } from '../testing';
import OrderDialog from './order-dialog';

type Terms = Answer<'GET /orders/terms'>;

const way = (part: Partial<WayToHave> = {}): WayToHave => ({
  venue: 'Saltmarch Exchange',
  offered: 'auction',
  kind: 'bid',
  priceMinor: 12_000,
  leastMinor: 12_500,
  currency: 'EUR',
  ratePpm: 1_000_000,
  hasAccount: true,
  hasDesk: true,
  isDry: false,
  isLive: true,
  refusal: null,
  reserve: null,
  closesAt: null,
  url: null,
  asOf: 0,
  bids: 3,
  watchers: null,
  feesMinor: 0,
  costMinor: 12_500,
  next: null,
  says: null,
  isPremium: false,
  ...part,
});
const terms = (part: Partial<Terms> = {}) =>
  ({
    id: 1,
    name: 'pellgatehives.org',
    brief: { id: 4, name: 'Bees', currency: 'EUR', feesMinor: 1500 },
    ways: [way()],
    orders: [],
    isOwned: false,
    isDryRun: false,
    limits: { briefMinor: 50_000, dayMinor: null },
    homeCurrency: 'EUR',
    phase: 'auction',
    phaseAt: 0,
    warnings: [],
    maximumBidMinor: null,
    maximum: null,
    mostMinor: 20_000,
    ...part,
  }) as Terms;

/** @param found what the terms are, each time they are asked for. */
function show(found: Terms[], order: unknown = { state: 'sent', kind: 'bid', venue: 'Saltmarch Exchange' }) {
  let n = 0;
  answering(({ path, method }) => {
    if (path.startsWith('/orders/terms')) return found[Math.min(n++, found.length - 1)];
    if (path.endsWith('/confirm'))
      return {
        before: { phase: 'free', at: null, reason: null, source: null, contradictions: [] },
        after: { phase: found.at(-1)?.phase, at: 0, reason: 'No record.', source: 'rdap', contradictions: [] },
        isChanged: false,
        isLate: false,
        events: [],
      };
    return method === 'POST' ? order : {};
  });
  const onClose = vi.fn();
  render(<OrderDialog name="pellgatehives.org" briefId={4} onClose={onClose} />);
  return { onClose };
}
const amount = () => screen.findByRole('textbox') as Promise<HTMLInputElement>;
const press = (name: RegExp) => screen.getByRole('button', { name }) as HTMLButtonElement;
const given = () => asked.filter(({ path, method }) => method === 'POST' && path === '/orders').map(({ body }) => body);

describe('an order', () => {
  it('proposes the maximum that was set, says what it holds, and is given by one press', async () => {
    show([terms()], {
      order: { state: 'sent', kind: 'bid', venue: 'Saltmarch Exchange', amountMinor: 20_000, currency: 'EUR' },
    });
    expect((await amount()).value).toBe('200');
    expect(screen.getByText(/Costs at most/).textContent).toContain('215 EUR with 15 EUR of fees');
    await userEvent.click(press(/200 EUR/));
    await waitFor(() => expect(refreshed.times).toBe(1));
    expect(given()).toMatchObject([
      {
        name: 'pellgatehives.org',
        briefId: 4,
        venue: 'Saltmarch Exchange',
        kind: 'bid',
        amountMinor: 20_000,
        currency: 'EUR',
      },
    ]);
    expect(screen.getByText('All orders')).toBeTruthy();
  });

  it('never proposes less than is taken, and refuses what is', async () => {
    show([terms({ mostMinor: 9000 })]);
    const field = await amount();
    expect(field.value).toBe('125');
    await userEvent.clear(field);
    await userEvent.type(field, '120');
    expect(screen.getByRole('alert').textContent).toBe('The least that is taken is 125 EUR.');
    expect(press(/120 EUR/).disabled).toBe(true);
    await userEvent.clear(field);
    await userEvent.type(field, '1,2,3');
    expect(screen.getByRole('alert').textContent).toBe('Write the amount as 140 or 140.50.');
    expect(field.getAttribute('aria-invalid')).toBe('true');
  });

  it('is given by its button alone: Enter on a way or in the field gives nothing', async () => {
    show([terms({ ways: [way(), way({ venue: 'Quayside Lots' })] })]);
    const field = await amount();
    const [, other] = screen.getAllByRole('radio');
    other.focus();
    await userEvent.keyboard('{Enter}');
    field.focus();
    await userEvent.keyboard('{Enter}');
    expect(given()).toEqual([]);
    expect(document.activeElement).toBe(press(/200 EUR/));
    await userEvent.keyboard('{Enter}');
    await waitFor(() => expect(given()).toHaveLength(1));
  });

  it('that is given again after a lost answer is the same one; another amount is another', async () => {
    show([terms()]);
    const field = await amount();
    answering(() => problem('Jam Ladle does not answer.', 504));
    await userEvent.click(press(/200 EUR/));
    await screen.findByText('Jam Ladle does not answer.');
    await userEvent.click(press(/200 EUR/));
    await waitFor(() => expect(given()).toHaveLength(2));
    await userEvent.clear(field);
    await userEvent.type(field, '210');
    await userEvent.click(press(/210 EUR/));
    await waitFor(() => expect(given()).toHaveLength(3));
    const keys = given().map((body) => (body as { clientKey: string }).clientKey);
    expect(keys[0]).toBe(keys[1]);
    expect(keys[2]).not.toBe(keys[0]);
  });

  it('whose answer was lost is not known yet, and asked about by itself until it is', async () => {
    show([terms()]);
    await amount();
    let times = 0;
    answering(() =>
      ++times === 1
        ? { problem: { detail: 'The engine is starting again.', code: 'engine-away', issues: [] }, status: 503 }
        : { order: { state: 'sent', kind: 'bid', venue: 'Saltmarch Exchange' } },
    );
    await userEvent.click(press(/200 EUR/));
    expect((await screen.findByText(/Not known yet whether it was taken/)).getAttribute('role')).toBe('status');
    await screen.findByText('Done', undefined, { timeout: 5000 });
    expect(screen.queryByText(/Not known yet/)).toBeNull();
    const keys = given().map((body) => (body as { clientKey: string }).clientKey);
    expect(keys).toHaveLength(2);
    expect(keys[0]).toBe(keys[1]);
  });

  it('takes the first way that is open, and forgets a typed amount with the way', async () => {
    show([
      terms({
        ways: [way({ refusal: 'It is closed' }), way({ venue: 'Quayside Lots', offered: 'offer', kind: 'offer' })],
      }),
    ]);
    await userEvent.clear(await amount());
    await userEvent.type(await amount(), '333');
    const [closed, open] = screen.getAllByRole('radio') as HTMLInputElement[];
    expect([closed.checked, open.checked]).toEqual([false, true]);
    await userEvent.click(closed);
    expect(screen.getByRole('alert').textContent).toBe('It is closed.');
    await userEvent.click(open);
    expect((await amount()).value).toBe('200');
  });

  it('of a name to be registered takes its verdict again, and refuses one that is not free', async () => {
    const registration = way({
      kind: 'register',
      offered: 'registration',
      venue: 'Northway',
      priceMinor: 1150,
      leastMinor: null,
    });
    show([
      terms({ phase: 'free', phaseAt: null, ways: [registration] }),
      terms({ phase: 'registered', ways: [registration] }),
    ]);
    expect((await screen.findByRole('alert')).textContent).toBe('It is not available: registered.');
    expect(asked.map(({ path }) => path.replace(/\?.*/, ''))).toEqual([
      '/orders/terms',
      '/domains/pellgatehives.org/confirm',
      '/orders/terms',
    ]);
    expect(press(/11\.50 EUR/).disabled).toBe(true);
  });

  it('says what to know before paying, a rate that is missing, and that a dry run sends nothing', async () => {
    show([
      terms({ warnings: ['a trademark is like it'], isDryRun: true, ways: [way({ currency: 'GBP', ratePpm: null })] }),
    ]);
    expect((await screen.findByText(/Before you pay/)).parentElement?.textContent).toContain('a trademark is like it.');
    expect(screen.getByRole('alert').textContent).toBe('No rate is set between GBP and EUR (Settings).');
    expect(screen.getByText(/Dry run/)).toBeTruthy();
  });

  it('is not asked for what is owned, and closes by Escape', async () => {
    const { onClose } = show([terms({ isOwned: true })]);
    expect(await screen.findByText('It is yours already.')).toBeTruthy();
    expect(screen.queryByRole('textbox')).toBeNull();
    await userEvent.keyboard('{Escape}');
    expect(onClose).toHaveBeenCalled();
  });
});
