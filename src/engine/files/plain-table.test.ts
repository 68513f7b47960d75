import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { gunzipSync, gzipSync } from 'node:zlib';
import ExcelJS from 'exceljs';
import { afterAll, beforeEach, describe, expect, it } from 'vitest';
import { ZipFile } from 'yazl';
import { packingOf } from '../../services/files/packing';
import { asTextFile, plainTable } from './plain-table';

let folder = '';
const folders: string[] = [];
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'plain-table-'));
  folders.push(folder);
});
afterAll(() => {
  for (const one of folders) rmSync(one, { recursive: true });
});

function fileOf(content: string | Buffer): string {
  const path = join(folder, `file${readdirSync(folder).length}`);
  writeFileSync(path, content);
  return path;
}

async function zipOf(files: Record<string, string | Buffer>): Promise<string> {
  const zip = new ZipFile();
  for (const [name, content] of Object.entries(files)) zip.addBuffer(Buffer.from(content), name);
  zip.end();
  const parts: Buffer[] = [];
  for await (const part of zip.outputStream) parts.push(part as Buffer);
  return fileOf(Buffer.concat(parts));
}

async function bookOf(sheets: Record<string, (string | number | Date)[][]>): Promise<string> {
  const book = new ExcelJS.Workbook();
  for (const [name, rows] of Object.entries(sheets)) book.addWorksheet(name).addRows(rows);
  return fileOf(Buffer.from(await book.xlsx.writeBuffer()));
}

const textOf = async (path: string, sheet: string | null = null) => readFileSync(await asTextFile(path, sheet), 'utf8');
const LIST = 'domain,bids\ntarnhives.org,3\nwexcombe.co.uk,1\n';
const OTHER = 'domain,bids\nlowmoor.net,9\n';

describe('a file as a table', () => {
  it('is itself where it is one, gzipped too, and nothing is written beside it', async () => {
    for (const content of [
      LIST,
      gzipSync(LIST),
      '{"domain":"tarnhives.org"}\n{"domain":"wexcombe.co.uk"}\n',
      'tarnhives.org\n',
    ]) {
      const path = fileOf(content);
      expect(await plainTable(path)).toEqual({ path, sheets: [], sheet: null });
    }
    expect(readdirSync(folder)).toHaveLength(4);
  });

  it('is unpacked by what it says of itself, whatever it is called', async () => {
    const plain = fileOf(LIST);
    const cases = join(import.meta.dirname, '../../../bench/cases/files');
    for (const name of ['packed.csv.bz2', 'packed.csv.zst']) {
      const packed = fileOf(readFileSync(join(cases, name)));
      expect(await textOf(packed)).toBe(readFileSync(plain, 'utf8'));
    }
    // gzipped once is read as it is
    expect(gunzipSync(readFileSync(await asTextFile(fileOf(gzipSync(gzipSync(LIST)))))).toString()).toBe(LIST);
    await expect(asTextFile(fileOf(gzipSync(gzipSync(gzipSync(gzipSync(gzipSync(LIST)))))))).rejects.toThrow(
      'more often',
    );
    expect(packingOf(Buffer.from('BZheads.org\n'))).toBeNull();
  });

  it('is the likeliest file of an archive, or the one that is chosen, which stays chosen', async () => {
    const path = await zipOf({ 'about.txt': 'These lists were made on Saturday.', 'old.csv': OTHER, 'new.csv': LIST });
    const likely = await plainTable(path);
    expect(likely).toMatchObject({ sheets: ['about.txt', 'old.csv', 'new.csv'], sheet: 'new.csv' });
    expect(readFileSync(likely.path, 'utf8')).toBe(LIST);
    const chosen = await plainTable(path, 'old.csv');
    expect(chosen).toMatchObject({ sheets: likely.sheets, sheet: 'old.csv' });
    expect(readFileSync(chosen.path, 'utf8')).toBe(OTHER);
    await expect(plainTable(path, 'none.csv')).rejects.toThrow('no list "none.csv"');
  });

  it('is the likeliest sheet of a workbook, or the one that is chosen; what was written once is read again', async () => {
    const at = new Date(Date.UTC(2026, 11, 5, 14, 30));
    const path = await bookOf({
      Summary: [['Lots of the week'], ['made for Mara']],
      Lots: [
        ['Domain', 'Ends', 'Share'],
        ['tarnhives.org', at, 12.345],
        ['wexcombe.co.uk', at, 0.5, '"quoted", a remark\nof two lines'],
      ],
      Old: [['Domain'], ['lowmoor.net']],
    });
    const first = await plainTable(path);
    expect(first).toMatchObject({ sheets: ['Summary', 'Lots', 'Old'], sheet: 'Lots' });
    const text = readFileSync(first.path, 'utf8');
    expect(text.split('\n')[1]).toBe('tarnhives.org,2026-12-05T14:30:00,12.3450');
    expect(text.split('\n')[2]).toBe('wexcombe.co.uk,2026-12-05T14:30:00,0.5,"""quoted"", a remark of two lines"');
    writeFileSync(first.path, 'as it was left');
    expect(await textOf(path)).toBe('as it was left');
    expect(await textOf(path, 'Old')).toBe('Domain\nlowmoor.net\n');
    await expect(plainTable(path, 'None')).rejects.toThrow('no sheet "None"');
  });

  it('is made of what is no table, by the path of its array', async () => {
    const path = fileOf(
      JSON.stringify({
        venues: [{ site: 'saltmarchexchange.com' }],
        lots: [
          { domain: { name: 'tarnhives.org' }, bids: 3 },
          { domain: { name: 'wexcombe.co.uk' }, bids: 1 },
        ],
      }),
    );
    const table = await plainTable(path);
    expect(table).toMatchObject({ sheets: ['venues', 'lots'], sheet: 'lots' });
    expect(readFileSync(table.path, 'utf8')).toBe('domain/name,bids\ntarnhives.org,3\nwexcombe.co.uk,1\n');
    expect(
      await textOf(
        fileOf('<lots><lot><domain>tarnhives.org</domain></lot><lot><domain>wexcombe.co.uk</domain></lot></lots>'),
      ),
    ).toBe('domain\ntarnhives.org\nwexcombe.co.uk\n');
    expect(await textOf(fileOf('{"domain":{"name":"tarnhives.org"}}\n{"domain":{"name":"wexcombe.co.uk"}}\n'))).toBe(
      'domain/name\ntarnhives.org\nwexcombe.co.uk\n',
    );
  });

  it.each([
    ['nothing', '', 'The file is empty.'],
    ['a document', '%PDF-1.7\n', 'This is a PDF document, not a list.'],
    ['damaged JSON', '{"lots":[{"domain":"tarnhives.org"},', 'The JSON is damaged'],
    ['a cut gzip file', gzipSync(LIST.repeat(100)).subarray(0, 40), 'damaged or cut short'],
    ['a cut archive', Buffer.from('PK\u0003\u0004 and nothing else'), 'ZIP archive'],
  ])('says what is wrong with %s, and leaves no half of it', async (_, content, message) => {
    const path = fileOf(content as string);
    await expect(asTextFile(path)).rejects.toThrow(message);
    expect(readdirSync(folder).filter((name) => name.endsWith('.csv'))).toEqual([]);
    expect(existsSync(path)).toBe(true);
  });
});
