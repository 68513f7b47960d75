import { fireEvent, render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { beforeEach, describe, expect, it } from 'vitest';
import { z } from 'zod';
import { CallError } from '../api';
import { sentTo } from '../testing';
import { AreaField, ChoiceField, LineField, NumberField, TickField } from './field';
import { Form } from './form';
import LeaveGuard from './leave-guard';
import { number, text, words } from './typed';
import { forgetUnsaved, useHeldUp } from './unsaved';

const schema = z.object({ name: text('Say its name.'), depth: number({ most: 9 }), words });
type Sent = z.output<typeof schema>;
const VALUES = { name: '', depth: '3', words: '' };

const gate = () => {
  let open = () => {};
  const passed = new Promise<void>((resolve) => {
    open = resolve;
  });
  return { open, passed };
};

function HeldUp() {
  const { to, stay } = useHeldUp();
  return to === null ? null : <LeaveGuard to={to} onStay={stay} />;
}

function show(act: (sent: Sent) => Promise<unknown>, more: { other?: (sent: Sent) => Promise<unknown> } = {}) {
  const form = (values = VALUES) => (
    <>
      <a href="/pool" onClick={(event) => event.preventDefault()}>
        Pool
      </a>
      <Form
        schema={schema}
        values={values}
        label="Keep"
        busyLabel="Keeping"
        act={act}
        other={more.other && { label: 'Try', act: more.other }}
      >
        <LineField name="name" label="Name" />
        <NumberField name="depth" label="Depth" />
        <AreaField name="words" label="Words" />
      </Form>
      <HeldUp />
    </>
  );
  const { rerender } = render(form());
  return { change: (values: typeof VALUES) => rerender(form(values)) };
}
const field = (label: string) => screen.getByLabelText(label) as HTMLInputElement;
const button = () => screen.getByRole('button', { name: /Keep/ });

beforeEach(forgetUnsaved);

describe('a form', () => {
  it('hands over what its fields say, read, once, however often it is sent while it works', async () => {
    const { open, passed } = gate();
    const sent: Sent[] = [];
    show(async (given) => {
      sent.push(given);
      await passed;
    });
    await userEvent.type(field('Name'), ' Hives ');
    await userEvent.type(field('Words'), 'bee, wax');
    await userEvent.click(button());
    await userEvent.click(button());
    await waitFor(() => expect(button().getAttribute('aria-busy')).toBe('true'));
    open();
    await waitFor(() => expect(button().getAttribute('aria-busy')).toBe('false'));
    expect(sent).toEqual([{ name: 'Hives', depth: 3, words: ['bee', 'wax'] }]);
  });

  it('says at each field what is wrong with it, goes to the first, and sends nothing', async () => {
    const sent: Sent[] = [];
    show(async (given) => sent.push(given));
    await userEvent.clear(field('Depth'));
    await userEvent.type(field('Depth'), '12');
    await userEvent.click(button());
    const alerts = await screen.findAllByRole('alert');
    expect(alerts.map(({ textContent }) => textContent)).toEqual(['Say its name.', 'A number from 0 to 9.']);
    expect(document.activeElement).toBe(field('Name'));
    expect(field('Name').getAttribute('aria-invalid')).toBe('true');
    expect(document.getElementById(field('Name').getAttribute('aria-describedby') ?? '')?.textContent).toBe(
      'Say its name.',
    );
    expect(field('Depth').value).toBe('12');
    await userEvent.type(field('Name'), 'Hives');
    await waitFor(() => expect(screen.getAllByRole('alert')).toHaveLength(1));
    expect(sent).toEqual([]);
  });

  it('says what the server found wrong at its field, and what concerns none below; nothing typed is lost', async () => {
    let error: Error = new CallError('It makes no sense.', 'makes-no-sense', [
      { at: 'words.0', message: 'is no word' },
    ]);
    show(async () => {
      throw error;
    });
    await userEvent.type(field('Name'), 'Hives');
    await userEvent.type(field('Words'), '!');
    await userEvent.click(button());
    expect((await screen.findByRole('alert')).textContent).toBe('is no word');
    expect(field('Words').getAttribute('aria-invalid')).toBe('true');
    error = new Error('There is a brief of that name.');
    await userEvent.type(field('Words'), 'x');
    await userEvent.click(button());
    await waitFor(() => expect(screen.getByRole('alert').textContent).toBe('There is a brief of that name.'));
    expect(field('Name').value).toBe('Hives');
  });

  it('does the other thing with the same fields where its other button is pressed', async () => {
    const done: string[] = [];
    show(async ({ name }) => done.push(`keep ${name}`), { other: async ({ name }) => done.push(`try ${name}`) });
    await userEvent.type(field('Name'), 'Hives');
    await userEvent.click(screen.getByRole('button', { name: 'Try' }));
    await waitFor(() => expect(done).toEqual(['try Hives']));
    await userEvent.click(button());
    await waitFor(() => expect(done).toEqual(['try Hives', 'keep Hives']));
  });

  it('still says what is wrong when what is proposed changes meanwhile', async () => {
    const { change } = show(async () => {});
    await userEvent.type(field('Words'), 'bee');
    await userEvent.click(button());
    expect((await screen.findByRole('alert')).textContent).toBe('Say its name.');
    change({ name: '', depth: '5', words: 'wax' });
    await waitFor(() => expect(field('Depth').value).toBe('5'));
    expect(screen.getByRole('alert').textContent).toBe('Say its name.');
    expect(field('Words').value).toBe('bee');
  });

  it('takes what is proposed anew where nobody has typed, and keeps what was typed', async () => {
    const { change } = show(async () => {});
    await userEvent.type(field('Name'), 'Hives');
    change({ name: 'Wax', depth: '5', words: '' });
    await waitFor(() => expect(field('Depth').value).toBe('5'));
    expect(field('Name').value).toBe('Hives');
  });
});

describe('what was typed and is not kept', () => {
  it('is told of before a link is followed; one can stay, or go on without it', async () => {
    show(async () => {});
    fireEvent.click(screen.getByText('Pool'));
    expect(screen.queryByRole('alertdialog')).toBeNull();
    await userEvent.type(field('Name'), 'H');
    fireEvent.click(screen.getByText('Pool'));
    await userEvent.click(await screen.findByRole('button', { name: 'Stay' }));
    await waitFor(() => expect(screen.queryByRole('alertdialog')).toBeNull());
    expect(field('Name').value).toBe('H');
    fireEvent.click(screen.getByText('Pool'));
    await userEvent.click(await screen.findByRole('button', { name: 'Go on without it' }));
    expect(sentTo.map((to) => new URL(to).pathname)).toEqual(['/pool']);
  });

  it('is told of when the tab is closed, and not once it is kept', async () => {
    show(async () => {});
    await userEvent.type(field('Name'), 'Hives');
    const isHeldUp = () => !window.dispatchEvent(new Event('beforeunload', { cancelable: true }));
    expect(isHeldUp()).toBe(true);
    await userEvent.click(button());
    await waitFor(() => expect(isHeldUp()).toBe(false));
  });
});

describe('fields', () => {
  const all = z.object({ kind: z.enum(['a', 'b']), tick: z.boolean(), some: z.array(z.string()) });

  it('of every kind say what stands in them, and lists what is ticked', async () => {
    const sent: z.output<typeof all>[] = [];
    render(
      <Form
        schema={all}
        values={{ kind: 'a', tick: false, some: ['x'] }}
        label="Keep"
        busyLabel="Keeping"
        act={async (given) => sent.push(given)}
      >
        <ChoiceField
          name="kind"
          label="Kind"
          options={[
            ['a', 'the first'],
            ['b', 'the second'],
          ]}
        />
        <TickField name="tick">tick it</TickField>
        <TickField name="some" value="x">
          one
        </TickField>
        <TickField name="some" value="y">
          two
        </TickField>
      </Form>,
    );
    await userEvent.selectOptions(screen.getByLabelText('Kind'), 'the second');
    for (const label of ['tick it', 'one', 'two']) await userEvent.click(screen.getByLabelText(label));
    await userEvent.click(screen.getByRole('button'));
    await waitFor(() => expect(sent).toEqual([{ kind: 'b', tick: true, some: ['y'] }]));
  });
});
