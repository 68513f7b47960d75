import { chmodSync, mkdirSync, mkdtempSync, rmSync, statSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { beforeEach, describe, expect, it } from 'vitest';
import { keepPrivate } from './private-folder';

let folder: string;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'private-'));
});
const modeOf = (...path: string[]) => (statSync(join(folder, ...path)).mode & 0o777).toString(8);
function put(path: string, mode: number): void {
  writeFileSync(join(folder, path), 'x');
  chmodSync(join(folder, path), mode);
}

describe('a data folder', () => {
  it('is closed to others, with all that is in it, and that once', () => {
    put('jam-ladle.sqlite', 0o644);
    put('jam-ladle.sqlite-wal', 0o600);
    mkdirSync(join(folder, 'outbox'));
    chmodSync(join(folder, 'outbox'), 0o755);
    put('outbox/digest.eml', 0o664);
    put('run', 0o755);
    chmodSync(folder, 0o755);
    expect(keepPrivate(folder)).toBe(5);
    expect(modeOf()).toBe('700');
    expect(modeOf('jam-ladle.sqlite')).toBe('600');
    expect(modeOf('outbox')).toBe('700');
    expect(modeOf('outbox', 'digest.eml')).toBe('600');
    // what can be run still can
    expect(modeOf('run')).toBe('700');
    expect(keepPrivate(folder)).toBe(0);
  });

  it('is made so where it is new', () => {
    rmSync(folder, { recursive: true });
    expect(keepPrivate(join(folder, 'deeper'))).toBe(0);
    expect(modeOf('deeper')).toBe('700');
  });

  it('that is somebody’s stays as it is', () => {
    put('thesis.txt', 0o644);
    chmodSync(folder, 0o755);
    expect(keepPrivate(folder)).toBe(0);
    expect([modeOf(), modeOf('thesis.txt')]).toEqual(['755', '644']);
  });

  it('does not follow links out of it', () => {
    const other = join(mkdtempSync(join(tmpdir(), 'other-')), 'a.txt');
    writeFileSync(other, 'x');
    chmodSync(other, 0o644);
    put('jam-ladle.sqlite', 0o600);
    symlinkSync(other, join(folder, 'link'));
    keepPrivate(folder);
    expect((statSync(other).mode & 0o777).toString(8)).toBe('644');
  });
});
