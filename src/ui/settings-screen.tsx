'use client';

import { useSearchParams } from 'next/navigation';
import { useEffect } from 'react';
import type { Sent } from '../contracts/calls';
import { call } from './api';
import { Form } from './forms/form';
import Link from './link';
import { useRedraw } from './server-state';
import { Acting, type KeysState } from './settings/acting';
import { Backups } from './settings/backups';
import { DamageNotice } from './settings/damage-notice';
import { DemoClock } from './settings/demo-clock';
import { DigestSettings } from './settings/digest-settings';
import { LocaleSetting } from './settings/locale-setting';
import { Policies } from './settings/policies';
import {
  AddressSettings,
  CrawlSettings,
  LookupSettings,
  MeasureSettings,
  MoneySettings,
  ServiceSettings,
  TimeSettings,
} from './settings/sections';
import { Tokens } from './settings/tokens';
import { type SettingsView, TypedSettings, typedSettings } from './settings/typed-settings';
import { undoToast } from './undo';

/** Comes to the setting that was looked for by its name. */
function useFoundSetting(): void {
  const wanted = useSearchParams().get('find');
  useEffect(() => {
    if (!wanted) return;
    const label = [...document.querySelectorAll('label')].find((one) => one.textContent?.startsWith(wanted));
    label?.scrollIntoView({ block: 'center' });
    label?.control?.focus();
  }, [wanted]);
}

/** How the product behaves towards the outside. A change counts for work that starts after it. */
export function SettingsScreen({
  settings,
  mode,
  keys,
  damage,
  now,
  digest,
  indexes,
  signedIn,
  locale,
}: {
  settings: SettingsView;
  keys: KeysState;
  /** What is known to be damaged in the database. */
  damage: { at: number; found: string[] } | null;
  now: number;
  mode: 'real' | 'demo';
  /** The last digest. */
  digest: { file: string | null; problem: string | null } | null;
  /** Names of link indexes, one of which may be sorted by. */
  indexes: string[];
  /** Who has signed in with a password; null: nobody. */
  signedIn: string | null;
  /** What was chosen in this browser for numbers and dates; empty: as it has them. */
  locale: string;
}) {
  const redraw = useRedraw();
  useFoundSetting();
  const save = async (body: Sent<'PATCH /settings'>) => {
    const { act } = await call('PATCH /settings', { body });
    undoToast('Settings are saved; they count for work that starts from now on', act, redraw);
    redraw();
  };
  return (
    <div className="mx-auto grid max-w-[1240px] grid-cols-1 lg:grid-cols-[1fr_1fr] gap-x-12 px-6 py-6">
      <div className="order-2 flex min-w-0 flex-col gap-7">
        {signedIn !== null && (
          <form method="post" action="/sign-out" className="flex flex-wrap items-baseline gap-3">
            <span>Signed in as {signedIn}</span>
            <button type="submit" className="quiet">
              Sign out
            </button>
          </form>
        )}
        {mode === 'demo' && <DemoClock />}
        <Acting settings={settings} keys={keys} />
        <Tokens />
        <Policies own={settings.policies} />
        <DamageNotice damage={damage} now={now} />
        <Backups kept={settings.copiesKept} />
      </div>
      <Form
        schema={TypedSettings}
        values={typedSettings(settings)}
        label="Save the settings"
        busyLabel="Saving"
        className="min-w-0"
        act={save}
      >
        <div>
          <h1>Settings</h1>
          <p className="small">
            {mode === 'demo'
              ? 'Demo: every server is a stand-in on this machine, and the clock is that of the made-up world.'
              : 'Real mode: questions go to real servers.'}{' '}
            <Link className="set" href="/setup">
              What works, and what it takes
            </Link>
          </p>
        </div>
        <MoneySettings />
        <TimeSettings />
        <LocaleSetting chosen={locale} />
        <DigestSettings hasMailServer={settings.smtpUrl !== ''} digest={digest} />
        <CrawlSettings />
        <LookupSettings />
        <ServiceSettings />
        <MeasureSettings indexes={indexes} />
        <AddressSettings />
      </Form>
    </div>
  );
}
