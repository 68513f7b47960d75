import { randomBytes } from 'node:crypto';
import { existsSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { EngineAddress } from '../contracts/engine';
import { dataFolder } from '../store/base/config';
import { RESTORE_ADVICE } from '../store/base/damage';
import { openStore } from '../store/base/database';
import { lockFolder } from '../store/base/folder-lock';
import { gatherKeys } from '../store/base/settings';
import { recountTraffic } from '../store/portfolio/rankings';
import { ensureBrief } from '../store/shortlist/briefs';
import { DailyCopies } from './database/daily-copies';
import { DamageWatch } from './database/damage-watch';
import { finishRestore } from './database/restore';
import { openLog } from './log';
import { SchedulerHost } from './lookups/host';
import { Digest } from './notify/digest';
import { Teller } from './notify/teller';
import { Watcher } from './notify/watcher';
import { Outbox } from './orders/outbox';
import { PoolHost } from './pool/host';
import { SieveRunner } from './pool/sieve-runner';
import { DAMAGED_SNAPSHOT } from './pool/snapshot';
import { Clock } from './runner/clock';
import { ClockWatch } from './runner/clock-watch';
import { JobRunner } from './runner/runner';
import { ResaleSync } from './selling/resale-sync';
import { EngineServer } from './server';

/** How often the index is written down when it has changed and nothing is at work. */
const SAVE_MS = 60_000;
/** How often it is seen to that its address is there. */
const TELL_MS = 1000;

async function main(): Promise<void> {
  const folder = dataFolder();
  const lock = lockFolder(folder, 'engine');
  const log = openLog(folder, 'engine');
  const restored = finishRestore(folder);
  if (restored) log.info({ restored }, 'a copy took the place of what was there');
  const damage = new DamageWatch(folder, log);
  const store = await openStore(folder, { migrate: true });
  // where a data folder from before has none yet, or a rate was missing
  recountTraffic(store, true);
  gatherKeys(store);
  ensureBrief(store);
  const pool = new PoolHost(store, () => server.announcePool());
  const runner = new JobRunner(store, log);
  const token = randomBytes(24).toString('hex');
  const sieves = new SieveRunner(store, pool, runner, () => server.announcePool(), log);
  const digest = new Digest(store, log);
  const teller = new Teller(store, log);
  const outbox = new Outbox(store, (ids) => orderChanged(ids), log);
  const resales = new ResaleSync(store, (ids) => orderChanged(ids), log);
  const server = new EngineServer({ store, pool, runner, sieves, digest, venues: { outbox, resales }, log }, token);

  const refresh = (ids: Iterable<number>, source: number | null) => {
    pool.refresh(ids, source);
    server.announcePool();
  };
  const orderChanged = (ids: number[]) => {
    refresh(ids, null);
    server.announce('orders', { type: 'orders', at: store.now() });
  };
  runner.on('changed', refresh);
  runner.on('added', ({ batch, ids, isNew, source }) => {
    pool.add(batch, ids, isNew, source);
    server.announcePool();
  });
  runner.on('removed', ({ ids, source, isSourceGone }) => {
    pool.remove(ids, source, isSourceGone);
    server.announcePool();
  });
  runner.on('crashed', () => pool.rebuild());

  const port = await server.listen();
  const started = performance.now();
  const reason = pool.load();
  log.info(
    { ms: Math.round(performance.now() - started), reason },
    reason ? 'the pool was read' : 'the pool came from its snapshot',
  );
  if (reason === DAMAGED_SNAPSHOT) server.mended = 'The index on disk was damaged; it was made anew from the database.';
  server.state = 'ready';
  const address: EngineAddress = { port, token, pid: process.pid };
  const path = join(folder, 'engine.json');
  const tell = () => {
    writeFileSync(`${path}.new`, JSON.stringify(address), { mode: 0o600 });
    renameSync(`${path}.new`, path);
  };
  tell();
  // whoever took it away: nobody reaches the engine without it
  const telling = setInterval(() => {
    if (!existsSync(path)) tell();
  }, TELL_MS);
  const lookups = new SchedulerHost(folder, log, (ids) => refresh(ids, null));
  lookups.start();
  runner.start();
  const clockWatch = new ClockWatch(store, log);
  const clock = new Clock(store, runner, (ids) => refresh(ids, null), log);
  const watcher = new Watcher(store, pool, (ids) => refresh(ids, null), log);
  clock.also(() => {
    clockWatch.turn();
    watcher.turn();
    sieves.turn();
    digest.turn();
    teller.turn();
    outbox.turn();
    resales.turn();
  });
  outbox.reconcile();
  clock.start();
  const isIdle = () => runner.runningCount === 0;
  void damage.compare();
  const copies = new DailyCopies(store, runner);
  clock.also(() => {
    damage.turn(isIdle());
    copies.turn();
  });
  const saving = setInterval(() => {
    pool.save(isIdle).catch((error: Error) => log.warn({ err: error }, 'the snapshot could not be written'));
  }, SAVE_MS);
  log.info({ port, domains: pool.size }, 'engine is ready');

  const stop = async (signal: string) => {
    log.info({ signal }, 'stopping');
    clock.stop();
    clearInterval(saving);
    clearInterval(telling);
    // what a job that is stopped wrote last may not have been told to the index
    const wasIdle = isIdle();
    await Promise.all([runner.close(), lookups.stop(), outbox.close(), resales.close()]);
    if (wasIdle) await pool.save(isIdle).catch(() => false);
    server.close();
    rmSync(path, { force: true });
    damage.close();
    await store.close();
    lock.release();
    process.exit(0);
  };
  // who runs us starts us again, and then the copy takes its place
  server.onRestore = () => void stop('restore');
  process.on('SIGTERM', () => void stop('SIGTERM'));
  process.on('SIGINT', () => void stop('SIGINT'));
}

main().catch((error: Error) => {
  const isDamage = /^SQLITE_(CORRUPT|NOTADB)/.test((error as { code?: string }).code ?? '');
  process.stderr.write(`The engine cannot start: ${error.message}${isDamage ? `. ${RESTORE_ADVICE}` : ''}\n`);
  process.exit(1);
});
