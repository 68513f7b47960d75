import { mkdtempSync, readFileSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { beforeEach, describe, expect, it } from 'vitest';
import { isPassword, peopleOf, removePerson, setPassword } from './people';
import { isOurHost, originFor, reachOf } from './reach';
import { endSession, endSessionsOf, openSession, SESSION_DAYS, sessionOf } from './sessions';

let folder: string;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'people-'));
});
const modeOf = (name: string) => (statSync(join(folder, name)).mode & 0o777).toString(8);

describe('people', () => {
  it('have a password each, of which only a hash is kept, for its owner alone', async () => {
    await setPassword(folder, 'Mara', 'moor and heather');
    await setPassword(folder, ' Iven ', 'peat and thistle');
    expect(peopleOf(folder)).toEqual(['Mara', 'Iven']);
    expect(await isPassword(folder, 'Mara', 'moor and heather')).toBe(true);
    for (const [name, password] of [
      ['Mara', 'peat and thistle'],
      ['Iven', 'moor and heather'],
      ['Mara', ''],
      ['nobody', 'moor and heather'],
    ])
      expect(await isPassword(folder, name, password), `${name} ${password}`).toBe(false);
    expect(readFileSync(join(folder, 'people.json'), 'utf8')).not.toMatch(/heather|thistle/);
    expect(modeOf('people.json')).toBe('600');
    await setPassword(folder, 'Mara', 'another of them');
    expect(await isPassword(folder, 'Mara', 'moor and heather')).toBe(false);
    expect(removePerson(folder, 'Iven')).toBe(true);
    expect(removePerson(folder, 'Iven')).toBe(false);
    expect(peopleOf(folder)).toEqual(['Mara']);
  });

  it('take no password that is short, and no name that is none', async () => {
    await expect(setPassword(folder, 'Mara', 'too short')).rejects.toThrow('at least 10');
    await expect(setPassword(folder, '  ', 'moor and heather')).rejects.toThrow('name is empty');
    expect(peopleOf(folder)).toEqual([]);
  });
});

describe('sessions', () => {
  beforeEach(() => setPassword(folder, 'Mara', 'moor and heather'));

  it('are known by what the browser bears, which is not what is kept', () => {
    const token = openSession(folder, 'Mara');
    expect(sessionOf(folder, token)).toBe('Mara');
    expect(sessionOf(folder, `${token}x`)).toBeNull();
    expect(sessionOf(folder, '')).toBeNull();
    expect(readFileSync(join(folder, 'sessions.json'), 'utf8')).not.toContain(token);
    expect(modeOf('sessions.json')).toBe('600');
  });

  it('end by themselves, when they are ended, and with their person', () => {
    const [one, other] = [openSession(folder, 'Mara', 0), openSession(folder, 'Mara')];
    expect(sessionOf(folder, one, SESSION_DAYS * 86_400_000 - 1)).toBeNull();
    // the first had ended when the second began
    expect(JSON.parse(readFileSync(join(folder, 'sessions.json'), 'utf8')).sessions).toHaveLength(1);
    const third = openSession(folder, 'Mara');
    endSession(folder, other);
    expect([other, third].map((token) => sessionOf(folder, token))).toEqual([null, 'Mara']);
    endSessionsOf(folder, 'Mara');
    expect(sessionOf(folder, third)).toBeNull();
    const last = openSession(folder, 'Mara');
    removePerson(folder, 'Mara');
    expect(sessionOf(folder, last)).toBeNull();
  });
});

describe('from where it can be reached', () => {
  const of = (JAM_LADLE_HOST?: string, JAM_LADLE_ORIGIN?: string) => reachOf({ JAM_LADLE_HOST, JAM_LADLE_ORIGIN });

  it('is this machine alone where nothing is said', () => {
    expect(of()).toEqual({ listens: '127.0.0.1', origins: [], isOpen: false });
    for (const host of ['127.0.0.1:4310', 'localhost:4310', '[::1]:4310']) expect(isOurHost(host, of())).toBe(true);
    for (const host of ['', 'evil.test', '127.0.0.1.evil.test', '192.168.7.4:4310', '0.0.0.0'])
      expect(isOurHost(host, of()), host).toBe(false);
    expect(originFor('127.0.0.1:4310', of())).toBe('http://127.0.0.1:4310');
  });

  it('is beyond it by an address to listen on, or by that of a proxy', () => {
    const lan = of('192.168.7.4');
    expect(lan.isOpen).toBe(true);
    expect(isOurHost('192.168.7.4:4310', lan)).toBe(true);
    expect(isOurHost('192.168.7.5:4310', lan)).toBe(false);
    const proxied = of(undefined, 'https://ladle.tarnhives.example, http://nas.local:4310/');
    expect(proxied).toMatchObject({ listens: '127.0.0.1', isOpen: true });
    expect(isOurHost('Ladle.TarnHives.example', proxied)).toBe(true);
    expect(isOurHost('ladle.tarnhives.example:8443', proxied)).toBe(false);
    expect(originFor('ladle.tarnhives.example', proxied)).toBe('https://ladle.tarnhives.example');
    expect(originFor('nas.local:4310', proxied)).toBe('http://nas.local:4310');
  });

  it('on all addresses is by those that the machine has, not by any name', () => {
    const all = of('0.0.0.0');
    expect(isOurHost('127.0.0.1:4310', all)).toBe(true);
    expect(isOurHost('rebound.evil.test:4310', all)).toBe(false);
  });

  it('says what is none', () => {
    expect(() => of('my machine')).toThrow('JAM_LADLE_HOST');
    for (const origin of ['ladle.example', 'https://ladle.example/path', 'ftp://ladle.example'])
      expect(() => of(undefined, origin), origin).toThrow('JAM_LADLE_ORIGIN');
  });
});
