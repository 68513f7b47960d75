import { render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it } from 'vitest';
import { answering, asked, said } from '../testing';
import { Tokens } from './tokens';

const ENTRY = { id: 4, name: 'nightly export', scope: 'read', madeAt: 0, usedAt: null };

describe('tokens for scripts', () => {
  it('are made with a name and what they may, and shown once', async () => {
    answering(({ method }) => (method === 'POST' ? { ...ENTRY, token: 'jl_once' } : { tokens: [] }));
    render(<Tokens />);
    await userEvent.click(screen.getByRole('button', { name: /Make a token/ }));
    expect(await screen.findByText('Say which script it is for.')).toBeTruthy();
    expect(asked.filter(({ method }) => method === 'POST')).toEqual([]);
    await userEvent.type(screen.getByLabelText('Which script is it for?'), 'nightly export');
    await userEvent.selectOptions(screen.getByLabelText('It may'), 'gather');
    await userEvent.click(screen.getByRole('button', { name: /Make a token/ }));
    expect(await screen.findByText('jl_once')).toBeTruthy();
    expect(asked.find(({ method }) => method === 'POST')?.body).toEqual({ name: 'nightly export', scope: 'gather' });
    expect(screen.getByLabelText<HTMLInputElement>('Which script is it for?').value).toBe('');
  });

  it('stand in a list, and are taken back from there', async () => {
    answering(({ method }) => (method === 'DELETE' ? ENTRY : { tokens: [ENTRY] }));
    render(<Tokens />);
    expect((await screen.findByRole('rowheader', { name: 'nightly export' })).closest('tr')?.textContent).toContain(
      'never',
    );
    await userEvent.click(screen.getByRole('button', { name: 'Take back nightly export' }));
    await waitFor(() => expect(said.at(-1)?.words).toBe('nightly export has no way in any more'));
    expect(asked.find(({ method }) => method === 'DELETE')?.path).toBe('/tokens/4');
  });
});
