'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { money } from '../../core/wording/format';
import { call } from '../api';
import { ActionForm, Labelled } from '../fields';
import { readBid } from '../shortlist/stages';
import { undoToast } from '../undo';

export interface ActingSettings {
  isDryRun: boolean;
  dayLimitMinor: number | null;
  currency: string;
  registrarAccount: string;
  /** The key is never sent here; an empty one stays what it is. */
  accounts: { venue: string; address: string; key: string; currency: string }[];
}

/** How keys stand on disk: none yet, to be read by their owner, under a passphrase, or under one that was not given at the start. */
export type KeysState = 'none' | 'plain' | 'sealed' | 'closed';

const START = <code className="whitespace-nowrap">npm start -- --passphrase</code>;

/** Where keys are, and how they are kept. */
function KeyLine({ keys }: { keys: KeysState }) {
  if (keys === 'closed')
    return (
      <p role="alert" className="mt-1.5 bg-quince px-3 py-2">
        The keys are sealed, and the passphrase was not given: nothing is sent until you start with it, by {START}.
      </p>
    );
  return (
    <p className="small mt-1.5">
      Keys stand in <code>keys.json</code> of the data folder, apart from settings and copies
      {keys === 'sealed' ? ', sealed by your passphrase.' : <>, for you alone to read; {START} seals them.</>}
    </p>
  );
}

const NEW = { venue: '', address: '', key: '', currency: 'EUR' };

/** What may be spent, where orders go, and whether they are sent at all. */
export function Acting({ settings, keys }: { settings: ActingSettings; keys: KeysState }) {
  const router = useRouter();
  const [accounts, setAccounts] = useState(settings.accounts);
  const set = (n: number, part: Partial<(typeof accounts)[number]>) =>
    setAccounts((before) => before.map((account, at) => (at === n ? { ...account, ...part } : account)));
  const save = async (form: FormData) => {
    const dayLimitMinor = readBid(String(form.get('dayLimit')));
    if (dayLimitMinor === undefined) throw new Error('Write the limit as 500 or 500.50, or leave it empty for none.');
    const body = {
      isDryRun: form.get('isDryRun') === 'on',
      dayLimitMinor,
      registrarAccount: String(form.get('registrarAccount')),
      accounts: accounts.filter(({ venue, address }) => venue.trim() !== '' || address.trim() !== ''),
    };
    const { act } = await call('PATCH /settings', { body });
    undoToast(body.isDryRun ? 'Orders are written down, and nothing is sent' : 'Orders are sent', act, router.refresh);
    router.refresh();
  };
  // a key goes to the address that it was entered for, and to no other
  const keyHint = ({ venue, address }: (typeof accounts)[number]) =>
    settings.accounts.some((account) => account.venue === venue && account.address === address) ? 'kept' : 'Key';
  const field = (n: number, key: keyof typeof NEW, label: string, width: string) => (
    <input
      className={`field ${width}`}
      aria-label={`${label} of account ${n + 1}`}
      placeholder={key === 'key' ? keyHint(accounts[n]) : label}
      type={key === 'key' ? 'password' : 'text'}
      autoComplete="off"
      value={accounts[n][key]}
      onChange={(event) => set(n, { [key]: event.target.value })}
    />
  );
  return (
    <section aria-labelledby="acting">
      <h2 id="acting">Acting</h2>
      <ActionForm label="Save how orders go" busyLabel="Saving" isQuiet act={save}>
        <label className="flex items-baseline gap-2">
          <input type="checkbox" name="isDryRun" defaultChecked={settings.isDryRun} />
          <span>
            Dry run <span className="small">orders are written down with all they would send, and nothing is sent</span>
          </span>
        </label>
        <Labelled
          label={`Most that the orders of a day may cost, ${settings.currency}`}
          hint="over all briefs, UTC; empty for no limit"
        >
          <input
            name="dayLimit"
            className="field w-32 text-right"
            inputMode="decimal"
            defaultValue={money(settings.dayLimitMinor, null)}
          />
        </Labelled>
        <fieldset>
          <legend className="font-semibold">
            Accounts <span className="small ml-2">where orders go, by venue; without one you do it by hand</span>
          </legend>
          {accounts.map((account, n) => (
            <div key={n} className="mt-1 flex flex-wrap gap-1.5">
              {field(n, 'venue', 'Venue', 'w-36')}
              {field(n, 'address', 'Address', 'min-w-0 grow')}
              {field(n, 'key', 'Key', 'w-20')}
              {field(n, 'currency', 'Currency', 'w-14')}
              <button
                type="button"
                className="quiet"
                aria-label={`Take away the account at ${account.venue}`}
                onClick={() => setAccounts((before) => before.filter((_, at) => at !== n))}
              >
                ×
              </button>
            </div>
          ))}
          <button type="button" className="set mt-1.5" onClick={() => setAccounts((before) => [...before, { ...NEW }])}>
            add an account
          </button>
          <KeyLine keys={keys} />
        </fieldset>
        <Labelled label="Free names are registered at">
          <select name="registrarAccount" className="field w-64" defaultValue={settings.registrarAccount}>
            <option value="">a registrar, by hand</option>
            {accounts
              .filter(({ venue }) => venue.trim() !== '')
              .map(({ venue }) => (
                <option key={venue}>{venue}</option>
              ))}
          </select>
        </Labelled>
      </ActionForm>
    </section>
  );
}
