import { mkdtempSync, readdirSync, readFileSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, it } from 'vitest';
import { openLog } from './log';

it('a log that grows makes room while it is written, keeps what was before once, and loses no line between', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'log-'));
  const logs = join(folder, 'logs');
  const log = openLog(folder, 'engine', { lookMs: 20, mostBytes: 20_000 });
  for (let n = 0; n < 200; n++) log.info({ n }, 'a line that says something of what was done, at some length');
  await expect.poll(() => readdirSync(logs).sort()).toEqual(['engine.1.log', 'engine.log']);
  log.info({ n: 200 }, 'and one more');
  const lines = ['engine.1.log', 'engine.log'].flatMap((file) =>
    readFileSync(join(logs, file), 'utf8').trim().split('\n'),
  );
  expect(lines.map((line) => JSON.parse(line).n)).toEqual(Array.from({ length: 201 }, (_, n) => n));
  for (let n = 0; n < 2000; n++) log.info({ n }, 'a line that says something of what was done, at some length');
  await expect.poll(() => statSync(join(logs, 'engine.log')).size).toBeLessThan(20_000);
  // what was written before a start counts as well
  for (let n = 0; n < 200; n++) log.info({ n }, 'a line that says something of what was done, at some length');
  openLog(folder, 'engine', { mostBytes: 100 });
  expect(statSync(join(logs, 'engine.log'), { throwIfNoEntry: false })?.size ?? 0).toBe(0);
});
