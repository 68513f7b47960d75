import { fireEvent, render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it, vi } from 'vitest';
import { explain } from '../../core/pool/explain';
import { Explained, Measure } from './explained';

const shown = () => screen.queryByRole('tooltip')?.textContent ?? null;

describe('the name of a measure', () => {
  it('says what it is and where it comes from when it has the focus, and no more when it has lost it', async () => {
    render(<Measure fact="trust">Trust</Measure>);
    expect(shown()).toBeNull();
    await userEvent.tab();
    await waitFor(() => expect(shown()).toBe(explain('trust').what + explain('trust').from));
    expect(screen.getByRole('button').getAttribute('aria-describedby')).toBe(screen.getByRole('tooltip').id);
    await userEvent.tab();
    await waitFor(() => expect(shown()).toBeNull());
  });

  it('says so at a tap', async () => {
    render(<Measure fact="length">Length</Measure>);
    const tap = new MouseEvent('click', { bubbles: true, cancelable: true });
    Object.defineProperty(tap, 'pointerType', { value: 'touch' });
    fireEvent(screen.getByRole('button'), tap);
    await waitFor(() => expect(shown()).toContain(explain('length').what));
  });

  it('still does what it did when it is pressed, with what can be done told last', async () => {
    const onClick = vi.fn();
    render(
      <Explained words={explain('age')} hint="Click to sort.">
        <button type="button" onClick={onClick}>
          Age
        </button>
      </Explained>,
    );
    await userEvent.tab();
    await waitFor(() => expect(shown()).toMatch(/Click to sort\.$/));
    await userEvent.click(screen.getByRole('button'));
    expect(onClick).toHaveBeenCalledTimes(1);
  });
});
