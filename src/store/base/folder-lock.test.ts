import { type ChildProcess, spawn } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { FolderTaken, lockFolder } from './folder-lock';

let folder: string;
const children: ChildProcess[] = [];

beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'locked-'));
});
afterEach(() => {
  for (const child of children.splice(0)) child.kill('SIGKILL');
});

/** Another process that holds the folder as `lockFolder` does, and says so. */
async function another(): Promise<ChildProcess> {
  const driver = createRequire(import.meta.url).resolve('better-sqlite3');
  const code = `const lock = new (require(${JSON.stringify(driver)}))(process.argv[1]); lock.exec('BEGIN EXCLUSIVE'); console.log('held'); setInterval(() => {}, 1000);`;
  const child = spawn(process.execPath, ['-e', code, join(folder, 'engine.lock')], {
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  children.push(child);
  await new Promise((held) => child.stdout?.once('data', held));
  return child;
}
const ended = (child: ChildProcess, signal: NodeJS.Signals) =>
  new Promise((done) => {
    child.once('exit', done);
    child.kill(signal);
  });

describe('a data folder', () => {
  it('is held by one process of a kind, and by each kind for itself', () => {
    const held = lockFolder(folder, 'engine');
    expect(() => lockFolder(folder, 'engine')).toThrow(FolderTaken);
    const web = lockFolder(folder, 'web server');
    held.release();
    lockFolder(folder, 'engine').release();
    web.release();
    // twice is no harm
    web.release();
  });

  it('says who holds it and since when', () => {
    const before = Date.now();
    const held = lockFolder(folder, 'product');
    try {
      lockFolder(folder, 'product');
    } catch (error) {
      const { holder, message } = error as FolderTaken;
      expect(holder?.pid).toBe(process.pid);
      expect(holder?.since).toBeGreaterThanOrEqual(before);
      expect(message).toContain(folder);
      expect(message).toContain(`process ${process.pid} of `);
      expect(message).toMatch(/since \d{4}-\d\d-\d\d \d\d:\d\d UTC/);
    }
    expect(JSON.parse(readFileSync(join(folder, 'product.lock.json'), 'utf8')).pid).toBe(process.pid);
    held.release();
    expect.assertions(6);
  });

  it('is refused while another process holds it, and free once that is killed', async () => {
    const other = await another();
    expect(() => lockFolder(folder, 'engine')).toThrow('is in use by another engine');
    await ended(other, 'SIGKILL');
    lockFolder(folder, 'engine').release();
  });

  it('is refused also where what the holder wrote down cannot be read', async () => {
    await another();
    writeFileSync(join(folder, 'engine.lock.json'), '{"pid":');
    expect(() => lockFolder(folder, 'engine')).toThrow(FolderTaken);
  });

  it('is tried from another process, which finds it held', () => {
    lockFolder(folder, 'product', { proves: true }).release();
  });

  it('whose files are none is told as one that cannot be locked', () => {
    writeFileSync(
      join(folder, 'engine.lock'),
      'this is no database, and has more than a hundred bytes of text, so that it is looked at as one '.repeat(4),
    );
    expect(() => lockFolder(folder, 'engine')).toThrow(/cannot be locked/);
  });
});
