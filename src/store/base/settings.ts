import { z } from 'zod';
import { Connection, originOf } from '../../core/connections/connection';
import type { Rates } from '../../core/listings/rates';
import { mailServerOf, ratesOf, Settings, VenueAccount, withKeptKeys, withoutKeys } from '../../core/settings/settings';
import { takeKeysOut } from './config';
import { type Store, write } from './database';
import { type Keys, readKeys, writeKeys } from './key-file';
import { knex, prepared, run } from './query';

const VALUE = prepared(({ key }: { key: string }) => knex('settings').where('key', key).pluck('value'));

/** What is kept under a key, as text; null: nothing yet. */
function textOf(store: Store, key: string): string | null {
  return VALUE.first(store, { key }) ?? null;
}

/** What is kept once, under a key: JSON that `schema` reads. null: nothing yet. @throws ZodError when something else stands there. */
export function readKept<S extends z.ZodType>(store: Store, key: string, schema: S): z.infer<S> | null {
  const text = textOf(store, key);
  return text === null ? null : schema.parse(JSON.parse(text));
}

/** Keeps a value under a key, instead of the one before. */
export function keepValue(store: Store, key: string, value: object): void {
  write(store, () =>
    run(
      store,
      knex('settings')
        .insert({ key, value: JSON.stringify(value) })
        .onConflict('key')
        .merge(),
    ),
  );
}

/** What the person changed of the settings, as it is kept: tells whether anything has changed since. */
export function settingsText(store: Store): string {
  return textOf(store, 'settings') ?? '';
}

interface Reckoned {
  text: string | null;
  config: object;
  keys: Keys | null;
  settings: Settings;
}
/** Asked for with every request: reckoned anew when what they are made of is another. */
const reckoned = new WeakMap<Store, Reckoned>();

/** Settings: defaults, then the configuration file, then what the person changed, with the keys that their own file has. */
export function readSettings(store: Store): Settings {
  const text = textOf(store, 'settings');
  const { settings: config } = store.config;
  const keys = readKeys(store.folder);
  const before = reckoned.get(store);
  if (before && before.text === text && before.config === config && before.keys === keys) return { ...before.settings };
  const changed = text === null ? {} : z.looseObject({}).parse(JSON.parse(text));
  const settings = withKeys(Settings.parse({ ...config, ...changed }), keys);
  reckoned.set(store, { text, config, keys, settings });
  return { ...settings };
}

function withKeys(settings: Settings, keys: Keys | null): Settings {
  if (keys === null) return settings;
  return {
    ...settings,
    accounts: settings.accounts.map((account) => {
      const kept = keys.accounts[account.venue];
      return account.key === '' && kept?.address === account.address ? { ...account, key: kept.key } : account;
    }),
    connections: settings.connections.map((one) => {
      const kept = keys.connections[one.id];
      return kept?.origin === originOf(one)
        ? { ...one, key: one.key || kept.key, password: one.password || kept.password }
        : one;
    }),
    webhookSecret: settings.webhookSecret || (keys.webhook?.url === settings.webhookUrl ? keys.webhook.secret : ''),
    smtpPassword: settings.smtpPassword || (keys.mail?.server === settings.smtpUrl ? keys.mail.password : ''),
  };
}

/** The user's currency and what others are worth in it. */
export function readRates(store: Store): Rates {
  return ratesOf(readSettings(store));
}

/** Settings as they would be with a change, keys that it leaves empty as they are kept. @throws ZodError on values that make no sense. */
export function settingsWith(store: Store, change: Partial<Settings>): Settings {
  const before = readSettings(store);
  return Settings.parse({ ...before, ...withKeptKeys(change, before) });
}

/**
 * Keeps what differs from what holds by now: what was never changed follows its default. Keys go into their own file; one that is left
 * empty stays what it is, as long as its address does.
 *
 * @throws ZodError on values that make no sense; nothing is changed then.
 */
export function changeSettings(store: Store, change: Partial<Settings>): Settings {
  return write(store, () => {
    const before = readSettings(store);
    const after = settingsWith(store, change);
    const changed: Record<string, unknown> = { ...readKept(store, 'settings', z.looseObject({})) };
    const told = { before: withoutKeys(before), after: withoutKeys(after) };
    for (const field of Object.keys(change) as (keyof Settings)[])
      if (JSON.stringify(told.before[field]) !== JSON.stringify(told.after[field])) changed[field] = told.after[field];
    keepValue(store, 'settings', changed);
    keepKeys(store.folder, after);
    return after;
  });
}

/** Settings as they are kept, as far as keys may stand among them. */
const KeptKeys = z.looseObject({
  accounts: z.array(VenueAccount).optional(),
  connections: z.array(Connection).optional(),
  smtpUrl: z.string().optional(),
  smtpPassword: z.string().optional(),
  webhookSecret: z.string().optional(),
});

/**
 * Moves keys that stand in the configuration file, or among the settings where they were kept once, into their own file. Nothing of them is
 * left in the database. Keys that are sealed, without their passphrase, leave all as it is.
 */
export function gatherKeys(store: Store): void {
  const kept = readKept(store, 'settings', KeptKeys);
  if ((!hasKeys(store.config.settings) && !(kept && hasKeys(kept))) || readKeys(store.folder) === null) return;
  const { accounts, connections, smtpUrl, smtpPassword, webhookUrl, webhookSecret } = readSettings(store);
  const { server, password } = mailServerOf(smtpUrl);
  store.raw.pragma('secure_delete = ON');
  write(store, () => {
    keepKeys(store.folder, {
      accounts,
      connections,
      smtpUrl: server,
      smtpPassword: password || smtpPassword,
      webhookUrl,
      webhookSecret,
    });
    if (kept) keepValue(store, 'settings', withoutKeys(kept));
  });
  store.raw.pragma('secure_delete = OFF');
  store.raw.pragma('wal_checkpoint(TRUNCATE)');
  store.config.settings = withoutKeys(store.config.settings);
  takeKeysOut(store.folder);
}

function hasKeys(settings: Partial<Settings>): boolean {
  return JSON.stringify(settings) !== JSON.stringify(withoutKeys(settings));
}

function keepKeys(
  folder: string,
  settings: Pick<Settings, 'accounts' | 'connections' | 'smtpUrl' | 'smtpPassword' | 'webhookUrl' | 'webhookSecret'>,
): void {
  const { accounts, connections, smtpUrl, smtpPassword, webhookUrl, webhookSecret } = settings;
  const ofConnections = Object.fromEntries(
    connections
      .filter(({ key, password }) => key !== '' || password !== '')
      .map((one) => [one.id, { origin: originOf(one), key: one.key, password: one.password }]),
  );
  const keys = Object.fromEntries(
    accounts.filter(({ key }) => key !== '').map(({ venue, address, key }) => [venue, { address, key }]),
  );
  const mail = smtpPassword === '' ? null : { server: smtpUrl, password: smtpPassword };
  // those that are sealed stay, as long as none is to be added to them
  const isNone = [keys, ofConnections].every((one) => Object.keys(one).length === 0);
  const webhook = webhookSecret === '' ? null : { url: webhookUrl, secret: webhookSecret };
  const before = readKeys(folder);
  if (mail === null && webhook === null && isNone && before === null) return;
  writeKeys(folder, { accounts: keys, connections: ofConnections, mail, mailboxes: before?.mailboxes ?? {}, webhook });
}
