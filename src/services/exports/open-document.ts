import { PassThrough, Readable } from 'node:stream';
import { ZipFile } from 'yazl';
import { type Cell, type ColumnKind, type ExportColumn, flat, MOST_SHEET_ROWS } from '../../core/formats/exports';
import { inParts } from './in-parts';

const TYPE = 'application/vnd.oasis.opendocument.spreadsheet';

const MANIFEST = `<?xml version="1.0" encoding="UTF-8"?>
<manifest:manifest xmlns:manifest="urn:oasis:names:tc:opendocument:xmlns:manifest:1.0" manifest:version="1.3"><manifest:file-entry manifest:full-path="/" manifest:version="1.3" manifest:media-type="${TYPE}"/><manifest:file-entry manifest:full-path="content.xml" manifest:media-type="text/xml"/></manifest:manifest>`;

const HEAD = `<?xml version="1.0" encoding="UTF-8"?>
<office:document-content xmlns:office="urn:oasis:names:tc:opendocument:xmlns:office:1.0" xmlns:table="urn:oasis:names:tc:opendocument:xmlns:table:1.0" xmlns:text="urn:oasis:names:tc:opendocument:xmlns:text:1.0" xmlns:style="urn:oasis:names:tc:opendocument:xmlns:style:1.0" xmlns:number="urn:oasis:names:tc:opendocument:xmlns:datastyle:1.0" xmlns:fo="urn:oasis:names:tc:opendocument:xmlns:xsl-fo-compatible:1.0" office:version="1.3"><office:automatic-styles><number:date-style style:name="moment"><number:year number:style="long"/><number:text>-</number:text><number:month number:style="long"/><number:text>-</number:text><number:day number:style="long"/><number:text> </number:text><number:hours number:style="long"/><number:text>:</number:text><number:minutes number:style="long"/></number:date-style><number:number-style style:name="cents"><number:number number:decimal-places="2" number:min-decimal-places="2" number:min-integer-digits="1" number:grouping="true"/></number:number-style><style:style style:name="date" style:family="table-cell" style:data-style-name="moment"/><style:style style:name="money" style:family="table-cell" style:data-style-name="cents"/><style:style style:name="title" style:family="table-cell"><style:text-properties fo:font-weight="bold"/></style:style></office:automatic-styles><office:body><office:spreadsheet>`;
const END = '</office:spreadsheet></office:body></office:document-content>';

/**
 * A workbook in OpenDocument (OASIS ODF 1.3) as it is made: rows go out as they come, in several sheets where they are more than one
 * holds. Numbers are numbers, dates dates, texts never formulas; the last sheet says what the columns are.
 *
 * @param name of the sheet. @param mostRows of a sheet.
 */
export function exportedOpenDocument<Row>(
  rows: AsyncIterable<Row> | Iterable<Row>,
  columns: readonly ExportColumn<Row>[],
  name: string,
  mostRows = MOST_SHEET_ROWS,
): PassThrough {
  const out = new PassThrough({ highWaterMark: 1 << 18 });
  const zip = new ZipFile();
  const content = Readable.from(inParts(contentOf(rows, columns, name, mostRows)));
  content.on('error', (error) => out.destroy(error));
  out.on('close', () => content.destroy());
  // first and not packed, so that what it is can be read in its first bytes
  zip.addBuffer(Buffer.from(TYPE), 'mimetype', { compress: false });
  zip.addBuffer(Buffer.from(MANIFEST), 'META-INF/manifest.xml');
  zip.addReadStream(content, 'content.xml');
  zip.end();
  zip.outputStream.pipe(out);
  return out;
}

async function* contentOf<Row>(
  rows: AsyncIterable<Row> | Iterable<Row>,
  columns: readonly ExportColumn<Row>[],
  name: string,
  mostRows: number,
): AsyncGenerator<string> {
  const titles = rowOf(columns.map(({ title }) => cellOf(title, 'text', 'title')));
  yield `${HEAD}<table:table table:name="${escaped(name)}">${titles}`;
  let sheets = 1;
  let count = 0;
  for await (const row of rows) {
    if (count === mostRows) {
      yield `</table:table><table:table table:name="${escaped(`${name} ${++sheets}`)}">${titles}`;
      count = 0;
    }
    yield rowOf(columns.map(({ of, kind }) => cellOf(of(row), kind)));
    count++;
  }
  yield '</table:table><table:table table:name="About the columns">';
  yield rowOf([cellOf('column', 'text', 'title'), cellOf('what it says', 'text', 'title')]);
  for (const { title, about } of columns) yield rowOf([cellOf(title, 'text'), cellOf(about, 'text')]);
  yield `</table:table>${END}`;
}

const rowOf = (cells: readonly string[]) => `<table:table-row>${cells.join('')}</table:table-row>`;

function cellOf(given: Cell, kind: ColumnKind, style: string = kind): string {
  const cell = flat(given);
  if (cell === null) return '<table:table-cell/>';
  const styled = style === 'text' || style === 'list' || style === 'number' ? '' : ` table:style-name="${style}"`;
  if (typeof cell === 'string')
    return `<table:table-cell${styled} office:value-type="string"><text:p>${escaped(cell)}</text:p></table:table-cell>`;
  if (kind === 'date')
    return `<table:table-cell${styled} office:value-type="date" office:date-value="${new Date(cell).toISOString().slice(0, 19)}"/>`;
  return `<table:table-cell${styled} office:value-type="float" office:value="${kind === 'money' ? cell / 100 : cell}"/>`;
}

/** As XML 1.0 holds it: control characters are none of its own. */
function escaped(text: string): string {
  return text
    .replace(/[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]/g, '')
    .replaceAll('&', '&amp;')
    .replaceAll('<', '&lt;')
    .replaceAll('>', '&gt;')
    .replaceAll('"', '&quot;');
}
