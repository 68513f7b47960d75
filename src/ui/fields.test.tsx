import { fireEvent, render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it } from 'vitest';
import { FileDrop, useAttempt } from './fields';

const gate = () => {
  let open = () => {};
  const passed = new Promise<void>((resolve) => {
    open = resolve;
  });
  return { open, passed };
};

function Steps({ acts }: { acts: Record<string, () => Promise<void>> }) {
  const { problem, busy, attempt } = useAttempt();
  return (
    <>
      {Object.entries(acts).map(([what, act]) => (
        <button key={what} type="button" onClick={() => void attempt(what, act, { once: true })}>
          {what}
        </button>
      ))}
      <p role="status">{busy ?? 'idle'}</p>
      <p role="alert">{problem}</p>
    </>
  );
}

describe('things that are done one after another', () => {
  it('keep their order, and each says that it is under way', async () => {
    const { open, passed } = gate();
    const ended: string[] = [];
    const acts = {
      first: async () => {
        await passed;
        ended.push('first');
      },
      second: async () => void ended.push('second'),
    };
    render(<Steps acts={acts} />);
    await userEvent.click(screen.getByRole('button', { name: 'first' }));
    await userEvent.click(screen.getByRole('button', { name: 'second' }));
    await waitFor(() => expect(screen.getByRole('status').textContent).toBe('first'));
    expect(ended).toEqual([]);
    open();
    await waitFor(() => expect(screen.getByRole('status').textContent).toBe('idle'));
    expect(ended).toEqual(['first', 'second']);
  });

  it('are not done twice when a button is pressed twice, and a failure does not stop what comes after', async () => {
    const { open, passed } = gate();
    let times = 0;
    let isLater = false;
    render(
      <Steps
        acts={{
          fails: async () => {
            times++;
            await passed;
            throw new Error('The disk is full.');
          },
          later: async () => {
            isLater = true;
          },
        }}
      />,
    );
    await userEvent.click(screen.getByRole('button', { name: 'fails' }));
    await userEvent.click(screen.getByRole('button', { name: 'fails' }));
    open();
    await waitFor(() => expect(screen.getByRole('alert').textContent).toBe('The disk is full.'));
    await userEvent.click(screen.getByRole('button', { name: 'later' }));
    await waitFor(() => expect(isLater).toBe(true));
    expect(times).toBe(1);
    expect(screen.getByRole('alert').textContent).toBe('');
  });
});

describe('a file', () => {
  const drops = () => new File(['a.org\n'], 'drops.csv', { type: 'text/csv' });

  it('is taken when it is chosen and when it is dropped', async () => {
    const taken: string[] = [];
    const { container } = render(<FileDrop label="Choose a list" hint="CSV" onFile={({ name }) => taken.push(name)} />);
    await userEvent.upload(screen.getByLabelText('Choose a list'), drops());
    fireEvent.drop(container.firstElementChild as Element, { dataTransfer: { files: [drops()] } });
    fireEvent.drop(container.firstElementChild as Element, { dataTransfer: { files: [] } });
    expect(taken).toEqual(['drops.csv', 'drops.csv']);
  });
});
