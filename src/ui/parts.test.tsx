import { render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it, vi } from 'vitest';
import type { RefitReport } from '../contracts/measures';
import type { Step } from '../core/rebuild/checklist';
import { PasteBatch } from './check/paste-batch';
import { FindSwitchList } from './crawl/find-switches';
import { Refit } from './measures/refit';
import { Checklist } from './rebuild/checklist';
import { Backups } from './settings/backups';
import { DamageNotice } from './settings/damage-notice';
import { BulkBar } from './shortlist/bulk-bar';
import type { Entry } from './shortlist/entry';
import { answering, asked, problem, refreshed, said, sentTo } from './testing';

describe('what is left out of the finds', () => {
  const switches = [
    { cause: 'known' as const, isOn: true, would: 12, alone: 4 },
    { cause: 'judged' as const, isOn: false, would: 3, alone: 3 },
  ];
  const boxes = () => screen.getAllByRole('checkbox') as HTMLInputElement[];

  it('is turned switch by switch, the others as they stand on the screen', async () => {
    answering(() => ({}));
    render(<FindSwitchList sourceId={5} switches={switches} out={12} />);
    await userEvent.click(boxes()[1]);
    await userEvent.click(boxes()[0]);
    await waitFor(() => expect(asked).toHaveLength(2));
    expect(asked.map(({ body }) => body)).toEqual([{ leaveOut: ['known', 'judged'] }, { leaveOut: ['judged'] }]);
    expect(screen.getByText('would keep out 12')).toBeTruthy();
  });

  it('turns back when the source does not take it', async () => {
    answering(() => problem('The source is being read.', 409));
    render(<FindSwitchList sourceId={5} switches={switches} out={12} />);
    await userEvent.click(boxes()[0]);
    await waitFor(() => expect(said[0]?.words).toBe('The source is being read.'));
    expect(boxes()[0].checked).toBe(true);
    expect(refreshed.times).toBe(0);
  });
});

describe('what is done with ticked entries', () => {
  const entry = (name: string) => ({ domain: { name } }) as Entry;
  const show = (names: string[]) => {
    const done = { onStage: vi.fn(), onTag: vi.fn(), onRemove: vi.fn(), onNone: vi.fn() };
    render(<BulkBar ticked={names.map(entry)} {...done} />);
    return done;
  };

  it('is moving to a stage, and tagging with what is left of the words', async () => {
    const { onStage, onTag } = show(['a.org', 'b.org']);
    await userEvent.selectOptions(screen.getByLabelText('Move the ticked to'), 'waiting');
    expect(onStage).toHaveBeenCalledWith('waiting');
    const field = screen.getByLabelText('Tag for the ticked') as HTMLInputElement;
    await userEvent.type(field, '  spring {Enter}');
    await userEvent.type(field, '   {Enter}');
    expect(onTag.mock.calls).toEqual([['spring']]);
    expect(field.value).toBe('');
  });

  it('compares two or more, not one and not too many', () => {
    show(['a.org', 'b.org']);
    expect(screen.getByText('Compare 2').getAttribute('href')).toBe('/compare?name=a.org&name=b.org');
    document.body.innerHTML = '';
    show(['a.org']);
    expect(screen.queryByText(/^Compare/)).toBeNull();
    document.body.innerHTML = '';
    show(Array.from({ length: 40 }, (_, n) => `a${n}.org`));
    expect(screen.queryByText(/^Compare/)).toBeNull();
  });
});

describe('steps of a rebuild', () => {
  const step = (key: string, state: Step['state'] = 'wanted'): Step => ({ key, words: `do ${key}`, state, at: null });
  const show = (steps: Step[]) => {
    const onDecide = vi.fn();
    const view = render(
      <Checklist steps={steps} progress={{ done: 0, all: steps.length }} now={0} onDecide={onDecide} />,
    );
    return { onDecide, ...view };
  };

  it('show as done at once, until the page has heard of it', async () => {
    const { onDecide, rerender } = show([step('page:/hives')]);
    const box = screen.getByRole('checkbox') as HTMLInputElement;
    await userEvent.click(box);
    expect(box.checked).toBe(true);
    expect(onDecide).toHaveBeenCalledWith([{ key: 'page:/hives', state: 'done' }]);
    rerender(<Checklist steps={[step('page:/hives')]} progress={{ done: 0, all: 1 }} now={0} onDecide={onDecide} />);
    expect(box.checked).toBe(false);
  });

  it('may be one’s own, which alone can be removed', async () => {
    const { onDecide } = show([step('page:/hives'), step('own:1')]);
    await userEvent.type(screen.getByLabelText('A step of your own'), ' ask the neighbour {Enter}');
    expect(onDecide.mock.calls[0][0]).toMatchObject([{ state: 'wanted', words: 'ask the neighbour' }]);
    expect(onDecide.mock.calls[0][0][0].key).toMatch(/^own:/);
    const removes = screen.getAllByText('remove');
    expect(removes).toHaveLength(1);
    await userEvent.click(removes[0]);
    expect(onDecide).toHaveBeenLastCalledWith([{ key: 'own:1', state: null }]);
  });
});

describe('names that are pasted to be checked', () => {
  const field = () => screen.getByLabelText('Names or addresses') as HTMLTextAreaElement;
  const send = () => userEvent.click(screen.getByRole('button', { name: /Check them/ }));

  it('are sent with how fresh and how far, and lead to their batch', async () => {
    answering(() => ({ id: 31 }));
    render(<PasteBatch hasRegistrar={false} />);
    await userEvent.type(field(), 'a.org b.org');
    await userEvent.selectOptions(screen.getByLabelText('How far they are asked'), 'full');
    await send();
    await waitFor(() => expect(sentTo).toEqual(['/check/31']));
    expect(asked[0].body).toEqual({ text: 'a.org b.org', depth: 'full', freshMinutes: 60 });
    const down = screen.getByText(/free ones down to the registrar/) as HTMLOptionElement;
    expect(down.disabled).toBe(true);
  });

  it('that are very many are told of instead of shown, and sent whole', async () => {
    answering(() => ({ id: 32 }));
    render(<PasteBatch hasRegistrar />);
    const many = Array.from({ length: 3000 }, (_, n) => `name${n}.org`).join('\n');
    field().focus();
    await userEvent.paste(many);
    expect(screen.getByText(/3,000 names were pasted/)).toBeTruthy();
    await send();
    await waitFor(() => expect(sentTo).toEqual(['/check/32']));
    expect((asked[0].body as { text: string }).text).toBe(many);
  });

  it('stay when they could not be taken', async () => {
    answering(() => problem('None of these is a name.'));
    render(<PasteBatch hasRegistrar />);
    await userEvent.type(field(), 'nonsense');
    await send();
    expect((await screen.findByRole('alert')).textContent).toBe('None of these is a name.');
    expect(sentTo).toEqual([]);
  });
});

describe('copies of the data folder', () => {
  const backups = [{ path: 'backups/2026-11-30', databaseBytes: 12_300_000, at: 0 }];

  it('are listed with their size, and made', async () => {
    answering(({ method }) => (method === 'GET' ? { backups } : { job: {} }));
    render(<Backups kept={7} />);
    expect(await screen.findByText(/backups\/2026-11-30, 13 MB/)).toBeTruthy();
    await userEvent.click(screen.getByText('Copy it now'));
    await waitFor(() => expect(said[0]?.words).toBe('The data folder is being copied'));
  });

  it('are made by themselves, as many as are wanted', async () => {
    answering(({ method }) => (method === 'GET' ? { backups } : { act: 9 }));
    render(<Backups kept={7} />);
    await userEvent.selectOptions(await screen.findByLabelText('One a day by itself:'), '14');
    await waitFor(() => expect(said[0]?.words).toBe('It counts from the next copy on'));
    expect(asked.find(({ method }) => method === 'PATCH')).toMatchObject({
      path: '/settings',
      body: { copiesKept: 14 },
    });
  });

  it('can be restored one at a time; what went wrong is said', async () => {
    answering(({ method }) => (method === 'GET' ? { backups } : problem('Work is under way.', 409)));
    render(<Backups kept={7} />);
    const restore = await screen.findByLabelText('Restore 2026-11-30');
    await userEvent.click(restore);
    await waitFor(() => expect(said[0]?.words).toBe('Work is under way.'));
    expect(asked.at(-1)?.path).toBe('/backups/2026-11-30/restore');
    expect((restore as HTMLButtonElement).disabled).toBe(false);
  });
});

describe('damage of the database', () => {
  it('is told with what stands there, and the newest whole copy put in its place', async () => {
    answering(() => problem('no copy is whole. 2026-11-29: the copy is damaged', 409));
    const damage = { at: Date.UTC(2026, 10, 30, 8), found: ['the table orders (1 page)'] };
    const { container, rerender } = render(<DamageNotice damage={null} now={damage.at} />);
    expect(container.textContent).toBe('');
    rerender(<DamageNotice damage={damage} now={damage.at + 7_200_000} />);
    expect(screen.getByRole('alert').textContent).toMatch(/The table orders \(1 page\)\. Found 2 \w+ ago/);
    await userEvent.click(screen.getByText('Restore the newest whole copy'));
    await waitFor(() => expect(said[0]?.words).toContain('no copy is whole'));
    expect(asked[0]?.path).toBe('/backups/newest/restore');
    expect((screen.getByText('Restore the newest whole copy') as HTMLButtonElement).disabled).toBe(false);
  });
});

describe('points fitted to the person’s own marks', () => {
  const part = { examples: 60, spam: 30, area: 0.9, falseAlarms: 0.1, missed: 0.2 };
  const report = {
    before: part,
    after: { ...part, area: 0.95 },
    moved: [{ name: 'a.org', mark: 'spam', before: 20, after: 70 }],
  } as RefitReport;

  it('want enough marks', () => {
    render(<Refit marks={{ spam: 20, clean: 29 }} fit={null} />);
    expect((screen.getByText('Fit them to my marks') as HTMLButtonElement).disabled).toBe(true);
    expect(screen.queryByText('Take the last fit back')).toBeNull();
  });

  it('show before and after side by side, and are taken back', async () => {
    answering(() => undefined);
    render(<Refit marks={{ spam: 30, clean: 30 }} fit={{ report }} />);
    const rows = screen.getAllByRole('row').map(({ textContent }) => textContent);
    expect(rows[1]).toBe('area under the ROC curve 0.9000.950');
    expect(rows.at(-1)).toBe('a.org spam by your mark2070');
    await userEvent.click(screen.getByText('Take the last fit back'));
    await waitFor(() => expect(said[0]?.words).toBe('Taken back; cards are rescored'));
    expect(asked[0]).toMatchObject({ method: 'DELETE', path: '/measures/points' });
  });
});
