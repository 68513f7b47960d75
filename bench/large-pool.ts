import { type ChildProcess, spawn } from 'node:child_process';
import { existsSync, mkdtempSync, rmSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { pathToFileURL } from 'node:url';
import { accessKey } from '../src/store/base/access-key';
import { openStore, write } from '../src/store/base/database';
import { addSource } from '../src/store/sources/sources';
import { IS_SMALL } from './figure';
import { benchRows, ROWS } from './pool-query';

/** A data folder with a pool of millions, as if a list had been read and everything measured. */
export async function largePool(): Promise<string> {
  const folder = mkdtempSync(join(tmpdir(), 'bench-large-pool-'));
  const store = await openStore(folder, { migrate: true });
  const source = addSource(store, 'list', 'A long list', {});
  const domain = store.raw.prepare(
    `INSERT INTO domains (id, name, ending, length, hyphens, digits, in_pool, added_at, phase, registered_at, backlinks,
     referring_domains, strength, trust, spam_risk, links_at) VALUES (?, ?, 'org', ?, 0, 0, 1, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
  );
  const sighting = store.raw.prepare(
    `INSERT INTO sightings (domain_id, source_id, at, line, said) VALUES (?, ${source}, ?, ?, '{}')`,
  );
  const at = store.now();
  write(store, () => {
    for (const row of benchRows()) {
      const registered = row.age === null ? null : row.age * 1000;
      domain.run(
        row.id,
        row.name,
        row.length,
        at,
        row.phase,
        registered,
        row.backlinks,
        row.referringDomains,
        row.strength,
        row.trust,
        row.spamRisk,
        at,
      );
      sighting.run(row.id, at, row.id);
      if (row.id >= ROWS) break;
    }
  });
  await store.close();
  return folder;
}

export interface Product {
  url: string;
  /** With the key of its data folder, which it asks for. */
  headers: Record<string, string>;
  /** ms from its start until the first rows were in the pool's page. */
  firstRowsMs: number;
  stop(): Promise<void>;
}

/** Starts the production build on a data folder. @throws when its pool shows no rows within the time. */
export async function startProduct(folder: string, withinMs = IS_SMALL ? 60_000 : 180_000): Promise<Product> {
  const { build } = await import(pathToFileURL(resolve('scripts/prepare.mjs')).href);
  build();
  const port = await freePort();
  const url = `http://127.0.0.1:${port}`;
  const headers = { authorization: `Bearer ${accessKey(folder)}` };
  const started = performance.now();
  const child: ChildProcess = spawn(process.execPath, ['scripts/start.mjs'], {
    env: { ...process.env, JAM_LADLE_DATA: folder, PORT: String(port) },
    stdio: ['ignore', 'ignore', 'inherit'],
  });
  const stop = () =>
    new Promise<void>((done) => {
      child.once('exit', () => done());
      child.kill('SIGTERM');
    });
  for (;;) {
    const html = await fetch(`${url}/pool`, { headers })
      .then((answer) => answer.text())
      .catch(() => '');
    if (html.includes('data-domain=')) break;
    if (performance.now() - started > withinMs) {
      await stop();
      throw new Error(`the pool showed no rows within ${withinMs / 1000} s; it showed: ${html.slice(0, 300)}`);
    }
    await new Promise((done) => setTimeout(done, 25));
  }
  return { url, headers, firstRowsMs: performance.now() - started, stop };
}

/** Until the engine has split all names and written its snapshot: then nothing is at work by itself. In its small form nobody waits for that. */
export async function untilQuiet(folder: string): Promise<void> {
  if (IS_SMALL) return;
  for (let i = 0; i < 200 && !existsSync(join(folder, 'pool.snapshot')); i++)
    await new Promise((done) => setTimeout(done, 1000));
}

export function forget(folder: string): void {
  rmSync(folder, { recursive: true, force: true });
}

function freePort(): Promise<number> {
  return new Promise((done) => {
    const server = createServer().listen(0, '127.0.0.1', () => {
      const { port } = server.address() as AddressInfo;
      server.close(() => done(port));
    });
  });
}
