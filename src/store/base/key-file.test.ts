import { mkdtempSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { keysState, readKeys, sealKeys, writeKeys } from './key-file';

const KEYS = {
  accounts: { 'Saltmarch Exchange': { address: 'https://saltmarchexchange.com/orders', key: 'key-of-saltmarch' } },
  connections: {},
  mailboxes: {},
  webhook: null,
  mail: { server: 'smtp://mara@mail.tarnhives.org:587', password: 'mail-of-mara' },
};
let folder: string;
let path: string;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'keys-'));
  path = join(folder, 'keys.json');
});
afterEach(() => vi.unstubAllEnvs());
const start = (passphrase: string) => {
  vi.stubEnv('JAM_LADLE_PASSPHRASE', passphrase);
  sealKeys(folder);
};

describe('the file of keys', () => {
  it('is for its owner alone, and read again when another process has written it', () => {
    expect(readKeys(folder)).toEqual({ accounts: {}, connections: {}, mail: null, mailboxes: {}, webhook: null });
    writeKeys(folder, KEYS);
    expect((statSync(path).mode & 0o777).toString(8)).toBe('600');
    expect(readKeys(folder)).toEqual(KEYS);
    writeFileSync(`${path}.other`, JSON.stringify({ ...KEYS, mail: null }));
    rmSync(path);
    expect(readKeys(folder)?.mail).toBeNull();
    expect(keysState(folder)).toBe('none');
  });

  it('is sealed from the start at which a passphrase is given', () => {
    writeKeys(folder, KEYS);
    expect(keysState(folder)).toBe('plain');
    start('seven apiaries');
    expect(keysState(folder)).toBe('sealed');
    expect(readKeys(folder)).toEqual(KEYS);
    for (const secret of ['key-of-saltmarch', 'mail-of-mara', 'Saltmarch', 'seven apiaries'])
      expect(readFileSync(path, 'utf8')).not.toContain(secret);
    // what is written from then on is sealed as well, never twice with the same vector
    const before = JSON.parse(readFileSync(path, 'utf8'));
    writeKeys(folder, { ...KEYS, mail: null });
    const after = JSON.parse(readFileSync(path, 'utf8'));
    expect(after.salt).toBe(before.salt);
    expect(after.iv).not.toBe(before.iv);
    expect(readKeys(folder)?.mail).toBeNull();
  });

  it('stays closed without its passphrase, loses nothing, and says so', () => {
    writeKeys(folder, KEYS);
    start('seven apiaries');
    const sealed = readFileSync(path, 'utf8');
    start('');
    expect(readKeys(folder)).toBeNull();
    expect(() =>
      writeKeys(folder, { accounts: {}, connections: {}, mail: null, mailboxes: {}, webhook: null }),
    ).toThrow('sealed');
    expect(() => start('eight apiaries')).toThrow('does not open');
    expect(readFileSync(path, 'utf8')).toBe(sealed);
    start('seven apiaries');
    expect(readKeys(folder)).toEqual(KEYS);
  });

  it('that is damaged is told without its content', () => {
    writeKeys(folder, KEYS);
    start('seven apiaries');
    const sealed = JSON.parse(readFileSync(path, 'utf8'));
    const data = Buffer.from(sealed.data, 'base64');
    data[7] ^= 1;
    writeFileSync(path, JSON.stringify({ ...sealed, data: data.toString('base64') }));
    expect(() => readKeys(folder)).toThrow('damaged');
    writeFileSync(path, '{"accounts": {"a": {"key": "key-of-saltmarch"');
    expect(() => readKeys(folder)).toThrow(/^(?!.*saltmarch).*cannot be read/);
    writeFileSync(path, '{"accounts": 7}');
    expect(() => readKeys(folder)).toThrow('holds no keys');
  });
});
