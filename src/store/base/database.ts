import { existsSync, mkdirSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import knexFactory, { type Knex } from 'knex';
import { z } from 'zod';
import { VERSION } from '../../core/version';
// whoever opens the database may have to tell subjects
import './tables';
import * as first from '../migrations/0001-first';
import * as crawl from '../migrations/0002-crawl';
import * as links from '../migrations/0003-links';
import * as lists from '../migrations/0004-lists';
import * as offers from '../migrations/0005-offers';
import * as sieves from '../migrations/0006-sieves';
import * as life from '../migrations/0007-life';
import * as measures from '../migrations/0008-measures';
import * as dossier from '../migrations/0009-dossier';
import * as plan from '../migrations/0010-plan';
import * as orders from '../migrations/0011-orders';
import * as ideas from '../migrations/0012-ideas';
import * as holdings from '../migrations/0013-holdings';
import * as after from '../migrations/0014-after';
import * as lookups from '../migrations/0015-lookups';
import * as ways from '../migrations/0016-ways';
import * as waits from '../migrations/0017-waits';
import * as forgottenHits from '../migrations/0018-forgotten-hits';
import * as servers from '../migrations/0019-servers';
import * as visits from '../migrations/0020-visits';
import * as refusals from '../migrations/0021-refusals';
import * as judged from '../migrations/0022-judged';
import * as listFigures from '../migrations/0023-list-figures';
import * as accountNames from '../migrations/0024-account-names';
import * as trafficValue from '../migrations/0025-traffic-value';
import * as foundPages from '../migrations/0026-found-pages';
import * as warc from '../migrations/0027-warc';
import * as who from '../migrations/0028-who';
import * as shortlisted from '../migrations/0029-shortlisted';
import * as venueNumber from '../migrations/0030-venue-number';
import * as warcDigest from '../migrations/0031-warc-digest';
import * as shortlistedBy from '../migrations/0032-shortlisted-by';
import { type Config, Forward, loadConfig, now } from './config';
import { type Raw, statement } from './statement';

export interface Store {
  folder: string;
  config: Config;
  knex: Knex;
  raw: Raw;
  /** How long it waits until others have written, ms. */
  busyMs: number;
  /** ms since 1970 UTC, on the demo's clock in the demo. */
  now(): number;
  /** The demo's time, which can be moved; null in real mode. */
  forward: Forward | null;
  close(): Promise<void>;
}

const MIGRATIONS: Record<string, { up(knex: Knex): Promise<void>; down(knex: Knex): Promise<void> }> = {
  '0001-first': first,
  '0002-crawl': crawl,
  '0003-links': links,
  '0004-lists': lists,
  '0005-offers': offers,
  '0006-sieves': sieves,
  '0007-life': life,
  '0008-measures': measures,
  '0009-dossier': dossier,
  '0010-plan': plan,
  '0011-orders': orders,
  '0012-ideas': ideas,
  '0013-holdings': holdings,
  '0014-after': after,
  '0015-lookups': lookups,
  '0016-ways': ways,
  '0017-waits': waits,
  '0018-forgotten-hits': forgottenHits,
  '0019-servers': servers,
  '0020-visits': visits,
  '0021-refusals': refusals,
  '0022-judged': judged,
  '0023-list-figures': listFigures,
  '0024-account-names': accountNames,
  '0025-traffic-value': trafficValue,
  '0026-found-pages': foundPages,
  '0027-warc': warc,
  '0028-who': who,
  '0029-shortlisted': shortlisted,
  '0030-venue-number': venueNumber,
  '0031-warc-digest': warcDigest,
  '0032-shortlisted-by': shortlistedBy,
};

const migrationSource: Knex.MigrationSource<string> = {
  getMigrations: async () => Object.keys(MIGRATIONS),
  getMigrationName: (name) => name,
  getMigration: async (name) => MIGRATIONS[name],
};

/**
 * Pages in the log before whoever writes moves them into the database, which takes up to a second. Who does long work does it:
 * pages that are written again and again in one import go to the file once, not with every fourth megabyte. Who answers people
 * only does so when nobody else has for long.
 */
const WORKER_LOG_PAGES = 16_000;
export const IMPORT_LOG_PAGES = 160_000;
const OTHERS_LOG_PAGES = 200_000;
/** Room that the log keeps on disk once it has been moved, whatever it grew to. */
const LOG_KEPT_BYTES = 64 * 2 ** 20;

interface OpenOptions {
  migrate: boolean;
  /** It does long work: whose log it may let grow. */
  isWorker?: boolean;
  /** What it writes is on disk when it is said to be done, whatever happens to the power; else it may be lost, with all that was written since. */
  isDurable?: boolean;
}

/**
 * Opens the database of a data folder. Only one process migrates (the engine, before anything else runs); the others
 * wait for it.
 *
 * @throws when the file is damaged or was written by a newer version.
 */
export async function openStore(folder: string, options: OpenOptions): Promise<Store> {
  mkdirSync(folder, { recursive: true });
  const path = join(folder, 'jam-ladle.sqlite');
  const isNew = !existsSync(path);
  const busyMs = options.isWorker ? WORKER_BUSY_MS : BUSY_MS;
  const knex = knexFactory({
    client: 'better-sqlite3',
    connection: { filename: path },
    useNullAsDefault: true,
    pool: {
      min: 1,
      max: 1,
      afterCreate(connection: Raw, done: (error: Error | null, connection: Raw) => void) {
        connection.pragma(`busy_timeout = ${busyMs}`);
        connection.pragma('journal_mode = WAL');
        // orders, the ledger and marks are written by those who answer people; a crawl or a list goes on from its last step on disk
        connection.pragma(`synchronous = ${options.isDurable === false || options.isWorker ? 'NORMAL' : 'FULL'}`);
        connection.pragma('foreign_keys = ON');
        connection.pragma('cache_size = -64000');
        connection.pragma('temp_store = MEMORY');
        connection.pragma(`wal_autocheckpoint = ${options.isWorker ? WORKER_LOG_PAGES : OTHERS_LOG_PAGES}`);
        connection.pragma(`journal_size_limit = ${LOG_KEPT_BYTES}`);
        done(null, connection);
      },
    },
  });
  if (options.migrate) await migrate(knex, folder, isNew);
  // One connection is kept for good, so the driver's handle stays valid beside Knex's use of it.
  const raw: Raw = await knex.client.acquireConnection();
  await knex.client.releaseConnection(raw);
  const config = loadConfig(folder);
  const forward = new Forward(folder);
  return {
    folder,
    config,
    knex,
    raw,
    busyMs,
    now: () => now(config, config.clock ? forward.get() : 0),
    get forward() {
      return config.clock ? forward : null;
    },
    close: () => knex.destroy(),
  };
}

/** Pages that stand in the log and not yet in the database. */
export function logPages({ raw }: Store): number {
  const [{ log, checkpointed }] = raw.pragma('wal_checkpoint(NOOP)') as { log: number; checkpointed: number }[];
  return log - checkpointed;
}

/** Moves what stands in the log into the database, as far as nobody reads the older state. Does not keep others from writing. */
export function moveLog({ raw }: Store): void {
  raw.pragma('wal_checkpoint(PASSIVE)');
}

async function migrate(knex: Knex, folder: string, isNew: boolean): Promise<void> {
  // a list that is not ours makes Knex speak of a damaged folder
  const names: string[] = (await knex.schema.hasTable('knex_migrations'))
    ? await knex('knex_migrations').pluck('name')
    : [];
  if (names.some((name) => !(name in MIGRATIONS))) throw new Error(await newerWords(knex));
  const [, pending] = (await knex.migrate.list({ migrationSource })) as [unknown[], unknown[]];
  if (pending.length === 0) return;
  if (!isNew) {
    const backup = join(folder, `before-migration-${Date.now()}.sqlite`);
    await knex.raw('VACUUM INTO ?', [backup]);
  }
  await knex.migrate.latest({ migrationSource });
  const value = JSON.stringify({ version: VERSION });
  await knex('settings').insert({ key: WRITTEN_BY, value }).onConflict('key').merge();
}

/** Under which the settings keep by what version of the product the tables were last changed. */
const WRITTEN_BY = 'written-by';

async function newerWords(knex: Knex): Promise<string> {
  const row = (await knex('settings').where('key', WRITTEN_BY).first('value')) as { value: string } | undefined;
  const by = z.object({ version: z.string() }).safeParse(row ? JSON.parse(row.value) : null);
  const version = by.success ? by.data.version : 'a newer version';
  return `this data folder was written by Jam Ladle ${version}, and this is ${VERSION}, which does not know its tables. Start with ${version} or a later one, or put an older copy in its place (npm start -- --restore)`;
}

/** How long a writer waits for the others, and how often it looks: the pauses that long work leaves are short. */
const BUSY_MS = 15_000;
/** Long work has a thread of its own and nobody waits for it: it rather waits than fails. */
const WORKER_BUSY_MS = 180_000;
const LOOK_AGAIN_MS = 2;
const nobody = new Int32Array(new SharedArrayBuffer(4));

/**
 * Runs `act` in a write transaction that takes its lock at the start, so it never fails half-way for being late. Within another,
 * it is a part of that one.
 */
export function write<T>(store: Store, act: () => T): T {
  const { raw, busyMs } = store;
  if (raw.inTransaction) return raw.transaction(act)();
  takeLock(raw, busyMs, busyMs);
  return transact(raw, act);
}

/** The same, unless somebody else is writing: then nothing is done. For what may as well be written later. */
export function writeIfFree(store: Store, act: () => void): boolean {
  const { raw, busyMs } = store;
  if (raw.inTransaction) return false;
  try {
    takeLock(raw, 0, busyMs);
  } catch (error) {
    if (isBusy(error)) return false;
    throw error;
  }
  transact(raw, act);
  return true;
}

function transact<T>(raw: Raw, act: () => T): T {
  try {
    const result = act();
    statement(raw, 'COMMIT').run();
    return result;
  } finally {
    if (raw.inTransaction) statement(raw, 'ROLLBACK').run();
  }
}

/** Whether something could not be done because somebody else writes. */
export function isBusy(error: unknown): boolean {
  return (error as { code?: string }).code?.startsWith('SQLITE_BUSY') ?? false;
}

/** Whether a write failed because there is no space. */
export function isFull(error: unknown): boolean {
  const { code } = error as NodeJS.ErrnoException;
  return code === 'SQLITE_FULL' || code === 'ENOSPC' || code === 'SQLITE_IOERR_WRITE';
}

/**
 * Who waits for the lock says so by a file, and long work looks for it between two transactions (letOthersGo). SQLite's own
 * waiting looks again after ever longer pauses, up to a tenth of a second, and would miss the gaps for long.
 */
function takeLock(raw: Raw, withinMs: number, busyMs: number): void {
  const started = performance.now();
  const wanted = join(dirname(raw.name), WANTED);
  let isWaiting = false;
  // exec: a fifth of what pragma() costs, and a crawl writes hundreds of times a second
  raw.exec('PRAGMA busy_timeout = 0');
  try {
    for (;;) {
      try {
        statement(raw, 'BEGIN IMMEDIATE').run();
        return;
      } catch (error) {
        if (!isBusy(error) || performance.now() - started >= withinMs) throw error;
        // said anew each time: another who waited may have taken it back
        isWaiting = true;
        say(wanted);
        Atomics.wait(nobody, 0, 0, LOOK_AGAIN_MS);
      }
    }
  } finally {
    if (isWaiting) rmSync(wanted, { force: true });
    raw.exec(`PRAGMA busy_timeout = ${busyMs}`);
  }
}

function say(file: string): void {
  try {
    writeFileSync(file, '');
  } catch {
    // the disk is full: then the lock is waited for without a word
  }
}

const WANTED = 'write-wanted';
/** Who waits says so every few ms; after so many, the file is left from somebody who was killed. */
const WANTED_MS = 1000;

/** Whether somebody waits for the lock. */
export function isWriteWanted({ folder }: Store): boolean {
  const said = statSync(join(folder, WANTED), { throwIfNoEntry: false });
  return said !== undefined && Date.now() - said.mtimeMs < WANTED_MS;
}
