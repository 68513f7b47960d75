import { fireEvent, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it } from 'vitest';
import { address, sentTo } from '../testing';
import { CompareField, OnlyDifferences } from './controls';

describe('domains side by side', () => {
  it('are joined by others, one or several at once, and taken away again', async () => {
    render(<CompareField names={['tarnhives.org', 'wexcombe.org']} most={4} />);
    await userEvent.type(screen.getByLabelText('Another domain'), ' ossenmere.org, quillmere.org {Enter}');
    await userEvent.click(screen.getByRole('button', { name: 'without tarnhives.org' }));
    expect(sentTo).toEqual([
      '/compare?name=tarnhives.org&name=wexcombe.org&name=ossenmere.org&name=quillmere.org',
      '/compare?name=wexcombe.org',
    ]);
  });

  it('are asked for no more where they are as many as stand side by side, and none is sent for nothing', async () => {
    const { rerender } = render(<CompareField names={['a.org', 'b.org', 'c.org', 'd.org']} most={4} />);
    expect(screen.queryByLabelText('Another domain')).toBeNull();
    rerender(<CompareField names={['a.org']} most={4} />);
    expect(screen.queryByRole('button', { name: /without/ })).toBeNull();
    await userEvent.type(screen.getByLabelText('Another domain'), '  {Enter}');
    expect(sentTo).toEqual([]);
  });

  it('show only what differs by a press or by d, and the address keeps it', async () => {
    address.search = 'name=a.org&name=b.org';
    const { rerender } = render(<OnlyDifferences isOn={false} />);
    await userEvent.click(screen.getByRole('button', { name: /Only what differs/ }));
    address.search = 'name=a.org&name=b.org&only=differences';
    rerender(<OnlyDifferences isOn />);
    fireEvent.keyDown(window, { key: 'd' });
    expect(sentTo).toEqual(['/?name=a.org&name=b.org&only=differences', '/?name=a.org&name=b.org']);
  });
});
