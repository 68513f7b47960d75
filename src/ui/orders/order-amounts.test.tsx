import { render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it } from 'vitest';
import type { OrderShown } from '../../core/wording/orders';
import { answering, asked, problem, refreshed, said } from '../testing';
import { ByHand, Raise } from './order-amounts';

const order = (part: Partial<OrderShown> = {}) =>
  ({
    id: 7,
    name: 'pellgatehives.org',
    briefId: 4,
    venue: 'Saltmarch Exchange',
    kind: 'bid',
    state: 'outbid',
    amountMinor: 12_000,
    leastMinor: 12_550,
    currency: 'EUR',
    worthHighMinor: 30_000,
    url: null,
    ...part,
  }) as OrderShown;
const maximum = () => screen.getByLabelText('New maximum for pellgatehives.org');
const wentFor = () => screen.getByLabelText('Price that pellgatehives.org went for');

describe('a maximum that is raised', () => {
  it('is proposed in whole units over what is asked, and follows the auction while nobody types', () => {
    const { rerender } = render(<Raise order={order()} />);
    expect(maximum()).toHaveProperty('value', '126');
    rerender(<Raise order={order({ leastMinor: 14_000 })} />);
    expect(maximum()).toHaveProperty('value', '140');
  });

  it('goes out as it was typed, and is the order’s again', async () => {
    answering(() => ({ order: order({ state: 'leading', amountMinor: 15_050 }) }));
    render(<Raise order={order()} />);
    await userEvent.clear(maximum());
    await userEvent.type(maximum(), '150,50{Enter}');
    await waitFor(() => expect(refreshed.times).toBe(1));
    expect(asked).toMatchObject([
      { method: 'POST', path: '/orders', body: { name: 'pellgatehives.org', kind: 'bid', amountMinor: 15_050 } },
    ]);
    expect(said[0].words).toMatch(/^pellgatehives\.org: /);
    expect(maximum()).toHaveProperty('value', '126');
  });

  it('is no word of what is no amount: that is said at its field, and nothing goes out', async () => {
    answering(() => ({}));
    render(<Raise order={order()} />);
    await userEvent.clear(maximum());
    await userEvent.type(maximum(), 'more{Enter}');
    expect((await screen.findByRole('alert')).textContent).toMatch(/140 or 140\.50/);
    expect(document.activeElement).toBe(maximum());
    expect(asked).toEqual([]);
  });

  it('keeps what was typed when the venue refuses it, and warns above its worth', async () => {
    answering(() => problem('The auction is over.', 409));
    render(<Raise order={order()} />);
    await userEvent.clear(maximum());
    await userEvent.type(maximum(), '301');
    expect(screen.getByText('above what it is worth')).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Bid again' }));
    await waitFor(() => expect(said[0].words).toBe('The auction is over.'));
    expect(maximum()).toHaveProperty('value', '301');
  });
});

describe('what came of an order by hand', () => {
  it.each([
    ['Won', { outcome: 'won', priceMinor: 3150 }],
    ['Lost', { outcome: 'lost', priceMinor: 3150 }],
    ['Left it', { outcome: 'withdrawn', priceMinor: null }],
  ])('is told by %s', async (button, body) => {
    answering(() => ({}));
    render(<ByHand order={order({ state: 'by hand' })} />);
    await userEvent.clear(wentFor());
    await userEvent.type(wentFor(), '31.50');
    await userEvent.click(screen.getByRole('button', { name: button }));
    await waitFor(() => expect(asked).toMatchObject([{ path: '/orders/7/outcome', body }]));
  });

  it('wants a price that is one, unless it was left', async () => {
    answering(() => ({}));
    render(<ByHand order={order({ state: 'by hand' })} />);
    await userEvent.clear(wentFor());
    await userEvent.click(screen.getByRole('button', { name: 'Won' }));
    expect(await screen.findByRole('alert')).toBeTruthy();
    expect(asked).toEqual([]);
    await userEvent.click(screen.getByRole('button', { name: 'Left it' }));
    await waitFor(() => expect(asked).toHaveLength(1));
  });
});
