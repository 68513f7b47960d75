import { createCipheriv, createDecipheriv, randomBytes, scryptSync } from 'node:crypto';
import { readFileSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { z } from 'zod';
import { Refusal } from '../../core/refusal';
import { writeOwnFile } from './own-file';

/** What opens accounts of others. Each belongs to one address, and is not sent to another. */
const Keys = z.object({
  /** Keys of venue accounts, by venue. */
  accounts: z.record(z.string(), z.object({ address: z.string(), key: z.string() })).default({}),
  /** Keys and passwords of connections, by id. */
  connections: z
    .record(z.string(), z.object({ origin: z.string(), key: z.string(), password: z.string() }))
    .default({}),
  /** The password of the mail server; null: none. */
  mail: z.object({ server: z.string(), password: z.string() }).nullable().default(null),
  /** Passwords of mail accounts whose folders are watched, by `imaps://login@host:port`. */
  mailboxes: z.record(z.string(), z.string()).default({}),
  /** What a webhook is signed by; null: nothing. */
  webhook: z.object({ url: z.string(), secret: z.string() }).nullable().default(null),
});
export type Keys = z.infer<typeof Keys>;

/** How the file stands on disk under a passphrase: AES-256-GCM (NIST SP 800-38D), its key by scrypt (RFC 7914). All in base64. */
const Sealed = z.object({
  sealed: z.literal('scrypt-32768-8-1+aes-256-gcm'),
  salt: z.base64(),
  iv: z.base64(),
  tag: z.base64(),
  data: z.base64(),
});
type Sealed = z.infer<typeof Sealed>;

const FILE = 'keys.json';
const SCRYPT = { N: 32_768, r: 8, p: 1, maxmem: 64 * 2 ** 20 };
const KEY_BYTES = 32;
const IV_BYTES = 12;

const NONE: Keys = { accounts: {}, connections: {}, mail: null, mailboxes: {}, webhook: null };

/** Where the passphrase comes from: the one who starts the product gives it to all its processes. */
const passphraseGiven = () => process.env.JAM_LADLE_PASSPHRASE ?? '';

interface Read {
  stamp: string;
  passphrase: string;
  keys: Keys | null;
}
const lastRead = new Map<string, Read>();
const derived = new Map<string, Buffer>();

/**
 * The keys of a data folder, from the one file that has them. Settings, copies and exports have none.
 *
 * @returns null where they are sealed and the passphrase was not given.
 * @throws when something else stands there, or the passphrase is a wrong one.
 */
export function readKeys(folder: string): Keys | null {
  const path = join(folder, FILE);
  const stat = statSync(path, { throwIfNoEntry: false, bigint: true });
  if (!stat) return NONE;
  const stamp = `${stat.ino} ${stat.mtimeNs} ${stat.size}`;
  const passphrase = passphraseGiven();
  const before = lastRead.get(path);
  if (before?.stamp === stamp && before.passphrase === passphrase) return before.keys;
  const found = contentOf(path);
  const keys = 'sealed' in found ? (passphrase === '' ? null : unsealed(path, found, passphrase)) : found;
  lastRead.set(path, { stamp, passphrase, keys });
  return keys;
}

/**
 * Keeps keys instead of those before, on disk when it returns; sealed where a passphrase is given.
 *
 * @throws Refusal when those that are there are sealed and the passphrase was not given: they would be lost.
 */
export function writeKeys(folder: string, keys: Keys): void {
  const before = readKeys(folder);
  if (before === null)
    throw new Refusal(
      'keys-sealed',
      'The keys of accounts are sealed, and the passphrase was not given at the start.',
      {
        advice: 'Start again with the passphrase (npm start -- --passphrase), then change them.',
      },
    );
  if (JSON.stringify(before) !== JSON.stringify(keys)) put(join(folder, FILE), keys, passphraseGiven());
}

/** How the keys of a folder stand: none yet, to be read by their owner, or under a passphrase. */
export function keysState(folder: string): 'none' | 'plain' | 'sealed' {
  const path = join(folder, FILE);
  if (!statSync(path, { throwIfNoEntry: false })) return 'none';
  return 'sealed' in contentOf(path) ? 'sealed' : 'plain';
}

/**
 * Sees to it, at a start, that the passphrase opens the keys, and seals them where they are not yet. Without a passphrase nothing changes.
 *
 * @throws when it is a wrong one.
 */
export function sealKeys(folder: string): void {
  const passphrase = passphraseGiven();
  const keys = readKeys(folder);
  if (passphrase !== '' && keys !== null && keysState(folder) !== 'sealed') put(join(folder, FILE), keys, passphrase);
}

function contentOf(path: string): Keys | Sealed {
  let value: unknown;
  try {
    value = JSON.parse(readFileSync(path, 'utf8'));
  } catch {
    // what stands there may be keys: it is not told
    throw new Error(
      `${path} cannot be read as JSON. Put back the one of a copy of your own, or take it away and enter the keys again.`,
    );
  }
  const sealed = Sealed.safeParse(value);
  if (sealed.success) return sealed.data;
  const plain = Keys.safeParse(value);
  if (!plain.success) throw new Error(`${path} holds no keys. Take it away, and enter them again.`);
  return plain.data;
}

function unsealed(path: string, { salt, iv, tag, data }: Sealed, passphrase: string): Keys {
  const decipher = createDecipheriv('aes-256-gcm', keyOf(passphrase, salt), Buffer.from(iv, 'base64'));
  decipher.setAuthTag(Buffer.from(tag, 'base64'));
  let text: string;
  try {
    text = `${decipher.update(data, 'base64', 'utf8')}${decipher.final('utf8')}`;
  } catch {
    throw new Error(`The passphrase does not open ${path}, or the file is damaged.`);
  }
  return Keys.parse(JSON.parse(text));
}

function put(path: string, keys: Keys, passphrase: string): void {
  const content = passphrase === '' ? keys : sealed(path, keys, passphrase);
  writeOwnFile(path, content);
}

function sealed(path: string, keys: Keys, passphrase: string): Sealed {
  // the salt stays, so that a process derives the key once; what must never come twice is the initialization vector
  const before = statSync(path, { throwIfNoEntry: false }) ? contentOf(path) : null;
  const salt = before && 'sealed' in before ? before.salt : randomBytes(16).toString('base64');
  const iv = randomBytes(IV_BYTES);
  const cipher = createCipheriv('aes-256-gcm', keyOf(passphrase, salt), iv);
  const data = Buffer.concat([cipher.update(JSON.stringify(keys), 'utf8'), cipher.final()]);
  return {
    sealed: 'scrypt-32768-8-1+aes-256-gcm',
    salt,
    iv: iv.toString('base64'),
    tag: cipher.getAuthTag().toString('base64'),
    data: data.toString('base64'),
  };
}

function keyOf(passphrase: string, salt: string): Buffer {
  const known = `${salt} ${passphrase}`;
  const key = derived.get(known) ?? scryptSync(passphrase, Buffer.from(salt, 'base64'), KEY_BYTES, SCRYPT);
  derived.set(known, key);
  return key;
}
