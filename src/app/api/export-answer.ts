import { Readable } from 'node:stream';
import { EXPORT_TYPES, type ExportFormat } from '../../core/formats/exports';
import type { ExportTable } from '../../services/exports/table';

/** A list as a file to be kept, made as it is read. */
export function exportAnswer(table: ExportTable, format: ExportFormat, name = table.name): Response {
  return new Response(Readable.toWeb(table.as(format)) as ReadableStream, {
    headers: {
      'content-type': EXPORT_TYPES[format],
      'content-disposition': `attachment; filename="${name}.${format}"`,
    },
  });
}
