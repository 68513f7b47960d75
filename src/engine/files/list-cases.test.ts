import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import type { JudgeTools } from '../../core/judge/fields';
import { judgeLine, KINDS } from '../../core/judge/kinds';
import { sheetsOf } from './sheets';

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
