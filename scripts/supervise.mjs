// Runs the engine and the web server, and starts again what ends by itself. In the demo the stand-ins run as well.
import { spawn } from 'node:child_process';
import { existsSync, rmSync } from 'node:fs';
import { createRequire } from 'node:module';
import { createServer } from 'node:net';
import { join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import { ROOT } from './prepare.mjs';

const RESTART_MS = 500;
const READY_MS = 120_000;
/** Idle connections of browsers and scripts stay open for so long. */
const KEEP_ALIVE_MS = 90_000;

/** Children by name, restarted until stop(). */
export class Supervisor {
  constructor({ folder, port }) {
    this.folder = folder;
    this.port = port;
    this.children = new Map();
    this.stopping = false;
    this.listens = '127.0.0.1';
    this.env = {
      ...process.env,
      JAM_LADLE_DATA: folder,
      PORT: String(port),
      NODE_ENV: 'production',
      NEXT_TELEMETRY_DISABLED: '1',
    };
  }

  /** Takes the data folder for us alone, until we end, however that is. @throws when another has it, with who and since when. */
  async hold() {
    const { lockFolder } = await import('../dist/engine/folder-lock.mjs');
    const { keepPrivate } = await import('../dist/engine/private-folder.mjs');
    // whatever we and our children write is ours alone to read
    process.umask(0o077);
    const mended = keepPrivate(this.folder);
    if (mended > 0)
      console.error(
        `What others on this machine could read of ${this.folder} is yours alone by now (folders and files: ${mended}).`,
      );
    this.lock = lockFolder(this.folder, 'product', { proves: true });
  }

  /** Whether the keys of accounts wait for a passphrase. @throws when the one that was given does not open them. */
  async areKeysClosed() {
    const { keysState, readKeys, sealKeys } = await import('../dist/engine/key-file.mjs');
    if (process.env.JAM_LADLE_PASSPHRASE === undefined) return keysState(this.folder) === 'sealed';
    this.env.JAM_LADLE_PASSPHRASE = process.env.JAM_LADLE_PASSPHRASE;
    sealKeys(this.folder);
    return readKeys(this.folder) === null;
  }

  /**
   * Sees from where the product can be reached: beyond this machine only with a password.
   *
   * @throws when nobody has one.
   */
  async settleReach(isDemo) {
    const { reachOf } = await import('../dist/engine/reach.mjs');
    const { peopleOf } = await import('../dist/engine/people.mjs');
    const reach = reachOf(process.env);
    this.listens = reach.listens;
    if (!reach.isOpen) return reach;
    if (isDemo)
      throw new Error('The demo is for this machine alone: JAM_LADLE_HOST and JAM_LADLE_ORIGIN are for real mode.');
    if (peopleOf(this.folder).length === 0)
      throw new Error(
        'Beyond this machine it is reached with a password only. Set one first: npm start -- --set-password NAME (jam-ladle --set-password NAME).',
      );
    return reach;
  }

  /** Gives somebody a password to sign in with; who had one before is signed out. */
  async setPassword(name, password) {
    const { setPassword } = await import('../dist/engine/people.mjs');
    const { endSessionsOf } = await import('../dist/engine/sessions.mjs');
    await setPassword(this.folder, name, password);
    endSessionsOf(this.folder, name);
  }

  /** Takes somebody's password away, and with it their sessions. @returns whether they had one. */
  async removePerson(name) {
    const { removePerson } = await import('../dist/engine/people.mjs');
    return removePerson(this.folder, name);
  }

  /** What the browser and scripts of whoever started it are known by. */
  async key() {
    const { accessKey } = await import('../dist/engine/access-key.mjs');
    return accessKey(this.folder);
  }

  /**
   * Starts a process; `ready` resolves true once it is up.
   *
   * @param isTied it ends when we do, however that is; not for what starts processes of Node by itself, which would inherit that.
   */
  async start(name, args, ready, isTied = true) {
    const launch = () => {
      const child = spawn(
        process.execPath,
        [...(isTied ? ['--import', './scripts/end-with-parent.mjs'] : []), ...args],
        {
          cwd: ROOT,
          env: this.env,
          stdio: 'pipe',
        },
      );
      this.children.set(name, child);
      child.output = '';
      child.stdout.on('data', (chunk) => {
        child.output = (child.output + chunk).slice(-10_000);
      });
      child.stderr.on('data', (chunk) => process.stderr.write(chunk));
      child.on('exit', async (code, signal) => {
        if (this.stopping) return;
        child.hasEnded = true;
        if (!child.wasReady) return;
        console.error(`${name} ended (${signal ?? code}); starting it again`);
        await sleep(RESTART_MS);
        if (!this.stopping) launch().wasReady = true;
      });
      return child;
    };
    const child = launch();
    const until = Date.now() + READY_MS;
    while (!(await ready(child))) {
      if (child.hasEnded) throw new Error(`${name} could not be started.`);
      if (Date.now() > until) throw new Error(`${name} was not ready within ${READY_MS / 1000} s.`);
      await sleep(100);
    }
    child.wasReady = true;
  }

  /** Ends one, which is started again at once. */
  restart(name) {
    this.children.get(name)?.kill('SIGTERM');
  }

  async stop() {
    this.stopping = true;
    const ends = [...this.children.values()].map((child) => {
      if (child.exitCode !== null || child.signalCode !== null) return null;
      child.kill('SIGTERM');
      const force = setTimeout(() => child.kill('SIGKILL'), 8000);
      return new Promise((done) =>
        child.once('exit', () => {
          clearTimeout(force);
          done();
        }),
      );
    });
    await Promise.all(ends);
    await this.keepSums();
    this.lock?.release();
  }

  /** Leaves sums of the database's pages for the next start, when all have closed it. */
  async keepSums() {
    const path = join(this.folder, 'jam-ladle.sqlite');
    if (!this.lock || !existsSync(path)) return;
    const { keepSums } = await import('../dist/engine/page-sums.mjs');
    try {
      keepSums(path);
    } catch (error) {
      console.error(`The database could not be closed as usual: ${error.message}`);
    }
  }

  /** Puts the newest copy that is whole in place of what is there. @returns its name, and under which what was there is kept. */
  async restoreNewest() {
    const { finishRestore, NEWEST, prepareRestore } = await import('../dist/engine/restore.mjs');
    const prepared = prepareRestore(this.folder, NEWEST, Date.now());
    finishRestore(this.folder);
    return prepared;
  }

  /** @param isDevelopment the web server compiles pages as they are asked for, and takes changed ones over. */
  async startProduct({ isDevelopment = false } = {}) {
    await refuseUsedPort(this.port, this.listens);
    const address = join(this.folder, 'engine.json');
    rmSync(address, { force: true });
    // both come up at the same time; the web server is asked only once the engine has brought the database up to date
    let isEngineUp = false;
    const engine = this.start('The engine', ['--enable-source-maps', 'dist/engine/main.mjs'], () =>
      existsSync(address),
    ).then(() => {
      isEngineUp = true;
    });
    // a connection that is closed just when it is used again looks like a failure to scripts
    const keep = ['--keepAliveTimeout', String(KEEP_ALIVE_MS)];
    if (isDevelopment) this.env.NODE_ENV = 'development';
    const web = [
      createRequire(import.meta.url).resolve('next/dist/bin/next'),
      isDevelopment ? 'dev' : 'start',
      '-H',
      this.listens,
      '-p',
      String(this.port),
      ...(isDevelopment ? [] : keep),
    ];
    const isWebUp = () =>
      fetch(`http://${addressOf(this.listens)}:${this.port}/api/v1/health`)
        .then((answer) => answer.json())
        // a database that is damaged is worked with until a copy takes its place
        .then(({ engine, database }) => engine.state === 'ready' && database.state !== 'down')
        .catch(() => false);
    await Promise.all([
      engine,
      this.start('The web server', web, async () => isEngineUp && (await isWebUp()), !isDevelopment),
    ]);
  }

  async startWorld() {
    await this.start('The demo world', ['--enable-source-maps', 'dist/standins/main.mjs'], (child) =>
      child.output.includes('world ready'),
    );
  }
}

/** Where this machine itself reaches what listens there. */
export function addressOf(listens) {
  if (listens === '0.0.0.0') return '127.0.0.1';
  if (listens === '::') return '[::1]';
  return listens.includes(':') ? `[${listens}]` : listens;
}

/** @throws when something else listens there already. */
function refuseUsedPort(port, host) {
  return new Promise((done, failed) => {
    const probe = createServer();
    probe.once('error', () =>
      failed(
        new Error(
          `Port ${port} of ${host} is in use, or is not of this machine. Set PORT to another, or stop what runs there.`,
        ),
      ),
    );
    probe.listen(port, host, () => probe.close(done));
  });
}

/** Ends the children with us, once. */
export function stopWithUs(supervisor) {
  for (const signal of ['SIGINT', 'SIGTERM'])
    process.once(signal, async () => {
      await supervisor.stop();
      process.exit(0);
    });
}

export function portFromEnvironment() {
  const port = Number(process.env.PORT ?? 4310);
  if (!Number.isInteger(port) || port < 1 || port > 65535)
    throw new Error(`PORT is "${process.env.PORT}", which is no port.`);
  return port;
}
