'use client';

import { useFieldArray, useWatch } from 'react-hook-form';
import type { z } from 'zod';
import type { Sent } from '../../contracts/calls';
import type { VenueAccount } from '../../core/settings/settings';
import { money } from '../../core/wording/format';
import { call } from '../api';
import { AmountLine, BareField, ChoiceField, TickField } from '../forms/field';
import { Form } from '../forms/form';
import { useRedraw } from '../server-state';
import { undoToast } from '../undo';
import { TypedActing } from './typed-settings';

export interface ActingSettings {
  isDryRun: boolean;
  dayLimitMinor: number | null;
  currency: string;
  registrarAccount: string;
  /** The key is never sent here; an empty one stays what it is. */
  accounts: VenueAccount[];
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

const NEW = { venue: '', address: '', key: '', currency: 'EUR', contacts: '', nameServers: '', certificate: '' };
const ACCOUNT_FIELDS = [
  ['venue', 'Venue', 'w-36'],
  ['address', 'Address', 'min-w-0 grow'],
  ['key', 'Key', 'w-24'],
  ['currency', 'Currency', 'w-14'],
] as const;
/** What a registration by EPP comes with. */
const EPP_FIELDS = [
  ['contacts', 'Contacts', 'w-56', 'one handle, or each'],
  ['nameServers', 'Name servers', 'min-w-0 grow', 'ns1.example.org …'],
  ['certificate', 'Certificate', 'basis-full', 'a PEM file on this machine, where the server wants one'],
] as const;

/** An account as it is typed. */
const typed = (account: VenueAccount) => ({
  ...account,
  contacts: account.contacts ?? '',
  nameServers: (account.nameServers ?? []).join(' '),
  certificate: account.certificate ?? '',
});

/** What may be spent, where orders go, and whether they are sent at all. */
export function Acting({ settings, keys }: { settings: ActingSettings; keys: KeysState }) {
  const redraw = useRedraw();
  const save = async (body: Sent<'PATCH /settings'>) => {
    const { act } = await call('PATCH /settings', { body });
    undoToast(body.isDryRun ? 'Orders are written down, and nothing is sent' : 'Orders are sent', act, redraw);
    redraw();
  };
  return (
    <section aria-labelledby="acting">
      <h2 id="acting">Acting</h2>
      <Form
        schema={TypedActing}
        values={{
          isDryRun: settings.isDryRun,
          dayLimitMinor: money(settings.dayLimitMinor, null),
          registrarAccount: settings.registrarAccount,
          accounts: settings.accounts.map(typed),
        }}
        label="Save how orders go"
        busyLabel="Saving"
        isQuiet
        act={save}
      >
        <TickField name="isDryRun" hint="orders are written down with all they would send, and nothing is sent">
          Dry run
        </TickField>
        <AmountLine
          name="dayLimitMinor"
          label={`Most that the orders of a day may cost, ${settings.currency}`}
          hint="over all briefs, UTC; empty for no limit"
          className="w-32"
        />
        <Accounts kept={settings.accounts} keys={keys} />
      </Form>
    </section>
  );
}

type Accounts = Pick<z.input<typeof TypedActing>, 'accounts'>;

/** Where orders go, by venue, and which of them registers free names. */
function Accounts({ kept, keys }: { kept: ActingSettings['accounts']; keys: KeysState }) {
  const { fields, append, remove } = useFieldArray<Accounts>({ name: 'accounts' });
  const accounts = useWatch<Accounts, 'accounts'>({ name: 'accounts' });
  const isEpp = (n: number) => /^epp:/i.test(accounts[n]?.address ?? '');
  // a key goes to the address that it was entered for, and to no other
  const keyHint = (n: number) =>
    kept.some(({ venue, address }) => venue === accounts[n]?.venue && address === accounts[n]?.address)
      ? 'kept'
      : isEpp(n)
        ? 'Password'
        : 'Key';
  return (
    <>
      <fieldset>
        <legend className="font-semibold">
          Accounts{' '}
          <span className="small ml-2">
            where orders go, by venue; without one you do it by hand. A registrar by EPP: epp://login@host:700
          </span>
        </legend>
        {fields.map(({ id }, n) => (
          <div key={id} className="mt-1 flex flex-wrap gap-1.5">
            {ACCOUNT_FIELDS.map(([key, label, width]) => (
              <BareField
                key={key}
                name={`accounts.${n}.${key}`}
                className={width}
                aria-label={`${label} of account ${n + 1}`}
                placeholder={key === 'key' ? keyHint(n) : label}
                type={key === 'key' ? 'password' : 'text'}
                autoComplete="off"
              />
            ))}
            <button
              type="button"
              className="quiet"
              aria-label={`Take away the account at ${accounts[n]?.venue}`}
              onClick={() => remove(n)}
            >
              ×
            </button>
            {isEpp(n) && (
              <div className="flex basis-full flex-wrap gap-1.5 pl-6">
                {EPP_FIELDS.map(([key, label, width, example]) => (
                  <BareField
                    key={key}
                    name={`accounts.${n}.${key}`}
                    className={width}
                    aria-label={`${label} of account ${n + 1}`}
                    placeholder={`${label}: ${example}`}
                    autoComplete="off"
                  />
                ))}
              </div>
            )}
          </div>
        ))}
        <button type="button" className="set mt-1.5" onClick={() => append(NEW)}>
          add an account
        </button>
        <KeyLine keys={keys} />
      </fieldset>
      <ChoiceField
        name="registrarAccount"
        label="Free names are registered at"
        className="w-64"
        options={[
          ['', 'a registrar, by hand'],
          ...accounts.filter(({ venue }) => venue.trim() !== '').map(({ venue }) => [venue, venue] as const),
        ]}
      />
    </>
  );
}
