import { Readable } from 'node:stream';
import { type ExportColumn, type ExportFormat, exportedText } from '../../core/formats/exports';
import { inParts } from './in-parts';
import { exportedOpenDocument } from './open-document';
import { exportedParquet } from './parquet';
import { exportedWorkbook } from './workbook';

/** A list as it leaves, in whatever format. */
export interface ExportTable {
  /** Of its file, without what says the format. */
  name: string;
  columns: readonly { title: string; about: string }[];
  /** Its bytes, as they are made. */
  as(format: ExportFormat): Readable;
}

/** Rows are read once, when they are written. */
export function exportTable<Row>(
  name: string,
  columns: readonly ExportColumn<Row>[],
  rows: AsyncIterable<Row> | Iterable<Row>,
): ExportTable {
  return {
    name,
    columns,
    as(format) {
      if (format === 'xlsx') return exportedWorkbook(rows, columns, name);
      if (format === 'ods') return exportedOpenDocument(rows, columns, name);
      if (format === 'parquet') return exportedParquet(rows, columns);
      return Readable.from(inParts(exportedText(rows, columns, format)), { objectMode: false });
    },
  };
}
