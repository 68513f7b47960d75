import { render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it } from 'vitest';
import { readAmount } from '../../core/money/typed-amount';
import { answering, asked, said } from '../testing';
import { OfferForm } from './offer-form';
import type { SalePlanShown } from './types';

const plan = (part: Partial<SalePlanShown> = {}): SalePlanShown => ({
  holding: null,
  currency: 'EUR',
  inputs: {
    lowMinor: 40_000,
    highMinor: 80_000,
    costMinor: 10_000,
    renewalMinor: 1200,
    venuePercent: 10,
    marginPercent: 40,
  },
  near: [],
  sentences: [
    { key: 'age', words: 'Registered since 2009.', evidence: 'RDAP', at: null },
    { key: 'links', words: '31 sites link to it.', evidence: 'Linkwell', at: null },
  ] as SalePlanShown['sentences'],
  against: [],
  venues: [
    { venue: 'Saltmarch Exchange', currency: 'EUR', perHome: 1_000_000 },
    { venue: 'Quayside Lots', currency: 'GBP', perHome: 850_000 },
  ],
  isDryRun: false,
  sales: [],
  ...part,
});
const field = (name: string) => document.querySelector(`input[name=${name}Minor]`) as HTMLInputElement;
const amountOf = (which: 'ask' | 'floor') => (readAmount(field(which).value) ?? 0) / 100;
const offer = () => userEvent.click(screen.getByRole('button', { name: /Offer it/ }));
const sent = () => asked.find(({ path }) => path === '/resales')?.body;

describe('an offer of what is owned', () => {
  it('asks what the inputs come to, and again when they are changed', async () => {
    answering(() => ({}));
    render(<OfferForm name="a.org" plan={plan()} />);
    const before = amountOf('ask');
    expect(before).toBeGreaterThan(0);
    expect(amountOf('floor')).toBeLessThanOrEqual(before);
    await userEvent.clear(screen.getByLabelText('Worth, high'));
    await userEvent.type(screen.getByLabelText('Worth, high'), '1600');
    await waitFor(() => expect(amountOf('ask')).toBeGreaterThan(before));
  });

  it('tells at its field what of the inputs cannot be read, and goes on with what was there', async () => {
    answering(() => ({}));
    render(<OfferForm name="a.org" plan={plan()} />);
    const before = amountOf('ask');
    const kept = screen.getByLabelText('Venue keeps, %');
    await userEvent.clear(kept);
    await userEvent.type(kept, '95');
    expect((await screen.findByRole('alert')).textContent).toBe('A number from 0 to 90.');
    expect(amountOf('ask')).toBe(before);
    await userEvent.clear(kept);
    await userEvent.type(kept, '0');
    await waitFor(() => expect(screen.queryByRole('alert')).toBeNull());
    expect(amountOf('floor')).toBeLessThan(before);
  });

  it('is in the currency of its venue, at whole amounts of it', async () => {
    answering(() => ({}));
    render(<OfferForm name="a.org" plan={plan()} />);
    const home = amountOf('ask');
    await userEvent.selectOptions(screen.getByLabelText('Venue'), 'Quayside Lots');
    expect(amountOf('ask')).toBe(Math.ceil(home * 0.85));
    await offer();
    await waitFor(() => expect(sent()).toMatchObject({ venue: 'Quayside Lots', currency: 'GBP' }));
  });

  it('says only what was not left out', async () => {
    answering(() => ({}));
    render(<OfferForm name="a.org" plan={plan()} />);
    await userEvent.click(screen.getByLabelText(/31 sites link to it/));
    await offer();
    await waitFor(() => expect(sent()).toMatchObject({ name: 'a.org', sentences: ['age'] }));
    expect(said[0].words).toBe('a.org is offered at Saltmarch Exchange');
  });

  it('by hand wants to know where, and prices that are some', async () => {
    answering(() => ({}));
    render(<OfferForm name="a.org" plan={plan({ isDryRun: true })} />);
    await userEvent.selectOptions(screen.getByLabelText('Venue'), 'elsewhere, by hand');
    await offer();
    expect((await screen.findByRole('alert')).textContent).toBe('Say where you offer it.');
    await userEvent.type(screen.getByLabelText('Which one'), 'a friend');
    await userEvent.clear(field('ask'));
    await offer();
    await waitFor(() => expect(screen.getByRole('alert').textContent).toBe('Write both prices as 140 or 140.50.'));
    await userEvent.type(field('ask'), '900');
    await offer();
    await waitFor(() => expect(sent()).toMatchObject({ venue: 'a friend', askMinor: 90_000, currency: 'EUR' }));
  });

  it('of which neither worth nor cost is known has no price of its own', () => {
    const inputs = { ...plan().inputs, lowMinor: null, highMinor: null, costMinor: 0 };
    render(<OfferForm name="a.org" plan={plan({ inputs })} />);
    expect(screen.getByText(/Neither its worth nor its cost is known/)).toBeTruthy();
    expect(field('ask').value).toBe('');
  });
});
