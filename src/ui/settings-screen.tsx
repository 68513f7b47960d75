'use client';

import { useRouter, useSearchParams } from 'next/navigation';
import { useEffect } from 'react';
import { call } from './api';
import { ActionForm, wordsOf } from './fields';
import { Acting, type KeysState } from './settings/acting';
import { Backups } from './settings/backups';
import { DamageNotice } from './settings/damage-notice';
import { DemoClock } from './settings/demo-clock';
import { DigestSettings, minuteOf } from './settings/digest-settings';
import { pacesOf, pricesOf, ratesOf } from './settings/lines';
import { Policies } from './settings/policies';
import {
  AddressSettings,
  CrawlSettings,
  LookupSettings,
  MeasureSettings,
  MoneySettings,
  ServiceSettings,
  type SettingsView,
  TimeSettings,
} from './settings/sections';
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

/** What the form says. @throws on lines that cannot be read. */
function changeOf(form: FormData) {
  return {
    userAgent: String(form.get('userAgent')),
    crawlDelayMs: Number(form.get('crawlDelayMs')),
    registryIntervalMs: Number(form.get('registryIntervalMs')),
    registrar: String(form.get('registrar')).trim(),
    markRegister: String(form.get('markRegister')).trim(),
    countRule: String(form.get('countRule')),
    countFactor: Number(form.get('countFactor')),
    measureBudget: Number(form.get('measureBudget')),
    measureGate: {
      leastReferring: Number(form.get('leastReferring')),
      mostSpamRisk: Number(form.get('mostSpamRisk')),
    },
    asksEndings: form.get('asksEndings') === 'on',
    paces: pacesOf(String(form.get('paces'))),
    timeZone: String(form.get('timeZone')).trim(),
    reminderMinutes: Number(form.get('reminderMinutes')),
    crawlMemoryMb: Number(form.get('crawlMemoryMb')),
    diskFloorMb: Number(form.get('diskFloorMb')),
    allowedPrivate: wordsOf(form.get('allowedPrivate')),
    resolvers: wordsOf(form.get('resolvers')),
    rdapBootstrap: String(form.get('rdapBootstrap')),
    archiveTimeMap: String(form.get('archiveTimeMap')),
    searchEngine: String(form.get('searchEngine')),
    digestMinute: minuteOf(String(form.get('digestTime'))),
    digestEvents: form.get('digestEvents') === 'on',
    digestFrom: String(form.get('digestFrom')),
    digestTo: String(form.get('digestTo')),
    smtpUrl: String(form.get('smtpUrl')).trim(),
    smtpPassword: String(form.get('smtpPassword')),
    currency: String(form.get('currency')).trim().toUpperCase(),
    rates: ratesOf(String(form.get('rates'))),
    registrationPrices: pricesOf(String(form.get('registrationPrices'))),
  };
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
}) {
  const router = useRouter();
  useFoundSetting();
  const save = async (form: FormData) => {
    const { act } = await call('PATCH /settings', { body: changeOf(form) });
    undoToast('Settings are saved; they count for work that starts from now on', act, () => router.refresh());
    router.refresh();
  };
  return (
    <div className="mx-auto grid max-w-[1240px] grid-cols-1 lg:grid-cols-[1fr_1fr] gap-x-12 px-6 py-6">
      <div className="order-2 flex min-w-0 flex-col gap-7">
        {mode === 'demo' && <DemoClock />}
        <Acting key={JSON.stringify(settings.accounts)} settings={settings} keys={keys} />
        <Policies own={settings.policies} />
        <DamageNotice damage={damage} now={now} />
        <Backups kept={settings.copiesKept} />
      </div>
      <ActionForm
        key={JSON.stringify(settings)}
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
              : 'Real mode: questions go to real servers.'}
          </p>
        </div>
        <MoneySettings settings={settings} />
        <TimeSettings settings={settings} />
        <DigestSettings settings={settings} digest={digest} />
        <CrawlSettings settings={settings} />
        <LookupSettings settings={settings} />
        <ServiceSettings settings={settings} />
        <MeasureSettings settings={settings} indexes={indexes} />
        <AddressSettings settings={settings} />
      </ActionForm>
    </div>
  );
}
