import { render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it } from 'vitest';
import { Settings } from '../core/settings/settings';
import { SETTING_LABELS } from './settings/labels';
import { SettingsScreen } from './settings-screen';
import { address, answering, asked, said } from './testing';

const settings = Settings.parse({});
const show = (of = settings, digest: { file: string | null; problem: string | null } | null = null) =>
  render(
    <SettingsScreen
      signedIn={null}
      locale=""
      settings={of}
      mode="real"
      keys="plain"
      damage={null}
      now={0}
      digest={digest}
      indexes={['Linkwell']}
    />,
  );
const changed = () => asked.find(({ method }) => method === 'PATCH');
const save = () => userEvent.click(screen.getByRole('button', { name: /Save the settings/ }));
const server = () =>
  answering(({ path, method }) => {
    if (path === '/backups') return { backups: [] };
    if (path === '/digest') return { file: 'digest-1.html', problem: null };
    return method === 'PATCH' ? { ...settings, act: 3 } : {};
  });

describe('the settings', () => {
  it('have a field under each name that the search for settings knows', () => {
    server();
    show();
    const labels = [...document.querySelectorAll('label')].map(({ textContent }) => textContent ?? '');
    for (const label of SETTING_LABELS)
      expect(
        labels.some((text) => text.startsWith(label)),
        label,
      ).toBe(true);
    expect(new Set(SETTING_LABELS).size).toBe(SETTING_LABELS.length);
  });

  it('are saved as they stand, and read as the server reads them', async () => {
    server();
    show({ ...settings, rates: { GBP: 1.15 }, digestMinute: 390 });
    await userEvent.clear(screen.getByLabelText(/^Pause per host/));
    await userEvent.type(screen.getByLabelText(/^Pause per host/), '750');
    await userEvent.type(screen.getByLabelText(/^DNS resolvers/), '9.9.9.9:53; 1.1.1.1:53');
    await save();
    await waitFor(() => expect(changed()).toBeDefined());
    const body = changed()?.body as Record<string, unknown>;
    expect(body).toMatchObject({
      crawlDelayMs: 750,
      resolvers: ['9.9.9.9:53', '1.1.1.1:53'],
      rates: { GBP: 1.15 },
      digestMinute: 390,
    });
    // nothing else than what was changed is another than before
    expect(Settings.parse({ ...settings, ...body })).toEqual({
      ...settings,
      rates: { GBP: 1.15 },
      digestMinute: 390,
      crawlDelayMs: 750,
      resolvers: ['9.9.9.9:53', '1.1.1.1:53'],
    });
    await waitFor(() => expect(said[0]?.undo).toBeDefined());
  });

  it('are not sent with a line that cannot be read; it is named', async () => {
    server();
    show();
    await userEvent.type(screen.getByLabelText(/^Rates/), 'a pound is more');
    await save();
    expect((await screen.findByText(/is no rate/)).textContent).toContain('"a pound is more"');
    expect(changed()).toBeUndefined();
  });

  it('come to the field that was looked for', () => {
    server();
    address.search = 'find=Registrar';
    show();
    expect((document.activeElement as HTMLInputElement).name).toBe('registrar');
  });

  it('tell what was wrong with the last digest, and have one made', async () => {
    server();
    show(settings, { file: null, problem: 'The mail server refused it.' });
    expect(screen.getByText('The mail server refused it.')).toBeTruthy();
    await userEvent.click(screen.getByText('Make one now'));
    await waitFor(() => expect(said[0]?.words).toBe('Written to outbox/digest-1.html of the data folder'));
  });
});

describe('acting', () => {
  const accounts = [{ venue: 'Saltmarch Exchange', address: 'http://127.0.0.1:4100/desk', key: '', currency: 'EUR' }];
  const limit = () => screen.getByLabelText(/limit/i);

  it('keeps its accounts and a limit in minor units; nonsense is refused', async () => {
    server();
    const { container } = show({ ...settings, accounts });
    const form = [...container.querySelectorAll('form')].find((one) => one.contains(limit())) as HTMLFormElement;
    await userEvent.clear(limit());
    await userEvent.type(limit(), 'much');
    await userEvent.click(form.querySelector('button[type=submit]') as HTMLButtonElement);
    expect(await screen.findByText(/The limit is no amount/)).toBeTruthy();
    await userEvent.clear(limit());
    await userEvent.type(limit(), '250.50');
    await userEvent.click(form.querySelector('button[type=submit]') as HTMLButtonElement);
    await waitFor(() => expect(changed()?.body).toMatchObject({ dayLimitMinor: 25_050, accounts }));
  });

  it('asks for contacts, name servers and a certificate where an account is reached by EPP, and only there', async () => {
    server();
    const { container } = show({ ...settings, accounts });
    expect(screen.queryByLabelText('Contacts of account 1')).toBeNull();
    const address = screen.getByLabelText('Address of account 1');
    await userEvent.clear(address);
    await userEvent.type(address, 'epp://coombe-01@epp.wexcombe.net');
    await userEvent.type(screen.getByLabelText('Contacts of account 1'), 'H1 H2');
    await userEvent.type(screen.getByLabelText('Name servers of account 1'), 'ns1.wexcombe.net, ns2.wexcombe.net');
    const form = [...container.querySelectorAll('form')].find((one) => one.contains(limit())) as HTMLFormElement;
    await userEvent.click(form.querySelector('button[type=submit]') as HTMLButtonElement);
    expect(await screen.findByText(/one handle, or registrant=H1/)).toBeTruthy();
    await userEvent.clear(screen.getByLabelText('Contacts of account 1'));
    await userEvent.type(screen.getByLabelText('Contacts of account 1'), 'CMB-1');
    await userEvent.click(form.querySelector('button[type=submit]') as HTMLButtonElement);
    const account = {
      address: 'epp://coombe-01@epp.wexcombe.net',
      contacts: 'CMB-1',
      nameServers: ['ns1.wexcombe.net', 'ns2.wexcombe.net'],
    };
    await waitFor(() => expect(changed()?.body).toMatchObject({ accounts: [account] }));
  });
});
