// `npm run soak -- kills`: long work of every kind is killed at random moments, the engine alone or all processes at once, goes on, and
// leaves what an undisturbed run leaves. KILLS says how many kills, KILLS_SEED makes a run again, KILLS_ONLY names some works.
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import { isDeepStrictEqual } from 'node:util';
import { Product } from '../product';
import { copyState, prepareStates } from '../states';
import { familyOf } from './family';
import { WORKS, type Work } from './works';

const KILLS = Number(process.env.KILLS ?? 100);
const SEED = Number(process.env.KILLS_SEED ?? Date.now() % 2 ** 31);
const PORT = 4395;
/** Of so many kills one takes all processes, as when power is cut; else the engine alone. */
const ALL_EVERY = 4;
const OVER_MS = 600_000;
const BACK_MS = 120_000;

/** Numbers from 0 to 1 that a seed makes again (mulberry32). */
function randomOf(seed: number): () => number {
  let state = seed;
  return () => {
    state = (state + 0x6d2b79f5) | 0;
    let value = Math.imul(state ^ (state >>> 15), 1 | state);
    value = (value + Math.imul(value ^ (value >>> 7), 61 | value)) ^ value;
    return ((value ^ (value >>> 14)) >>> 0) / 4294967296;
  };
}
const random = randomOf(SEED);

const killed = (pid: number) => {
  try {
    process.kill(pid, 'SIGKILL');
  } catch {
    // it has ended by itself
  }
};

async function until(what: () => Promise<boolean>, withinMs: number, words: string): Promise<void> {
  let last = '';
  for (const end = performance.now() + withinMs; performance.now() < end; await sleep(100)) {
    try {
      if (await what()) return;
    } catch (error) {
      if (/ failed: /.test((error as Error).message)) throw error;
      last = (error as Error).message;
    }
  }
  throw new Error(`${words}, not within ${withinMs / 1000} s; ${last}`);
}

const isWell = async (product: Product) => ((await product.call('/health')) as { healthy: boolean }).healthy;

interface Run {
  outcome: Record<string, unknown>;
  /** How long the work took, ms. */
  ms: number;
  /** Kills while it was under way. */
  hits: number;
}

async function run(work: Work, kills: number, usualMs: number): Promise<Run> {
  const folder = mkdtempSync(join(tmpdir(), 'jam-ladle-kills-'));
  copyState(work.state, folder);
  let product = await Product.start(folder, PORT);
  let hits = 0;
  try {
    await work.before?.(product);
    const started = performance.now();
    await work.begin(product);
    for (let n = 0; n < kills; n++) {
      await sleep((random() * usualMs * 1.2) / kills);
      const wasOver = await work.isOver(product).catch(() => false);
      const isAll = Math.floor(random() * ALL_EVERY) === 0;
      if (isAll) for (const pid of familyOf(product.pid)) killed(pid);
      else killed(Number(JSON.parse(readFileSync(join(folder, 'engine.json'), 'utf8')).pid));
      if (!wasOver) hits++;
      if (isAll) {
        await product.stop();
        product = await Product.start(folder, PORT);
      }
      await sleep(200);
      const there = product;
      await until(() => isWell(there), BACK_MS, `${work.name}: it comes back after a kill`);
    }
    const there = product;
    await until(() => work.isOver(there), OVER_MS, `${work.name}: it comes to its end`);
    const ms = performance.now() - started;
    return { outcome: await work.outcome(product), ms, hits };
  } finally {
    await product.stop();
    rmSync(folder, { recursive: true, force: true });
  }
}

const only = process.env.KILLS_ONLY?.split(',');
const works = WORKS.filter(({ name }) => !only || only.some((part) => name.includes(part)));
const failures: string[] = [];
const hitsOf = new Map<string, number>();
let done = 0;

await prepareStates(console.log);
console.log(`${KILLS} kills, seed ${SEED}`);
const calm = new Map<Work, Run>();
for (const work of works) {
  const undisturbed = await run(work, 0, 0);
  calm.set(work, undisturbed);
  console.log(`${work.name}, undisturbed: ${(undisturbed.ms / 1000).toFixed(1)} s`);
}
while (done < KILLS && works.length > 0) {
  for (const work of works) {
    if (done >= KILLS) break;
    const expected = calm.get(work);
    if (!expected) continue;
    try {
      const { outcome, ms, hits } = await run(work, work.kills, expected.ms);
      const differing = Object.keys(expected.outcome).filter(
        (key) => !isDeepStrictEqual(expected.outcome[key], outcome[key]),
      );
      hitsOf.set(work.name, (hitsOf.get(work.name) ?? 0) + hits);
      console.log(
        `${work.name}: ${work.kills} kills, ${hits} while it was under way, ${(ms / 1000).toFixed(1)} s: ${differing.length === 0 ? 'as undisturbed' : 'DIFFERS'}`,
      );
      for (const key of differing)
        failures.push(
          `${work.name}, ${key}: ${JSON.stringify(outcome[key])} where an undisturbed run leaves ${JSON.stringify(expected.outcome[key])}`,
        );
    } catch (error) {
      failures.push(`${work.name}: ${(error as Error).message}`);
      console.log(failures.at(-1));
    }
    done += work.kills;
  }
}
const hits = [...hitsOf.values()].reduce((sum, one) => sum + one, 0);
console.log(`${done} kills, ${hits} of them while the work was under way, seed ${SEED}`);
for (const [name, count] of hitsOf) console.log(`  ${name}: ${count}`);
for (const failure of failures) console.error(failure);
process.exit(failures.length > 0 ? 1 : 0);
