import { mkdtempSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { beforeEach, describe, expect, it } from 'vitest';
import { accessKey, feedKeyOf, isSameKey } from './access-key';

let folder: string;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'keyed-'));
});

describe('the key of a data folder', () => {
  it('is made once, for its owner alone', () => {
    const key = accessKey(folder);
    expect(key).toMatch(/^[\w-]{32}$/);
    expect(accessKey(folder)).toBe(key);
    expect(readFileSync(join(folder, 'token'), 'utf8')).toBe(`${key}\n`);
    expect((statSync(join(folder, 'token')).mode & 0o777).toString(8)).toBe('600');
    expect(accessKey(mkdtempSync(join(tmpdir(), 'keyed-')))).not.toBe(key);
  });

  it('may be one’s own, and is none where something else stands there', () => {
    writeFileSync(join(folder, 'token'), 'a-key-of-my-own-that-is-long-enough\n');
    expect(accessKey(folder)).toBe('a-key-of-my-own-that-is-long-enough');
    for (const text of ['', 'short', 'two words of a key that is long enough']) {
      writeFileSync(join(folder, 'token'), text);
      expect(() => accessKey(folder)).toThrow('holds no key');
    }
  });

  it('has another for feeds, which does not tell it', () => {
    const key = accessKey(folder);
    expect(feedKeyOf(key)).toMatch(/^[\w-]{32}$/);
    expect(feedKeyOf(key)).not.toBe(key);
    expect(feedKeyOf(key)).toBe(feedKeyOf(key));
    expect(feedKeyOf(`${key}x`)).not.toBe(feedKeyOf(key));
  });

  it('is compared whole', () => {
    expect(isSameKey('abc', 'abc')).toBe(true);
    for (const given of ['', 'ab', 'abcd', 'ABC']) expect(isSameKey(given, 'abc')).toBe(false);
  });
});
