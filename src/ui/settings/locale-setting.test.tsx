import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, describe, expect, it, vi } from 'vitest';
import '../testing';
import { LocaleSetting } from './locale-setting';

const drawAnew = vi.fn();

afterEach(() => {
  // biome-ignore lint/suspicious/noDocumentCookie: what a test chose is forgotten
  document.cookie = 'locale=; max-age=0; path=/';
  drawAnew.mockClear();
});

describe('in whose way numbers and dates are written', () => {
  it('shows how they are written now, and is the browser’s business at first', () => {
    render(<LocaleSetting chosen="" drawAnew={drawAnew} />);
    expect(screen.getByLabelText('Numbers and dates')).toHaveProperty('value', '');
    expect(screen.getByText(/^now 1,234\.50 and \d+ \w+ \d{4}, in this browser$/)).toBeTruthy();
  });

  it('is chosen for this browser, and the page is drawn anew', async () => {
    render(<LocaleSetting chosen="" drawAnew={drawAnew} />);
    await userEvent.selectOptions(screen.getByLabelText('Numbers and dates'), 'Deutsch (Schweiz)');
    expect(document.cookie).toContain('locale=de-CH');
    expect(drawAnew).toHaveBeenCalledOnce();
  });

  it('is given back to the browser', async () => {
    // biome-ignore lint/suspicious/noDocumentCookie: as it was chosen before
    document.cookie = 'locale=de-CH; path=/';
    render(<LocaleSetting chosen="de-CH" drawAnew={drawAnew} />);
    await userEvent.selectOptions(screen.getByLabelText('Numbers and dates'), 'as the browser has them');
    expect(document.cookie).not.toContain('locale=');
    expect(drawAnew).toHaveBeenCalledOnce();
  });
});
