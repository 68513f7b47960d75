import { fireEvent, render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it, vi } from 'vitest';
import type { z } from 'zod';
import { LEFT_OUT_AT_FIRST } from '../../core/crawl/leave-out';
import { Form } from '../forms/form';
import { answering, asked, problem } from '../testing';
import { CrawlOptions } from './crawl-options';
import { ListImport } from './list-import';
import { crawlValues, TypedCrawlOptions } from './typed-crawl';
import { nameOfFile } from './use-table-look';

const look = (columns: string[]) => ({
  upload: 'u1',
  format: 'table',
  delimiter: ';',
  hasHeader: true,
  header: ['name', 'what'],
  columns,
  rows: [['a.org', 'x']],
  readings: [],
  remembered: false,
  headRows: 1,
  told: columns.map(() => ({
    title: '',
    order: null,
    mark: null,
    currency: null,
    zone: null,
    isLeft: false,
    unitMs: null,
    scale: null,
  })),
  tally: [{ column: 1, read: 3, empty: 1, notUnderstood: 2, examples: ['soon', 'many'] }],
  untold: [] as number[],
  sheets: [] as string[],
  sheet: null as string | null,
  problems: [],
});
const file = () => new File(['name;what\na.org;x\n'], 'drops.2026.csv.gz', { type: 'text/csv' });
const button = () => screen.getByRole('button', { name: /Import the list/ }) as HTMLButtonElement;

function show(preview: (path: string) => unknown) {
  answering(({ path, method }) => {
    if (path.startsWith('/sources/lists/preview')) return preview(path);
    return method === 'POST' ? { source: { id: 12 } } : {};
  });
  const onStarted = vi.fn();
  render(<ListImport excludedEndings={['xyz']} onStarted={onStarted} />);
  return { onStarted };
}

describe('a list file', () => {
  it('is looked at, named after itself, and imported as it was read, once', async () => {
    const { onStarted } = show(() => look(['domain', 'ignore']));
    await userEvent.upload(screen.getByLabelText('Choose a list'), file());
    const name = (await screen.findByLabelText('Name of the source')) as HTMLInputElement;
    expect(name.value).toBe('drops.2026');
    await userEvent.type(screen.getByLabelText(/Excluded TLDs/), ' top');
    // both presses come before the first is answered
    fireEvent.click(button());
    fireEvent.click(button());
    await waitFor(() => expect(onStarted).toHaveBeenCalledWith({ id: 12 }));
    expect(asked.filter(({ path }) => path === '/sources/lists').map(({ body }) => body)).toEqual([
      {
        upload: 'u1',
        name: 'drops.2026',
        delimiter: ';',
        hasHeader: true,
        headRows: 1,
        sheet: null,
        order: null,
        columns: ['domain', 'ignore'],
        excludedEndings: ['xyz', 'top'],
      },
    ]);
  });

  it('says what was not understood of a column, and asks what no date of it tells', async () => {
    const dated = { ...look(['domain', 'closing']), rows: [['a.org', '05/11/2026']], untold: [1] };
    show(() => dated);
    await userEvent.upload(screen.getByLabelText('Choose a list'), file());
    expect((await screen.findByText(/2 not understood: soon · many/)).closest('tr')?.textContent).toContain(
      '3 read, 1 empty',
    );
    expect(screen.getByRole('alert').textContent).toContain('whether 05/11/2026 begins with the day or the month');
    await userEvent.click(screen.getByLabelText('day'));
    const [, query] = (asked.at(-1)?.path ?? '').split('?');
    expect(new URLSearchParams(query).get('order')).toBe('day-first');
    expect(new URLSearchParams(query).get('columns')).toBe('domain,closing');
  });

  it('with several sheets is read from the one that is chosen, and its header from the row that is', async () => {
    show(() => ({ ...look(['domain', 'ignore']), sheets: ['Summary', 'Lots'], sheet: 'Lots' }));
    await userEvent.upload(screen.getByLabelText('Choose a list'), file());
    await userEvent.selectOptions(await screen.findByLabelText('List in'), 'Summary');
    const last = () => new URLSearchParams((asked.at(-1)?.path ?? '').split('?')[1]);
    expect(last().get('sheet')).toBe('Summary');
    expect(last().has('delimiter')).toBe(false);
    fireEvent.change(screen.getByLabelText('Header is row'), { target: { value: '4' } });
    await waitFor(() => expect(last().get('headRows')).toBe('4'));
    expect(last().get('sheet')).toBe('Summary');
  });

  it('wants a column of domains and a name', async () => {
    show(() => look(['ignore', 'ignore']));
    await userEvent.upload(screen.getByLabelText('Choose a list'), file());
    expect((await screen.findByText('Mark the column that holds the domain.')).getAttribute('role')).toBe('alert');
    expect(button().disabled).toBe(true);
  });

  it('that cannot be read is said to be so, and another can be chosen', async () => {
    let isRead = false;
    show(() => (isRead ? look(['domain', 'ignore']) : problem('This is no list: it is a picture.')));
    await userEvent.upload(screen.getByLabelText('Choose a list'), file());
    expect((await screen.findByRole('alert')).textContent).toBe('This is no list: it is a picture.');
    isRead = true;
    await userEvent.upload(screen.getByLabelText('Choose a list'), file());
    await waitFor(() => expect(screen.queryByText(/This is no list/)).toBeNull());
    await waitFor(() => expect(button().disabled).toBe(false));
  });

  it.each([
    ['drops.csv', 'drops'],
    ['drops.csv.gz', 'drops'],
    ['a.b.xlsx', 'a.b'],
    ['README', 'README'],
  ])('%s gives a source its name', (name, source) => {
    expect(nameOfFile(new File([], name))).toBe(source);
  });
});

describe('how a crawl goes about it', () => {
  const sent: z.output<typeof TypedCrawlOptions>[] = [];
  const form = (endings: string[], proposed: { depth?: number; pageBudget?: number } = {}) => (
    <Form
      schema={TypedCrawlOptions}
      values={crawlValues(endings, proposed)}
      label="Start"
      busyLabel="Starting"
      act={async (typed) => sent.push(typed)}
    >
      <CrawlOptions />
    </Form>
  );
  const optionsOf = async () => {
    sent.length = 0;
    await userEvent.click(screen.getByRole('button', { name: /Start/ }));
    await waitFor(() => expect(sent).toHaveLength(1));
    return sent[0];
  };

  it('is as usual where nothing is said', async () => {
    render(form(['xyz']));
    expect(await optionsOf()).toMatchObject({
      depth: 3,
      pageBudget: 2000,
      sitePageBudget: null,
      minutesBudget: null,
      leastFinds: null,
      excludedEndings: ['xyz'],
      leaveOut: LEFT_OUT_AT_FIRST,
      subdomains: 'inside',
      robots: 'obey',
      checkAfter: true,
    });
  });

  it('has no limit of depth where the field is empty, and keeps what was typed over what is proposed', async () => {
    const { rerender } = render(form([]));
    await userEvent.clear(screen.getByLabelText('Depth'));
    await userEvent.clear(screen.getByLabelText('Page budget'));
    await userEvent.type(screen.getByLabelText('Page budget'), '500');
    rerender(form([], { depth: 1, pageBudget: 90_000 }));
    expect(await optionsOf()).toMatchObject({ depth: null, pageBudget: 500 });
  });

  it('takes what is proposed as long as nothing was typed', async () => {
    const { rerender } = render(form([]));
    rerender(form([], { depth: 1, pageBudget: 90_000 }));
    expect(await optionsOf()).toMatchObject({ depth: 1, pageBudget: 90_000 });
  });

  it('is told at the field what the contract does not allow', async () => {
    render(form([]));
    await userEvent.clear(screen.getByLabelText('Depth'));
    await userEvent.type(screen.getByLabelText('Depth'), '4000');
    await userEvent.click(screen.getByRole('button', { name: /Start/ }));
    await waitFor(() => expect(screen.getByLabelText('Depth').getAttribute('aria-invalid')).toBe('true'));
  });
});
