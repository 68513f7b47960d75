import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { buffer } from 'node:stream/consumers';
import { parse } from 'csv-parse/sync';
import { describe, expect, it } from 'vitest';
import { columnsFor } from '../src/core/formats/exports';
import { exportTable } from '../src/services/exports/table';

interface Row {
  name: string;
  at: number | null;
  minor: number | null;
  share: number | null;
  words: string[];
}
const { text, number, date, money, list } = columnsFor<Row>();
const ROWS: Row[] = [
  { name: 'tarnhives.org', at: Date.UTC(2026, 10, 27, 18, 5), minor: 125_000, share: 0.125, words: ['a', 'b; c'] },
  { name: '=HYPERLINK("http://wexcombe.co.uk")', at: null, minor: null, share: null, words: [] },
  { name: '+49 30 1234', at: Date.UTC(1999, 1, 28), minor: -50, share: 1e-7, words: ['"quoted", and <b>'] },
  { name: '@sum(A1:A9)', at: Date.UTC(2032, 1, 29, 23, 59), minor: 1, share: 12_345_678.9, words: ['zwei\nZeilen'] },
  { name: '007', at: null, minor: 0, share: 0, words: ['höhle', '蜂蜜'] },
];
const TABLE = () =>
  exportTable(
    'pool',
    [
      text('name', (row) => row.name, 'what it is called'),
      date('at', (row) => row.at, 'when'),
      money('price', (row) => row.minor, 'for what'),
      number('share', (row) => row.share, 'how much'),
      list('words', (row) => row.words, 'what of'),
    ],
    ROWS,
  );

/** The first sheet as the spreadsheet shows it. */
function shownByCalc(file: string, folder: string): string[][] {
  // commas, quotes, UTF-8, from the first line on, cells as they are shown, the first sheet
  const filter = 'csv:Text - txt - csv (StarCalc):44,34,76,1,,0,false,true,false,false,false,1';
  const { status, stderr } = spawnSync('soffice', ['--headless', `-env:UserInstallation=file://${folder}/profile`, '--convert-to', filter, '--outdir', join(folder, 'out'), file], { encoding: 'utf8', timeout: 120_000 }); // biome-ignore format: a command
  if (status !== 0) throw new Error(`the spreadsheet could not open it: ${stderr}`);
  return parse(readFileSync(join(folder, 'out', 'pool-pool.csv'))) as string[][];
}

const shown = (at: number | null) => (at === null ? '' : new Date(at).toISOString().slice(0, 16).replace('T', ' '));

// needs a spreadsheet, which not every machine has: npm run soak installs one
describe.skipIf(process.env.JAM_LADLE_SOAK !== '1')('an export in a spreadsheet', () => {
  it.each(['xlsx', 'ods'] as const)(
    'has the same values, numbers and dates as such, and no formula: %s',
    async (format) => {
      const folder = mkdtempSync(join(tmpdir(), 'calc-'));
      const file = join(folder, `pool.${format}`);
      writeFileSync(file, await buffer(TABLE().as(format)));
      const [titles, ...rows] = shownByCalc(file, folder);
      expect(titles).toEqual(['name', 'at', 'price', 'share', 'words']);
      expect(rows.map(([name]) => name)).toEqual(ROWS.map(({ name }) => name));
      expect(rows.map(([, at]) => at.slice(0, 16))).toEqual(ROWS.map(({ at }) => shown(at)));
      expect(rows.map(([, , price]) => price && Number(price.replaceAll(',', '')))).toEqual(
        ROWS.map(({ minor }) => (minor === null ? '' : minor / 100)),
      );
      for (const [n, row] of rows.entries()) {
        const { share } = ROWS[n];
        if (share === null) expect(row[3]).toBe('');
        else expect(Number(row[3]) / (share || 1)).toBeCloseTo(share === 0 ? 0 : 1, 6);
      }
      expect(rows.map(([, , , , words]) => words)).toEqual(ROWS.map(({ words }) => words.join('; ')));
    },
  );
});
