// `npm run soak -- start`: the demo is started from nothing ten times while both cores are kept busy, and every other time killed in the midst
// of its first steps and started again. Each time it must come up with the same sources, each once, and no work left undone.
import { spawn } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import Database from 'better-sqlite3';
import { build, install, ROOT } from './prepare.mjs';

const STARTS = 10;
const PORT = 4395;
const READY_MS = 600_000;
/** First steps take longer than this also on a quick machine. */
const KILL_MS = [9000, 14_000, 19_000, 24_000, 30_000];

/** Both cores at work on nothing. */
function keepBusy() {
  const burn = 'for (;;) Math.sqrt(Math.random());';
  return [1, 2].map(() =>
    spawn(process.execPath, ['--import', './scripts/end-with-parent.mjs', '-e', burn], {
      cwd: ROOT,
      stdio: ['pipe', 'ignore', 'ignore'],
    }),
  );
}

/** A demo that is being started, in a group of its own so that all of it can be killed at one moment. */
class Demo {
  output = '';

  constructor(folder) {
    this.child = spawn(process.execPath, ['scripts/demo.mjs'], {
      cwd: ROOT,
      detached: true,
      env: { ...process.env, JAM_LADLE_DATA: folder, PORT: String(PORT) },
      stdio: ['ignore', 'pipe', 'pipe'],
    });
    for (const stream of [this.child.stdout, this.child.stderr])
      stream.on('data', (part) => {
        this.output += part;
      });
    this.ended = new Promise((done) => this.child.once('exit', done));
  }

  async ready() {
    const started = Date.now();
    while (!this.output.includes('Jam Ladle is ready at')) {
      if (this.child.exitCode !== null)
        throw new Error(`the demo ended with ${this.child.exitCode}: ${this.output.slice(-2000)}`);
      if (Date.now() - started > READY_MS)
        throw new Error(`the demo was not ready in time: ${this.output.slice(-2000)}`);
      await sleep(250);
    }
    return Date.now() - started;
  }

  async stop(signal) {
    if (this.child.exitCode === null) process.kill(signal === 'SIGKILL' ? -this.child.pid : this.child.pid, signal);
    await this.ended;
  }
}

/** Ends of the logs, for a start that failed. */
function lastWords(folder) {
  return ['asker', 'engine', 'job']
    .map((name) => join(folder, 'logs', `${name}.log`))
    .filter((path) => existsSync(path))
    .map((path) => `${path}:\n${readFileSync(path, 'utf8').trim().split('\n').slice(-25).join('\n')}`)
    .join('\n');
}

/** What was open in the database of a start that failed: questions, what servers bear, and what could not be asked. */
function openIn(folder) {
  const db = new Database(join(folder, 'jam-ladle.sqlite'), { readonly: true });
  try {
    const all = (sql) =>
      db
        .prepare(sql)
        .all()
        .map((row) => JSON.stringify(row));
    return [
      `now ${Date.now()}`,
      ...all('SELECT q.*, d.name FROM questions q JOIN domains d ON d.id = q.domain_id ORDER BY q.held LIMIT 8'),
      ...all('SELECT * FROM question_askers LIMIT 8'),
      ...all('SELECT server, budget, updated_at FROM budgets'),
      ...all('SELECT * FROM lookup_problems'),
      ...all('SELECT * FROM lookup_pulse'),
      ...all(`SELECT kind, state, progress FROM jobs WHERE state <> 'done'`),
    ].join('\n');
  } finally {
    db.close();
  }
}

async function stateOf() {
  const ask = async (path) => (await fetch(`http://127.0.0.1:${PORT}/api/v1${path}`)).json();
  const { sources } = await ask('/sources');
  const { jobs } = await ask('/jobs');
  return {
    sources: sources.map(({ name, kind }) => `${kind} ${name}`).sort(),
    undone: jobs
      .filter(({ state }) => state !== 'done')
      .map(({ kind, state, error }) => `${kind} ${state} ${error ?? ''}`),
  };
}

/** @returns whether all of them came up whole. */
export async function soakStart() {
  install();
  build();
  const busy = keepBusy();
  let expected = null;
  let failures = 0;
  try {
    for (let n = 0; n < STARTS; n++) {
      const folder = mkdtempSync(join(tmpdir(), 'jam-ladle-start-'));
      const killAfter = n % 2 === 0 ? null : KILL_MS[(n - 1) / 2];
      let demo = new Demo(folder);
      try {
        if (killAfter !== null) {
          await sleep(killAfter);
          await demo.stop('SIGKILL');
          demo = new Demo(folder);
        }
        const ms = await demo.ready();
        const { sources, undone } = await stateOf();
        expected ??= sources;
        const isWhole =
          undone.length === 0 &&
          JSON.stringify(sources) === JSON.stringify(expected) &&
          !/database is locked/.test(demo.output);
        if (!isWhole) failures++;
        console.log(
          `start ${n + 1}${killAfter === null ? '' : `, killed after ${killAfter / 1000} s`}: ready in ${Math.round(ms / 1000)} s, ${sources.length} sources${isWhole ? '' : `, NOT WHOLE: ${JSON.stringify({ sources, undone })}`}`,
        );
      } catch (error) {
        failures++;
        console.log(`start ${n + 1}: ${error.message}`);
        console.log(openIn(folder));
        console.log(lastWords(folder));
      } finally {
        await demo.stop('SIGTERM');
        rmSync(folder, { recursive: true, force: true });
      }
    }
  } finally {
    for (const child of busy) child.kill();
  }
  console.log(`${STARTS - failures} of ${STARTS} starts came up whole`);
  return failures === 0;
}
