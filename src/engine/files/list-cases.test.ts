import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { JudgeTools } from '../../core/judge/fields';
import { judgeLine, KINDS } from '../../core/judge/kinds';
import { registrableDomain } from '../../core/names/domain';
import { sheetsOf } from '../../services/files/sheets';

const FOLDER = join(import.meta.dirname, '../../../bench/cases/files');

interface Case {
  file: string;
  order?: string;
  /** What must come out of the first rows; values that are not named may be anything. */
  rows: ({ domain: string } & Record<string, unknown>)[];
  counts: Record<string, number>;
  /** Columns with values that must be told as not understood. */
  notUnderstood?: Record<string, number>;
}
const cases = readFileSync(join(FOLDER, 'expected.jsonl'), 'utf8')
  .trim()
  .split('\n')
  .map((line) => JSON.parse(line) as Case);

interface Judged {
  rows: { domain: string; values: Record<string, unknown> }[];
  counts: Record<string, number>;
  notUnderstood: { column: string; values: string[] }[];
}

/** Files as they come, written by hand or by other programs: bench/cases/files/README.md. */
describe('a list in a file', () => {
  it.each(cases.map((one) => [one.file, one] as const))(
    '%s',
    async (file, { rows, counts, order, notUnderstood = {} }) => {
      const line = JSON.stringify({
        name: file,
        base64: readFileSync(join(FOLDER, file)).toString('base64'),
        order,
        now: '2026-11-29T10:00:00Z',
      });
      const judged = (await judgeLine(KINDS.list, line, 1, 0, { sheetsOf } as unknown as JudgeTools)) as Judged;
      const named = judged.rows.slice(0, rows.length).map(({ domain, values }, n) => {
        const asked = Object.keys(rows[n]).filter((field) => field !== 'domain');
        return { domain, ...Object.fromEntries(asked.map((field) => [field, values[field]])) };
      });
      expect(named).toEqual(rows);
      expect(judged.counts).toMatchObject(counts);
      expect(judged.notUnderstood.map(({ column }) => column)).toEqual(Object.keys(notUnderstood));
    },
  );
});

/** A table in the formats that have cells, and what a list of names and figures looks like in each. */
const ENCODINGS: [name: string, encode: (rows: [string, number][]) => string][] = [
  ...[',', ';', '\t', '|'].map((mark): (typeof ENCODINGS)[number] => [`parted at ${JSON.stringify(mark)}`, (rows) => `domain${mark}bids\n${rows.map((row) => row.join(mark)).join('\n')}\n`]),
  ['aligned', (rows) => [`${'domain'.padEnd(40)}bids`, ...rows.map(([name, bids]) => name.padEnd(40) + bids)].join('\n')],
  ['JSON', (rows) => JSON.stringify({ page: 1, lots: rows.map(([domain, bids]) => ({ domain, bids })) })],
  ['JSON Lines', (rows) => rows.map(([domain, bids]) => JSON.stringify({ domain, bids })).join('\n')],
  ['XML', (rows) => `<lots>${rows.map(([name, bids]) => `<lot><domain>${name}</domain><bids>${bids}</bids></lot>`).join('')}</lots>`],
  ['HTML', (rows) => `<table><tr><th>domain</th><th>bids</th></tr>${rows.map(([name, bids]) => `<tr><td>${name}</td><td>${bids}</td></tr>`).join('')}</table>`],
]; // biome-ignore format: a format a line

describe('a list in any format', () => {
  const name = fc.oneof(
    { weight: 5, arbitrary: fc.stringMatching(/^[a-z][a-z0-9]{2,12}\.(org|co\.uk|de|com)$/) },
    { weight: 1, arbitrary: fc.constantFrom('tarnhives.org', 'no name', 'nowhere.notld') },
  );
  it.each(ENCODINGS)('gives its names and figures, and its counts add up: %s', async (_, encode) => {
    await fc.assert(
      fc.asyncProperty(fc.array(fc.tuple(name, fc.nat(999)), { minLength: 2, maxLength: 30 }), async (rows) => {
        // without a name in most rows it is no list
        fc.pre(rows.filter(([one]) => /^[a-z0-9]+\.(org|co\.uk|de|com)$/.test(one)).length * 2 > rows.length);
        fc.pre(isNamed(rows[0][0]));
        const line = JSON.stringify({ name: 'list', base64: Buffer.from(encode(rows)).toString('base64') });
        const { rows: found, counts } = (await judgeLine(KINDS.list, line, 1, 0, {
          sheetsOf,
        } as unknown as JudgeTools)) as Judged;
        const named = rows.filter(([one]) => isNamed(one));
        expect(found.map(({ domain, values }) => [domain, values.bids])).toEqual(named);
        expect(counts.read).toBe(rows.length);
        expect(counts.taken).toBe(new Set(named.map(([one]) => one)).size);
        expect(counts.taken + counts.duplicates + counts.excluded + counts.rejected).toBe(counts.read);
      }),
      { numRuns: 40 },
    );
  });
});

const isNamed = (name: string) => registrableDomain(name) !== null;
