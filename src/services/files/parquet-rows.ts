import type { AsyncBuffer, FileMetaData } from 'hyparquet';
import { numberText } from '../../core/formats/sheets/sheet';
import { FileProblem } from './file-problem';

/** Rows that are held at a time: a group of rows is as large as whoever wrote it liked. */
const ROWS_AT_ONCE = 60_000;

/**
 * Rows of a file of columns (Apache Parquet), their names first, a part at a time: dates in ISO 8601, numbers as they are.
 *
 * @param most bytes that its cells may come to. @throws FileProblem where it is damaged.
 */
export async function* parquetRows(
  file: AsyncBuffer | ArrayBuffer,
  most = Number.POSITIVE_INFINITY,
): AsyncGenerator<string[]> {
  const { parquetMetadataAsync, parquetReadObjects } = await import('hyparquet');
  const { compressors } = await import('hyparquet-compressors');
  let metadata: FileMetaData;
  try {
    metadata = await parquetMetadataAsync(file as AsyncBuffer);
  } catch (error) {
    throw damaged(error);
  }
  const { row_groups: groups, num_rows: rows, schema } = metadata;
  // a few bytes may stand for a billion equal rows
  if (Number(rows) * schema.length * CELL_BYTES > most)
    throw new FileProblem(`What is packed takes more than ${most / 2 ** 20} MB.`);
  let columns: string[] | null = null;
  let start = 0;
  for (const group of groups) {
    const end = start + Number(group.num_rows);
    for (; start < end; start = Math.min(end, start + ROWS_AT_ONCE)) {
      let objects: Record<string, unknown>[];
      try {
        const rowEnd = Math.min(end, start + ROWS_AT_ONCE);
        objects = await parquetReadObjects({
          file: file as AsyncBuffer,
          metadata,
          compressors,
          rowStart: start,
          rowEnd,
          useOffsetIndex: true,
        });
      } catch (error) {
        throw damaged(error);
      }
      if (columns === null) {
        columns = Object.keys(objects[0] ?? {});
        yield columns;
      }
      for (const row of objects) yield columns.map((column) => cellOf(row[column]));
    }
  }
}

/** What a cell takes in memory at least. */
const CELL_BYTES = 16;

const damaged = (error: unknown) => new FileProblem(`The Parquet file is damaged (${(error as Error).message}).`);

function cellOf(value: unknown): string {
  if (value === null || value === undefined) return '';
  if (value instanceof Date)
    return value.getTime() % 86_400_000 === 0 ? value.toISOString().slice(0, 10) : value.toISOString();
  if (typeof value === 'number') return numberText(value);
  if (value instanceof Uint8Array) return new TextDecoder().decode(value);
  return typeof value === 'object' ? JSON.stringify(value) : String(value);
}
