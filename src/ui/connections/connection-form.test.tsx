import { render, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it } from 'vitest';
import type { ConnectionView } from '../../contracts/connections';
import { type ConnectionUse, Description } from '../../core/connections/connection';
import type { LaidOut } from '../../core/connections/tried';
import { answering, asked, said, sentTo } from '../testing';
import { ConnectionForm } from './connection-form';
import { ConnectionsScreen } from './connections-screen';
import { placeOf, placeText } from './typed-connection';

const LAID_OUT: LaidOut = {
  format: 'json',
  leaves: [
    { parts: ['cur'], text: 'GBP' },
    { parts: ['lots', '0', 'name'], text: 'tarnhives.org' },
    { parts: ['lots', '0', 'bid', 'now'], text: '120' },
  ],
  isCut: false,
  series: [{ at: '/lots', count: 7 }],
  repeated: [],
  proposed: { entries: '/lots', fields: { domain: { in: 'entry', at: '/name' } } },
  columns: [],
  rows: [],
  count: 1,
};
const TRIED = { at: 0, asked: 'What is on offer?', came: '', elapsedMs: 9, understood: [], setBy: '' };
const unread = {
  tried: { ...TRIED, outcome: 'unread', problem: { field: 'fields', words: 'Say below where “domain” stands.' } },
  laidOut: LAID_OUT,
};
const view = (rest: object = {}): ConnectionView => ({
  id: 'umberley',
  isOn: true,
  isDry: true,
  user: '',
  hasKey: true,
  hasPassword: false,
  description: Description.parse({
    title: 'Umberley Lots',
    use: 'listings',
    address: 'https://lots.test/all',
    headers: [{ name: 'X-Key', value: '{key}' }],
    format: 'json',
    entries: '/lots',
    fields: { domain: { at: '/name' }, currency: { in: 'answer', at: '/cur' }, kind: { in: 'fixed', at: 'auction' } },
    errors: [{ at: '/error' }, { at: '/ok', is: 'no' }],
    nothing: [404],
    ...rest,
  }),
  server: 'https://lots.test',
  isAsked: true,
  state: 'works',
  words: '7 listings in its first part.',
  at: 0,
});
const show = (given: ConnectionView | null, use: ConnectionUse = 'listings') =>
  render(
    <ConnectionForm
      view={given}
      use={use}
      example={{ domain: 'tarnhives.org', words: 'honey' }}
      venues={['Umberley Lots']}
    />,
  );
const where = (field: string) => screen.getByRole<HTMLInputElement>('textbox', { name: `Where ${field} stands` });
const askIt = () => userEvent.click(screen.getByRole('button', { name: /^Ask it/ }));
const sent = (path: string) => asked.find((one) => one.path === path)?.body;

describe('a service that is described', () => {
  it('is asked, its meaning filled in, and what stands where is picked by pressing it', async () => {
    answering(() => unread);
    show(null);
    await userEvent.type(screen.getByLabelText(/^Name/), 'Umberley Lots');
    await userEvent.type(screen.getByLabelText(/^Address/), 'https://lots.test/all');
    await askIt();
    expect(await screen.findByText(/filled in below by its names/)).toBeTruthy();
    expect(screen.getByLabelText<HTMLInputElement>(/^Entries/).value).toBe('/lots');
    expect(where('domain').value).toBe('/name');
    await userEvent.click(where('price'));
    await userEvent.click(screen.getByRole('button', { name: /lots\/0\/bid\/now/ }));
    expect(where('price').value).toBe('/bid/now');
    // what stands beside the list stands once; the next field that is empty is the one that is picked for
    await userEvent.click(screen.getByRole('button', { name: /^cur GBP/ }));
    expect(where('currency').value).toBe('^/cur');
    answering(() => ({ connection: view(), act: 3 }));
    await userEvent.click(screen.getByRole('button', { name: /^Keep this description/ }));
    await waitFor(() => expect(sentTo).toEqual(['/setup/connections/umberley']));
    expect(sent('/connections')).toMatchObject({
      use: 'listings',
      entries: '/lots',
      fields: {
        domain: { in: 'entry', at: '/name' },
        price: { in: 'entry', at: '/bid/now' },
        currency: { in: 'answer', at: '/cur' },
      },
    });
  });

  it('is changed without its key being shown or sent', async () => {
    answering(() => ({ connection: view(), act: null }));
    show(view());
    expect(screen.getByLabelText<HTMLInputElement>(/^Key/).value).toBe('');
    expect(where('kind of listing').value).toBe('= auction');
    await userEvent.clear(screen.getByLabelText(/Questions a minute/));
    await userEvent.type(screen.getByLabelText(/Questions a minute/), '12');
    await userEvent.click(screen.getByRole('button', { name: /^Keep this description/ }));
    await waitFor(() => expect(sent('/connections/umberley')).toBeTruthy());
    expect(sent('/connections/umberley')).toMatchObject({
      ...view().description,
      perMinute: 12,
      key: '',
    });
  });

  it('says at its field what makes no sense, and sends nothing', async () => {
    answering(() => ({}));
    show(null, 'registrar');
    await userEvent.type(screen.getByLabelText(/^Name/), 'Salt');
    await userEvent.type(screen.getByLabelText(/^Address/), 'https://a.test/check');
    await userEvent.type(screen.getByLabelText(/^Headers/), 'no colon');
    await userEvent.click(screen.getByRole('button', { name: /^Keep this description/ }));
    expect(await screen.findByText(/is no header/)).toBeTruthy();
    await userEvent.clear(screen.getByLabelText(/^Headers/));
    await userEvent.click(screen.getByRole('button', { name: /^Keep this description/ }));
    expect(await screen.findByText(/put {domain} into it/)).toBeTruthy();
    await userEvent.selectOptions(screen.getByLabelText('Further parts'), 'page');
    await userEvent.click(screen.getByRole('button', { name: /^Keep this description/ }));
    expect(await screen.findByText(/put {page} where/)).toBeTruthy();
    expect(asked).toEqual([]);
  });

  it('shows what was wrong with an answer', async () => {
    answering(() => ({
      tried: { ...TRIED, outcome: 'refused', problem: { field: 'key', words: 'lots.test answered 401' } },
      laidOut: null,
    }));
    show(view());
    await askIt();
    expect((await screen.findByText('lots.test answered 401')).closest('[data-tried]')).toMatchObject({
      dataset: { tried: 'refused' },
    });
  });
});

describe('services that are described', () => {
  it('stand with how they are, and are handed on and taken away', async () => {
    answering(() => ({ act: 5 }));
    render(<ConnectionsScreen connections={[view()]} />);
    const row = within(screen.getByRole('rowheader', { name: 'Umberley Lots' }).closest('tr') as HTMLElement);
    expect(row.getByText('works')).toBeTruthy();
    expect(row.getByRole('link', { name: 'Hand on Umberley Lots' }).getAttribute('href')).toBe(
      '/api/v1/connections/umberley/file',
    );
    await userEvent.click(row.getByRole('button', { name: 'Take away Umberley Lots' }));
    expect(asked.at(-1)).toMatchObject({ method: 'DELETE', path: '/connections/umberley' });
    expect(said.at(-1)?.words).toMatch(/its key forgotten/);
  });

  it('are taken in from a file; one that is none says so', async () => {
    answering(() => ({ connection: view(), act: 1 }));
    render(<ConnectionsScreen connections={[]} />);
    const field = screen.getByLabelText('Take in a description');
    const file = (value: unknown) => new File([JSON.stringify(value)], 'a.json', { type: 'application/json' });
    await userEvent.upload(field, file({ some: 'thing' }));
    await waitFor(() => expect(said.at(-1)?.words).toMatch(/a.json is no description of a service/));
    expect(asked).toEqual([]);
    await userEvent.upload(field, file({ jamLadleConnection: 1, ...view().description }));
    await waitFor(() => expect(sentTo).toEqual(['/setup/connections/umberley']));
    expect(sent('/connections')).toMatchObject({ title: 'Umberley Lots', entries: '/lots' });
  });
});

it('a place reads as it is typed', () => {
  for (const text of ['/price', '^/cur', '= auction', '.', 'a.title@href', '#'])
    expect(placeText(placeOf(text) ?? undefined)).toBe(text);
  expect(placeOf('  ')).toBeNull();
});

describe('a service that takes orders', () => {
  const shown = {
    tried: {
      ...TRIED,
      outcome: 'works',
      understood: ['Such an answer means: leading, 41 EUR.'],
      came: 'POST https://lots.test/bids',
      problem: null,
    },
    laidOut: null,
  };

  it('is shown what would be sent with an answer that was pasted, and kept as a dry run until it is taken off', async () => {
    answering(({ path }) => (path === '/connections/try' ? shown : { connection: view(), act: null }));
    show(null, 'orders');
    const type = (label: string | RegExp, text: string) =>
      userEvent.type(screen.getByRole('textbox', { name: label }), text.replace(/[{[]/g, '$&$&'));
    await type(/^Name/, 'Umberley bids');
    await type(/^Address/, 'https://lots.test/bids/{domain}');
    await userEvent.type(screen.getByRole('combobox', { name: /^Venue or registrar/ }), 'Umberley Lots');
    await type(/^Currency/, 'eur');
    await userEvent.click(screen.getByRole('checkbox', { name: 'registrations' }));
    await type(/^An answer to an order/, '{"status": "winning"}');
    await type('Where result stands', '/status');
    await userEvent.click(screen.getByRole('button', { name: /^Show what would be sent/ }));
    expect(await screen.findByText('Such an answer means: leading, 41 EUR.')).toBeTruthy();
    expect(sent('/connections/try')).toMatchObject({
      question: '{"status": "winning"}',
      connection: { use: 'orders', venue: 'Umberley Lots', kinds: ['bid', 'register'], currency: 'EUR', isDry: true },
    });
    expect(screen.queryByRole('combobox', { name: /^Further parts/ })).toBeNull();
    await userEvent.click(screen.getByRole('checkbox', { name: /^dry run/ }));
    await userEvent.click(screen.getByRole('button', { name: /^Keep this description/ }));
    await waitFor(() => expect(sent('/connections')).toMatchObject({ isDry: false }));
    expect(sent('/connections')).not.toHaveProperty('sample');
  });

  it('says at its fields what it wants', async () => {
    answering(() => shown);
    show(null, 'orders');
    await userEvent.click(screen.getByRole('button', { name: /^Show what would be sent/ }));
    expect(await screen.findByText(/the name of the venue/)).toBeTruthy();
    expect(screen.getByText(/which currency amounts are in/)).toBeTruthy();
    expect(asked).toEqual([]);
  });
});
