import { copyFileSync, mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { openStore, type Store } from './database';

let template: Promise<string> | null = null;

/** A store without data in a folder of its own, for a test. All tables are made once a process and copied. */
export async function freshStore(config: Partial<Store['config']> = {}): Promise<Store> {
  template ??= makeTemplate();
  const folder = mkdtempSync(join(tmpdir(), 'store-'));
  copyFileSync(await template, join(folder, 'jam-ladle.sqlite'));
  const store = await openStore(folder, { migrate: false });
  Object.assign(store.config, config);
  return store;
}

async function makeTemplate(): Promise<string> {
  const folder = mkdtempSync(join(tmpdir(), 'template-'));
  await (await openStore(folder, { migrate: true })).close();
  return join(folder, 'jam-ladle.sqlite');
}
