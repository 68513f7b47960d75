import { fireEvent, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it, vi } from 'vitest';
import '../testing';
import { AmountField } from './amount-field';

function show(minor: number | null) {
  const onKeep = vi.fn<(minor: number | null) => void>();
  render(<AmountField label="Worth of tarnhives.org" minor={minor} placeholder="none" onKeep={onKeep} />);
  return { onKeep, field: screen.getByLabelText<HTMLInputElement>('Worth of tarnhives.org') };
}

describe('a sum of money', () => {
  it('is kept when its field is left, or on Enter, in minor units; an empty one is none', async () => {
    const { onKeep, field } = show(20_000);
    expect(field.value).toBe('200');
    await userEvent.clear(field);
    await userEvent.type(field, '1,250.50{Enter}');
    expect(onKeep).toHaveBeenLastCalledWith(125_050);
    await userEvent.clear(field);
    await userEvent.tab();
    expect(onKeep).toHaveBeenLastCalledWith(null);
  });

  it('is not kept where nothing changed', () => {
    const { onKeep, field } = show(20_000);
    fireEvent.blur(field);
    expect(onKeep).not.toHaveBeenCalled();
  });

  it('that is none is told where it stands, and what was typed stays', async () => {
    const { onKeep, field } = show(null);
    expect(field.placeholder).toBe('none');
    await userEvent.type(field, 'all of it{Enter}');
    expect(screen.getByRole('alert').textContent).toBe('write it as 140 or 140.50');
    expect([field.value, field.getAttribute('aria-invalid')]).toEqual(['all of it', 'true']);
    expect(onKeep).not.toHaveBeenCalled();
    await userEvent.clear(field);
    await userEvent.type(field, '140{Enter}');
    expect(screen.queryByRole('alert')).toBeNull();
    expect(onKeep).toHaveBeenLastCalledWith(14_000);
  });
});
