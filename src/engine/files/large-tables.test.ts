import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, it } from 'vitest';
import { likeliest } from '../../core/formats/sheets/json';
import { sheetsOf } from '../../services/files/sheets';
import { rowsOfLarge } from './large-tables';

const COUNT = 3000;
const names = Array.from({ length: COUNT }, (_, n) => `hive${n}.org`);
const objects = names.map((domain, n) => ({
  domain,
  bids: n,
  ends: { at: '2026-12-05', zone: 'UTC' },
  tags: ['a', 'b'],
}));

const FILES: Record<string, string> = {
  'an array within objects': JSON.stringify({ meta: { pages: [1, 2, 3] }, result: { lots: objects } }, null, 1),
  'an array of objects': JSON.stringify(objects),
  'an array of texts': JSON.stringify(names),
  'an array of arrays': JSON.stringify(objects.map(({ domain, bids }) => [domain, bids])),
  'a zone': `$ORIGIN org.\n@ 3600 IN SOA a.nic. b.nic. 1 2 3 4 5\n${names.map((name) => `${name}. 3600 IN NS ns1.host.net.\n${name}. 3600 IN NS ns2.host.net.\n`).join('')}`,
  'aligned columns': `NAME              BIDS   ENDS\n${names.map((name, n) => `${name.padEnd(18)}${String(n).padEnd(7)}2026-12-05\n`).join('')}`,
}; // biome-ignore format: a file a line

it.each(Object.keys(FILES))('what is too large to be held has the rows that it has as a whole: %s', async (kind) => {
  const path = join(mkdtempSync(join(tmpdir(), 'large-')), 'list');
  writeFileSync(path, FILES[kind]);
  const rows: string[][] = [];
  for await (const row of (await rowsOfLarge(path)) ?? []) rows.push(row);
  const { sheets } = await sheetsOf(Buffer.from(FILES[kind]));
  expect(rows).toEqual(sheets[likeliest(sheets)].rows);
  expect(rows.length).toBeGreaterThanOrEqual(COUNT);
});

it('other kinds are not read a part at a time', async () => {
  const path = join(mkdtempSync(join(tmpdir(), 'large-')), 'list');
  writeFileSync(path, '<html><table><tr><td>hive1.org</td></tr></table></html>');
  expect(await rowsOfLarge(path)).toBeNull();
  writeFileSync(path, `{"lots": [${'['.repeat(100)}`);
  await expect(rowsOfLarge(path)).rejects.toThrow('The JSON cannot be read: it is nested deeper than a list is.');
});
