import { fireEvent, render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it, vi } from 'vitest';
import type { StoredSieve } from '../../contracts/sieves';
import { type PoolView, parseView } from '../../core/pool/conditions';
import { answering, asked, problem, said } from '../testing';
import { KeptSieves } from './kept';
import { PRESETS } from './presets';

const sieve: StoredSieve = {
  id: 3,
  name: 'Hives',
  view: 'c=phase:free',
  createdAt: 0,
  runs: 'off',
  runMinute: 390,
  inDigest: false,
  shortlistBrief: null,
  depth: 'nothing',
  nextAt: null,
  lastAt: null,
  lastTotal: null,
  lastNew: null,
  fresh: 2,
};
const briefs = [
  { id: 1, name: 'Bees' },
  { id: 2, name: 'Clocks' },
];

function show(part: Partial<Parameters<typeof KeptSieves>[0]> = {}) {
  const done = { onOpened: vi.fn(), onChange: vi.fn<(view: PoolView) => void>(), onKept: vi.fn() };
  render(
    <KeptSieves
      view={parseView(new URLSearchParams('c=phase:free'))}
      sieves={[sieve]}
      current={sieve}
      isChanged={false}
      briefs={briefs}
      ofBrief={{ name: 'Bees', view: 'c=phase:pending-delete' }}
      {...done}
      {...part}
    />,
  );
  return done;
}
const menu = async (name: string | RegExp) => {
  await userEvent.click(screen.getByText('Kept sieves'));
  await userEvent.click(await screen.findByRole('menuitem', { name }));
};
const shown = ({ onChange }: ReturnType<typeof show>) => JSON.stringify(onChange.mock.lastCall?.[0].parts);

describe('kept sieves', () => {
  it('are opened by name', async () => {
    const done = show();
    await menu(/^Hives/);
    expect(done.onOpened).toHaveBeenLastCalledWith(3);
    expect(shown(done)).toContain('free');
  });

  it('begin with the pool as the brief wants it', async () => {
    const done = show();
    await menu(/As the brief has it/);
    expect(done.onOpened).toHaveBeenLastCalledWith(null);
    expect(shown(done)).toContain('pending-delete');
  });

  it('are run, and what is new is seen', async () => {
    answering(({ path }) => (path.endsWith('/run') ? { total: 1200, fresh: 0 } : undefined));
    const { onKept } = show();
    await menu('Run it now');
    await waitFor(() => expect(said[0]?.words).toBe('"Hives": 1,200 pass, none of them new'));
    await menu(/new ones are seen/);
    await waitFor(() => expect(onKept).toHaveBeenCalledTimes(2));
    expect(asked.map(({ path }) => path)).toEqual(['/sieves/3/run', '/sieves/3/seen']);
  });

  it('that were changed are kept, kept as another, or put back', async () => {
    answering(() => ({ act: 8 }));
    const view = parseView(new URLSearchParams('c=phase:pending-delete'));
    const done = show({ isChanged: true, view });
    await userEvent.click(screen.getByText('put back'));
    expect(shown(done)).toContain('"free"');
    await userEvent.click(screen.getByText('keep'));
    await waitFor(() => expect(said[0]?.words).toBe('"Hives" is kept as it is now'));
    expect((asked[0].body as { view: string }).view).toContain('pending-delete');
    await userEvent.click(screen.getByText('keep as another'));
    const name = (await screen.findByLabelText('Name for this sieve')) as HTMLInputElement;
    expect(name.value).toBe('Hives, another');
  });

  it('need a name of their own; the box stays with what the server says', async () => {
    answering(({ body }) =>
      (body as { name: string }).name === 'Hives' ? problem('There is a sieve of that name.', 409) : { id: 9 },
    );
    const done = show({ current: null });
    await menu('Keep this sieve…');
    const name = await screen.findByLabelText('Name for this sieve');
    const keep = screen.getByRole('button', { name: /^Keep/ });
    await userEvent.click(keep);
    expect((await screen.findByRole('alert')).textContent).toBe('Give it a name.');
    await userEvent.type(name, 'Hives');
    await userEvent.click(keep);
    await waitFor(() => expect(screen.getByRole('alert').textContent).toBe('There is a sieve of that name.'));
    await userEvent.type(name, ' of spring');
    await userEvent.click(keep);
    await waitFor(() => expect(done.onOpened).toHaveBeenCalledWith(9));
    expect(screen.queryByRole('dialog')).toBeNull();
  });

  it('are scheduled: a time of day says that it is daily', async () => {
    answering(() => ({ act: null }));
    show();
    await menu(/Schedule and rename/);
    const time = (await screen.findByLabelText('Time of day, UTC')) as HTMLInputElement;
    expect(time.value).toBe('06:30');
    fireEvent.input(time, { target: { value: '05:15' } });
    await userEvent.selectOptions(screen.getByLabelText(/goes on the shortlist for/), 'Clocks');
    await userEvent.click(screen.getByLabelText('goes into the daily digest'));
    await userEvent.click(screen.getByRole('button', { name: /^Save/ }));
    await waitFor(() => expect(asked).toHaveLength(1));
    expect(asked[0]).toMatchObject({
      method: 'PATCH',
      path: '/sieves/3',
      body: { name: 'Hives', runs: 'daily', runMinute: 315, inDigest: true, shortlistBrief: 2, depth: 'nothing' },
    });
  });

  it('are deleted with what they show staying, and come back from the notice', async () => {
    answering(() => ({ act: 21 }));
    const done = show();
    await menu(/Schedule and rename/);
    await userEvent.click(await screen.findByRole('button', { name: 'Delete' }));
    await waitFor(() => expect(said[0]?.words).toBe('"Hives" deleted'));
    expect(shown(done)).toContain('free');
    said[0].undo?.();
    await waitFor(() => expect(asked.at(-1)?.path).toBe('/acts/21/undo'));
  });

  it('begin with a starting point', async () => {
    const done = show();
    await menu('Starting points…');
    await userEvent.click(await screen.findByLabelText(`Start with ${PRESETS[0].name}`));
    expect(done.onChange.mock.lastCall?.[0].parts).toEqual(PRESETS[0].parts.map(({ part }) => part));
    expect(screen.queryByRole('dialog')).toBeNull();
  });
});
