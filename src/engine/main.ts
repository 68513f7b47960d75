import { randomBytes } from 'node:crypto';
import { renameSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { ensureBrief } from '../store/briefs';
import { dataFolder } from '../store/config';
import { openStore } from '../store/database';
import { Clock } from './clock';
import { openLog } from './log';
import { PoolHost } from './pool-host';
import type { EngineAddress } from './protocol';
import { JobRunner } from './runner';
import { EngineServer } from './server';

async function main(): Promise<void> {
  const folder = dataFolder();
  const log = openLog(folder, 'engine');
  const store = await openStore(folder, { migrate: true });
  ensureBrief(store);
  const pool = new PoolHost(store);
  const runner = new JobRunner(store, log);
  const token = randomBytes(24).toString('hex');
  const server = new EngineServer(store, pool, runner, token, log);

  const refresh = (ids: Iterable<number>, source: number | null) => {
    pool.refresh(ids, source);
    server.announce('pool', { type: 'pool', version: pool.version, size: pool.size });
  };
  runner.on('changed', refresh);
  runner.on('added', ({ batch, ids, isNew, source }) => {
    pool.add(batch, ids, isNew, source);
    server.announce('pool', { type: 'pool', version: pool.version, size: pool.size });
  });
  runner.on('removed', ({ ids, source, isSourceGone }) => {
    pool.remove(ids, source, isSourceGone);
    server.announce('pool', { type: 'pool', version: pool.version, size: pool.size });
  });
  runner.on('crashed', () => pool.rebuild());

  const port = await server.listen();
  pool.rebuild();
  server.state = 'ready';
  const address: EngineAddress = { port, token, pid: process.pid };
  const path = join(folder, 'engine.json');
  writeFileSync(`${path}.new`, JSON.stringify(address), { mode: 0o600 });
  renameSync(`${path}.new`, path);
  runner.start();
  const clock = new Clock(store, runner, (ids) => refresh(ids, null), log);
  clock.start();
  log.info({ port, domains: pool.size }, 'engine is ready');

  const stop = async (signal: string) => {
    log.info({ signal }, 'stopping');
    clock.stop();
    await runner.close();
    server.close();
    rmSync(path, { force: true });
    await store.close();
    process.exit(0);
  };
  process.on('SIGTERM', () => void stop('SIGTERM'));
  process.on('SIGINT', () => void stop('SIGINT'));
}

main().catch((error: Error) => {
  process.stderr.write(`The engine cannot start: ${error.message}\n`);
  process.exit(1);
});
