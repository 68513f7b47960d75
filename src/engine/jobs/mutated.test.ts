import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import ExcelJS from 'exceljs';
import fc from 'fast-check';
import { afterEach, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { previewList } from '../../core/formats/list-columns';
import { Refusal } from '../../core/refusal';
import type { Store } from '../../store/base/database';
import { freshStore } from '../../store/base/testing';
import { eachReject, readSource } from '../../store/sources/sources';
import { asTextFile } from '../files/plain-table';
import { lookAtFile } from '../files/text-file';
import { lookAtLinks } from '../lists/cut-preview';
import { runCut } from './cut';
import { OneDocument } from './fixtures';
import { runList } from './list';
import { trial } from './testing';
import { runVenue } from './venue';
import { runZones } from './zones';

/** Damaged files of every format: never a crash, never a row lost without a word. */
let store: Store;
let server: OneDocument;
beforeAll(async () => {
  store = await freshStore();
});
beforeEach(async () => {
  server = new OneDocument();
  await server.open();
});
afterEach(() => server.close());

const folder = mkdtempSync(join(tmpdir(), 'mutated-'));
let files = 0;
const fileOf = (bytes: Uint8Array) => {
  const path = join(folder, `file-${files++}`);
  writeFileSync(path, bytes);
  return path;
};

const ROWS = 24;
const nameOf = (row: number, run: number) => `hive${row}r${run}.org`;
const TABLE: [name: string, delimiter: string, encode: (text: string) => Buffer][] = [
  ['CSV', ',', (text) => Buffer.from(text)],
  ['TSV', '\t', (text) => Buffer.from(text)],
  ['semicolons', ';', (text) => Buffer.from(text)],
  ['bars', '|', (text) => Buffer.from(text)],
  ['CSV, gzip', ',', (text) => gzipSync(text)],
  ['CSV, UTF-16', ',', (text) => Buffer.from(`\ufeff${text}`, 'utf16le')],
  ['CSV, windows-1252', ',', (text) => Buffer.from(text, 'latin1')],
];

/** Where bytes are changed, taken out or put in, and by what. */
const damage = fc.array(
  fc.record({
    at: fc.double({ min: 0, max: 0.9999, noNaN: true }),
    how: fc.constantFrom('change', 'remove', 'insert', 'cut'),
    byte: fc.oneof(fc.constantFrom(10, 13, 34, 44, 9, 59, 124, 0, 0xff, 0x28, 0x7b, 0x5c), fc.nat(255)),
  }),
  { minLength: 1, maxLength: 6 },
);
type Damage = { at: number; how: string; byte: number }[];
function damaged(bytes: Buffer, blows: Damage): Buffer {
  let result = bytes;
  for (const { at, how, byte } of blows) {
    const place = Math.floor(at * result.length);
    const [head, tail] = [result.subarray(0, place), result.subarray(place)];
    if (how === 'change') result = Buffer.concat([head, Buffer.of(byte), tail.subarray(1)]);
    else if (how === 'remove') result = Buffer.concat([head, tail.subarray(1)]);
    else if (how === 'insert') result = Buffer.concat([head, Buffer.of(byte), tail]);
    else if (place > result.length / 2) result = head;
  }
  return result;
}

function expectSum(sourceId: number): void {
  const source = readSource(store, sourceId)!;
  const { rows_read, rows_taken, rows_repeated, rows_excluded, rows_set_aside } = source;
  expect(rows_taken + rows_repeated + rows_excluded + rows_set_aside).toBe(rows_read);
}
/** Runs a job; what cannot be read at all is told in words. */
async function attempt(run: () => Promise<void>): Promise<void> {
  await run().catch((error: Error) => {
    expect(error).toBeInstanceOf(Refusal);
  });
}
async function importList(path: string): Promise<number | null> {
  let sourceId: number | null = null;
  await attempt(async () => {
    const { format, keys, delimiter, hasHeader, columns } = previewList(
      (await lookAtFile(await asTextFile(path))).sample,
    );
    if (!columns.includes('domain')) return;
    const list = trial(store, 'list', { path, format, keys, delimiter, hasHeader, columns, excludedEndings: ['net'] });
    sourceId = list.sourceId;
    await runList(list.context);
  });
  if (sourceId !== null) expectSum(sourceId);
  return sourceId;
}

describe.each(TABLE)('a damaged list: %s', (_, delimiter, encode) => {
  it('adds up, whatever happened to it', async () => {
    let run = 0;
    await fc.assert(
      fc.asyncProperty(damage, async (blows) => {
        const rows = Array.from({ length: ROWS }, (_, row) =>
          [row % 7 === 0 ? 'a.net' : nameOf(row, run), '"two words"', '2026-11-27', '£1.2k'].join(delimiter),
        );
        run++;
        await importList(
          fileOf(
            damaged(
              encode(`domain${delimiter}note${delimiter}drop date${delimiter}price\n${rows.join('\n')}\n`),
              blows,
            ),
          ),
        );
      }),
      { numRuns: 25 },
    );
  });
});

describe('a list with one damaged row', () => {
  it('has all others taken', async () => {
    let run = 1000;
    await fc.assert(
      fc.asyncProperty(
        fc.nat(ROWS - 1),
        fc.string({ maxLength: 30, unit: fc.constantFrom('"', ',', 'x', ' ', '\0', '\ufffd', "'", '\\', '""') }),
        async (broken, text) => {
          const thisRun = run++;
          const rows = Array.from({ length: ROWS }, (_, row) =>
            row === broken ? text : `${nameOf(row, thisRun)},"a, note",2026-11-27`,
          );
          const params = { delimiter: ',', hasHeader: true, columns: ['domain', 'ignore', 'drop-date'] };
          const list = trial(store, 'list', {
            path: fileOf(Buffer.from(`domain,note,date\n${rows.join('\n')}\n`)),
            ...params,
          });
          await runList(list.context);
          expectSum(list.sourceId);
          const taken = readSource(store, list.sourceId)!.rows_taken;
          expect(taken).toBe(ROWS - 1);
          // a row of empty cells is no row
          const isBlank = /^[", ]*$/.test(text) && (text.match(/"/g)?.length ?? 0) % 2 === 0;
          const rejects = [...eachReject(store, list.sourceId)].map(({ line }) => line);
          if (!isBlank) expect(rejects).toEqual([broken + 2]);
        },
      ),
      { numRuns: 60 },
    );
  });
});

describe('damaged files of other formats', () => {
  it('JSON Lines add up', async () => {
    let run = 2000;
    await fc.assert(
      fc.asyncProperty(damage, async (blows) => {
        const thisRun = run++;
        const rows = Array.from({ length: ROWS }, (_, row) =>
          JSON.stringify({ domain: nameOf(row, thisRun), price: '12 EUR' }),
        );
        await importList(fileOf(damaged(Buffer.from(`${rows.join('\n')}\n`), blows)));
      }),
      { numRuns: 60 },
    );
  });

  it('plain text adds up', async () => {
    let run = 3000;
    await fc.assert(
      fc.asyncProperty(damage, async (blows) => {
        const thisRun = run++;
        const rows = Array.from({ length: ROWS }, (_, row) => nameOf(row, thisRun));
        await importList(fileOf(damaged(Buffer.from(rows.join('\n')), blows)));
      }),
      { numRuns: 60 },
    );
  });

  it('workbooks add up, or are told to be none', async () => {
    const book = new ExcelJS.Workbook();
    const sheet = book.addWorksheet('names');
    sheet.addRow(['domain', 'drop date']);
    for (let row = 0; row < ROWS; row++) sheet.addRow([nameOf(row, 4000), new Date(Date.UTC(2026, 10, 27))]);
    const path = join(folder, 'book.xlsx');
    await book.xlsx.writeFile(path);
    const bytes = readFileSync(path);
    const whole = await importList(fileOf(bytes));
    expect(readSource(store, whole ?? 0)).toMatchObject({ rows_read: ROWS, rows_taken: ROWS });
    const packed = await importList(fileOf(gzipSync(bytes)));
    expect(readSource(store, packed ?? 0)).toMatchObject({ rows_read: ROWS, rows_taken: ROWS, domains_new: 0 });
    await fc.assert(
      fc.asyncProperty(damage, fc.boolean(), async (blows, isPacked) => {
        await importList(fileOf(damaged(isPacked ? gzipSync(bytes) : bytes, blows)));
      }),
      { numRuns: 40 },
    );
  }, 60_000);

  it('a workbook with a turned byte is read, or told to be damaged, and never waited for', async () => {
    const bytes = readFileSync(join(folder, 'book.xlsx'));
    const failures = new Set<string>();
    for (let at = 600; at < bytes.length; at += 85) {
      const broken = Buffer.from(bytes);
      broken[at] ^= 0xff;
      await asTextFile(fileOf(broken)).catch((error: Error) => failures.add(error.message));
    }
    expect(failures.size).toBeGreaterThan(0);
    for (const message of failures) expect(message).toMatch(/damaged|no workbook|has no|holds no/);
  }, 60_000);

  it('link exports add up', async () => {
    await fc.assert(
      fc.asyncProperty(damage, fc.constantFrom(...TABLE), async (blows, [, delimiter, encode]) => {
        const rows = Array.from({ length: ROWS }, (_, row) =>
          [`http://a.org/${row}`, `http://wax${row}.org/`, '"with, words"', row % 3 ? '' : 'nofollow'].join(delimiter),
        );
        const path = fileOf(
          damaged(encode(`from${delimiter}to${delimiter}anchor${delimiter}rel\n${rows.join('\n')}\n`), blows),
        );
        await attempt(async () => {
          const { format, keys, hasHeader, columns, delimiter: found } = await lookAtLinks(store, path, {});
          if (!columns.includes('from') || !columns.includes('to')) return;
          const cut = trial(store, 'cut', { path, format, keys, delimiter: found, hasHeader, columns });
          await runCut(cut.context);
          expectSum(cut.sourceId);
        });
      }),
      { numRuns: 60 },
    );
  });

  it('zone copies add up, or are told to be none', async () => {
    const zone = (skipped: number) =>
      `$ORIGIN org.\n@ IN SOA a.nic.org. b.nic.org. ( 1 2 3\n 4 5 )\n${Array.from({ length: ROWS }, (_, row) =>
        row === skipped ? '' : `wax${row} 3600 IN NS ns1.host.net.\n  IN NS ns2.host.net.\n`,
      ).join('')}`;
    const newer = fileOf(Buffer.from(zone(3)));
    await fc.assert(
      fc.asyncProperty(damage, fc.boolean(), async (blows, isPacked) => {
        const bytes = Buffer.from(zone(-1));
        const older = fileOf(damaged(isPacked ? gzipSync(bytes) : bytes, blows));
        await attempt(async () => {
          const zones = trial(store, 'zones', { older, newer });
          await runZones(zones.context);
          expectSum(zones.sourceId);
        });
      }),
      { numRuns: 60 },
    );
  });

  it('venue feeds and tables add up, or are told to be none', async () => {
    await fc.assert(
      fc.asyncProperty(damage, fc.boolean(), async (blows, isTable) => {
        const listings = Array.from({ length: ROWS }, (_, row) => ({
          domain: `lot${row}.org`,
          kind: 'auction',
          priceMinor: 100 * row,
        }));
        const feed = JSON.stringify({ venue: 'Quayside Lots', currency: 'GBP', listings });
        const table = `lot;price\n${listings.map(({ domain, priceMinor }) => `${domain};£${priceMinor}`).join('\n')}\n`;
        server.body = damaged(Buffer.from(isTable ? table : feed), blows);
        const mapping = { delimiter: ';', columns: ['domain', 'price'], venue: 'Quayside Lots' };
        const venue = trial(store, 'venue', { url: server.url, table: isTable ? mapping : null });
        await attempt(() => runVenue(venue.context));
        expectSum(venue.sourceId);
      }),
      { numRuns: 40 },
    );
  });
});
