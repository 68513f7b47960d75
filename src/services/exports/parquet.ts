import { Readable } from 'node:stream';
import type { ByteWriter as Bytes, ColumnSource } from 'hyparquet-writer';
import { type Cell, type ColumnKind, type ExportColumn, flat } from '../../core/formats/exports';

/** Rows that are packed together: few enough that nothing else waits long. */
const GROUP_ROWS = 6_000;
const TYPES = { text: 'STRING', list: 'STRING', number: 'DOUBLE', money: 'DOUBLE', date: 'TIMESTAMP' } as const;

/** Rows as Parquet, a group of rows after another as they come: texts, 64-bit numbers, moments in ms UTC; what is not known is null. */
export function exportedParquet<Row>(
  rows: AsyncIterable<Row> | Iterable<Row>,
  columns: readonly ExportColumn<Row>[],
): Readable {
  return Readable.from(partsOf(rows, columns), { objectMode: false });
}

async function* partsOf<Row>(
  rows: AsyncIterable<Row> | Iterable<Row>,
  columns: readonly ExportColumn<Row>[],
): AsyncGenerator<Buffer> {
  const { ByteWriter, ParquetWriter, schemaFromColumnData } = await import('hyparquet-writer');
  const bytes = new ByteWriter();
  let cells: unknown[][] = columns.map(() => []);
  const group = (): ColumnSource[] =>
    columns.map(({ title, kind }, n) => ({
      name: title,
      data: cells[n],
      type: TYPES[kind],
      nullable: true,
      offsetIndex: false,
    }));
  const writer = new ParquetWriter({
    writer: bytes,
    schema: schemaFromColumnData({ columnData: group() }),
    // least and greatest values of each column and group would be kept to the end
    statistics: false,
  });
  const pack = () => {
    writer.write({ columnData: group(), rowGroupSize: GROUP_ROWS });
    cells = columns.map(() => []);
    return taken(bytes);
  };
  for await (const row of rows) {
    for (const [n, { of, kind }] of columns.entries()) cells[n].push(cellOf(of(row), kind));
    if (cells[0].length === GROUP_ROWS) yield pack();
  }
  if (cells[0].length > 0) yield pack();
  await writer.finish();
  yield taken(bytes);
}

/** What was written by now; the place in the file goes on. */
function taken(bytes: Bytes): Buffer {
  const part = Buffer.from(bytes.getBytes());
  bytes.index = 0;
  return part;
}

function cellOf(given: Cell, kind: ColumnKind): string | number | Date | null {
  const cell = flat(given);
  if (cell === null || typeof cell === 'string') return cell;
  if (kind === 'date') return new Date(cell);
  return kind === 'money' ? cell / 100 : cell;
}
