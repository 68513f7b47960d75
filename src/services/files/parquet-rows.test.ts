import { parquetWriteBuffer } from 'hyparquet-writer';
import { expect, it } from 'vitest';
import { parquetRows } from './parquet-rows';

const COUNT = 130_000;
/** A list with one group of rows, as some programs write it, or many. */
const written = (rowGroupSize: number) =>
  parquetWriteBuffer({
    columnData: [
      { name: 'domain', data: Array.from({ length: COUNT }, (_, n) => `hive${n}.org`), type: 'STRING' },
      { name: 'price', data: Array.from({ length: COUNT }, (_, n) => (n % 3 === 0 ? null : n / 4)), type: 'DOUBLE', nullable: true },
      { name: 'ends', data: Array.from({ length: COUNT }, (_, n) => new Date(Date.UTC(2026, 11, 1) + (n % 2) * 3_600_000)), type: 'TIMESTAMP' },
    ],
    rowGroupSize,
  }); // biome-ignore format: a column a line
async function all(file: ArrayBuffer, most?: number): Promise<string[][]> {
  const rows: string[][] = [];
  for await (const row of parquetRows(file, most)) rows.push(row);
  return rows;
}

it.each([COUNT, 7_000])('rows of Parquet come a part at a time, in their order, in groups of %i', async (size) => {
  const [titles, ...rows] = await all(written(size));
  expect(titles).toEqual(['domain', 'price', 'ends']);
  expect(rows.length).toBe(COUNT);
  expect(rows[0]).toEqual(['hive0.org', '', '2026-12-01']);
  expect(rows.findIndex(([name], n) => name !== `hive${n}.org`)).toBe(-1);
  expect(rows[99_999]).toEqual(['hive99999.org', '', '2026-12-01T01:00:00.000Z']);
  expect(rows[100_001]).toEqual(['hive100001.org', '25000.25', '2026-12-01T01:00:00.000Z']);
});

it('a few bytes that stand for a billion rows are refused, and what is damaged says so', async () => {
  const rows = 1_000_000;
  const many = parquetWriteBuffer({ columnData: [{ name: 'a', data: new Array(rows).fill('x'), type: 'STRING' }] });
  expect(many.byteLength).toBeLessThan(rows / 4);
  await expect(all(many, 2 ** 20)).rejects.toThrow('What is packed takes more than 1 MB.');
  await expect(all(many.slice(0, 200))).rejects.toThrow('The Parquet file is damaged');
});
