import { render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it, vi } from 'vitest';
import { answering, asked, sentTo } from '../testing';
import Palette from './palette';

const SIEVES = { sieves: [{ id: 3, name: 'Old and clean', view: 'c=age%3A10..' }] };
const serve = (names: string[] = []) =>
  answering(({ path }) =>
    path === '/sieves'
      ? SIEVES
      : { rows: { id: names.map((_, n) => n + 1), name: names, fields: {} }, total: names.length },
  );
const open = () => {
  const onClose = vi.fn();
  render(<Palette onClose={onClose} />);
  return onClose;
};
const field = () => screen.getByRole('combobox');

describe('going anywhere by a few letters', () => {
  it('leads to a screen by its name, with Enter', async () => {
    serve();
    const onClose = open();
    await userEvent.type(field(), 'bid plan{Enter}');
    expect(sentTo).toEqual(['/shortlist']);
    expect(onClose).toHaveBeenCalledOnce();
  });

  it('finds domains of the pool by letters of their names, once typing rests', async () => {
    serve(['tarnhives.org', 'tarnhoney.org']);
    open();
    await userEvent.type(field(), 'tarnh');
    const found = await screen.findByText('Dossier of tarnhives.org');
    const queries = () => asked.filter(({ path }) => path === '/pool/columns');
    await waitFor(() =>
      expect(queries().at(-1)?.body).toMatchObject({ parts: [{ mode: 'contains', values: ['tarnh'] }] }),
    );
    expect(queries().length).toBeLessThan(5);
    await userEvent.click(found);
    expect(sentTo).toEqual(['/domains/tarnhives.org']);
  });

  it('opens the dossier of a domain that is typed whole, in lower case', async () => {
    serve();
    open();
    await userEvent.type(field(), 'TarnHives.ORG');
    await userEvent.click(await screen.findByText('Dossier of TarnHives.ORG'));
    expect(sentTo).toEqual(['/domains/tarnhives.org']);
  });

  it('finds kept sieves and settings', async () => {
    serve();
    open();
    await userEvent.type(field(), 'old and');
    await userEvent.click(await screen.findByText('Kept sieve: Old and clean'));
    expect(sentTo).toEqual(['/pool?c=age%3A10..']);
  });

  it('says that there is nothing by that name', async () => {
    serve();
    open();
    await userEvent.type(field(), 'zzqx zzqx');
    expect(await screen.findByText('Nothing by that name.')).toBeTruthy();
  });
});
