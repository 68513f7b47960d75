import { fireEvent, render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it } from 'vitest';
import { ActionForm, FileDrop, Labelled, useAttempt, wordsOf } from './fields';

const gate = () => {
  let open = () => {};
  const passed = new Promise<void>((resolve) => {
    open = resolve;
  });
  return { open, passed };
};

describe('a form that does one thing', () => {
  it('hands its fields over once, however often it is sent while it works', async () => {
    const { open, passed } = gate();
    const sent: string[] = [];
    render(
      <ActionForm
        label="Keep"
        busyLabel="Keeping"
        act={async (form) => {
          sent.push(String(form.get('name')));
          await passed;
        }}
      >
        <Labelled label="Name">
          <input name="name" />
        </Labelled>
      </ActionForm>,
    );
    await userEvent.type(screen.getByLabelText('Name'), 'Hives');
    const button = screen.getByRole('button');
    await userEvent.click(button);
    await userEvent.click(button);
    expect(button.getAttribute('aria-busy')).toBe('true');
    open();
    await waitFor(() => expect(button.getAttribute('aria-busy')).toBe('false'));
    expect(sent).toEqual(['Hives']);
  });

  it('says what went wrong and keeps what was typed; the next try takes the words away', async () => {
    let isFine = false;
    render(
      <ActionForm
        label="Keep"
        busyLabel="Keeping"
        act={async () => {
          if (!isFine) throw new Error('There is a brief of that name.');
        }}
      >
        <input aria-label="Name" name="name" />
      </ActionForm>,
    );
    await userEvent.type(screen.getByLabelText('Name'), 'Hives');
    await userEvent.click(screen.getByRole('button'));
    expect((await screen.findByRole('alert')).textContent).toBe('There is a brief of that name.');
    expect((screen.getByLabelText('Name') as HTMLInputElement).value).toBe('Hives');
    isFine = true;
    await userEvent.click(screen.getByRole('button'));
    await waitFor(() => expect(screen.queryByRole('alert')).toBeNull());
  });

  it('does the other thing with the same fields where its other button is pressed', async () => {
    const done: string[] = [];
    const note = (what: string) => async (form: FormData) => void done.push(`${what} ${form.get('name')}`);
    render(
      <ActionForm
        label="Import"
        busyLabel="Importing"
        act={note('import')}
        other={{ label: 'Preview', act: note('preview') }}
      >
        <input aria-label="Name" name="name" defaultValue="drops" />
      </ActionForm>,
    );
    await userEvent.click(screen.getByRole('button', { name: 'Preview' }));
    await userEvent.click(screen.getByRole('button', { name: /Import/ }));
    await waitFor(() => expect(done).toEqual(['preview drops', 'import drops']));
  });
});

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

it('words of a field are parted by commas, semicolons and white space', () => {
  expect(wordsOf(' bees, honey;hive\n wax ')).toEqual(['bees', 'honey', 'hive', 'wax']);
  expect(wordsOf(null)).toEqual([]);
});
