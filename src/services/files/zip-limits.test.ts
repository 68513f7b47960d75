import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { crc32, deflateRawSync } from 'node:zlib';
import { describe, expect, it } from 'vitest';
import { refuseBombs } from './zip-limits';

const MB = 2 ** 20;

interface Part {
  name: string;
  bytes: Buffer;
  /** What the archive says of its size; else what is true. */
  said?: number;
}

/** A ZIP archive (APPNOTE 6.3.10) whose parts may say what is untrue of themselves. */
function archive(parts: Part[]): string {
  const path = join(mkdtempSync(join(tmpdir(), 'zip-')), 'book.xlsx');
  const [files, directory]: [Buffer[], Buffer[]] = [[], []];
  let at = 0;
  for (const { name, bytes, said = bytes.length } of parts) {
    const packed = deflateRawSync(bytes);
    const fields = Buffer.alloc(26);
    fields.writeUInt16LE(20, 0);
    fields.writeUInt16LE(8, 4);
    fields.writeUInt32LE(crc32(bytes), 10);
    fields.writeUInt32LE(packed.length, 14);
    fields.writeUInt32LE(said, 18);
    fields.writeUInt16LE(name.length, 22);
    const head = Buffer.concat([Buffer.from('PK\u0003\u0004'), fields, Buffer.from(name)]);
    const entry = Buffer.alloc(46);
    entry.write('PK\u0001\u0002', 'latin1');
    entry.writeUInt16LE(20, 4);
    fields.copy(entry, 6);
    entry.writeUInt32LE(at, 42);
    files.push(head, packed);
    directory.push(entry, Buffer.from(name));
    at += head.length + packed.length;
  }
  const index = Buffer.concat(directory);
  const end = Buffer.alloc(22);
  end.write('PK\u0005\u0006', 'latin1');
  end.writeUInt16LE(parts.length, 8);
  end.writeUInt16LE(parts.length, 10);
  end.writeUInt32LE(index.length, 12);
  end.writeUInt32LE(at, 16);
  writeFileSync(path, Buffer.concat([...files, index, end]));
  return path;
}
const texts = (bytes: Buffer, said?: number): Part => ({ name: 'xl/sharedStrings.xml', bytes, said });
const sheet = { name: 'xl/worksheets/sheet1.xml', bytes: Buffer.from('<sheetData/>') };

describe('a workbook', () => {
  it('is read where its parts are as large as one has', async () => {
    await expect(refuseBombs(archive([texts(Buffer.alloc(MB)), sheet]))).resolves.toBeUndefined();
  });

  it('whose texts would fill the memory is refused, whatever they say of themselves', async () => {
    const zeros = Buffer.alloc(60 * MB);
    await expect(refuseBombs(archive([sheet, texts(zeros)]))).rejects.toThrow(
      'The texts of the workbook would take 60 MB',
    );
    const before = process.memoryUsage.rss();
    await expect(refuseBombs(archive([texts(zeros, 1000)]))).rejects.toThrow('damaged');
    await expect(refuseBombs(archive([texts(Buffer.from('x'), 0xffff_fff0)]))).rejects.toThrow('4,096 MB');
    expect(process.memoryUsage.rss() - before).toBeLessThan(200 * MB);
  });

  it('that is none is said to be none', async () => {
    const path = archive([sheet]);
    writeFileSync(path, 'PK\u0003\u0004 and nothing else');
    await expect(refuseBombs(path)).rejects.toThrow('no workbook that can be read');
  });
});
