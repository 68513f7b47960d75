import { z } from 'zod';
import type { Rates } from '../../core/listings/rates';
import { ratesOf, Settings } from '../../core/settings/settings';
import { type Store, write } from './database';
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

/** Settings: defaults, then the configuration file, then what the person changed. */
export function readSettings(store: Store): Settings {
  const changed = readKept(store, 'settings', z.looseObject({}));
  return Settings.parse({ ...store.config.settings, ...changed });
}

/** The user's currency and what others are worth in it. */
export function readRates(store: Store): Rates {
  return ratesOf(readSettings(store));
}

/** @throws ZodError on values that make no sense; nothing is changed then. */
export function changeSettings(store: Store, change: Partial<Settings>): Settings {
  return write(store, () => {
    const settings = Settings.parse({ ...readSettings(store), ...change });
    keepValue(store, 'settings', settings);
    return settings;
  });
}
