import { Parser } from 'htmlparser2';
import { jsonSheets } from './json';
import { MOST_SHEETS, type Sheet, trimmed } from './sheet';

const MOST_SPAN = 200;

/** Tables of XML: elements that come again and again are rows, their attributes and children columns. */
export function xmlSheets(text: string): Sheet[] {
  const root: Record<string, unknown> = {};
  const open: { name: string; value: Record<string, unknown>; text: string }[] = [{ name: '', value: root, text: '' }];
  const parser = new Parser(
    {
      onopentag: (tag, attributes) => {
        const value: Record<string, unknown> = {};
        for (const [name, given] of Object.entries(attributes))
          if (!name.startsWith('xmlns')) value[bare(name)] = given;
        open.push({ name: bare(tag), value, text: '' });
      },
      ontext: (piece) => {
        open[open.length - 1].text += piece;
      },
      onclosetag: () => {
        if (open.length < 2) return;
        const { name, value, text: said } = open.pop() as (typeof open)[number];
        const words = said.trim();
        let hasParts = false;
        for (const _ in value) {
          hasParts = true;
          break;
        }
        if (hasParts && words !== '') value['#text'] = words;
        put(open[open.length - 1].value, name, hasParts ? value : words);
      },
    },
    { xmlMode: true, decodeEntities: true },
  );
  parser.write(text);
  parser.end();
  return jsonSheets(listed(root));
}

const bare = (name: string) => name.slice(name.indexOf(':') + 1);

/** Elements of one name are a list. */
function put(parent: Record<string, unknown>, name: string, value: unknown): void {
  const before = parent[name];
  if (before === undefined) parent[name] = value;
  else if (Array.isArray(before)) before.push(value);
  else parent[name] = [before, value];
}

/** An element that is there once is a list of one where its parent is named after it in the plural, or holds nothing else. */
function listed(value: unknown): unknown {
  if (typeof value !== 'object' || value === null) return value;
  if (Array.isArray(value)) return value.map(listed);
  const entries = Object.entries(value).map(([key, entry]): [string, unknown] => [key, listed(entry)]);
  if (entries.length === 1) {
    const [[key, entry]] = entries;
    if (typeof entry === 'object' && entry !== null && !Array.isArray(entry) && !('#text' in entry))
      return { [key]: Object.values(entry).some((part) => typeof part === 'object') ? entry : [entry] };
  }
  return Object.fromEntries(entries);
}

interface Open {
  rows: string[][];
  row: string[] | null;
  cell: string | null;
  column: number;
  columnSpan: number;
  rowSpan: number;
  /** Cells of rows above that reach into the next ones, by column: rows they still cover, and their text. */
  hanging: Map<number, { rows: number; text: string }>;
}

/** Tables of a page; where it has none, the lines of its text as one. Cells over several columns or rows stand in each of them. */
export function htmlSheets(text: string): Sheet[] {
  const sheets: Sheet[] = [];
  const open: Open[] = [];
  const lines: string[] = [];
  let line = '';
  let muted = 0;
  let caption: string | null = null;
  const endLine = () => {
    if (line.trim() !== '') lines.push(line.replace(/\s+/g, ' ').trim());
    line = '';
  };
  const endCell = (table: Open) => {
    if (table.cell === null || table.row === null) return;
    const cell = table.cell.replace(/[ \t\r\n\u00a0]+/g, ' ').trim();
    while (table.hanging.has(table.column)) hang(table);
    for (let n = 0; n < table.columnSpan; n++) {
      table.row[table.column] = n === 0 ? cell : '';
      if (table.rowSpan > 1) table.hanging.set(table.column, { rows: table.rowSpan - 1, text: n === 0 ? cell : '' });
      table.column++;
    }
    table.cell = null;
  };
  const hang = (table: Open) => {
    const above = table.hanging.get(table.column);
    if (!above || table.row === null) return;
    table.row[table.column] = above.text;
    if (above.rows > 1) table.hanging.set(table.column, { ...above, rows: above.rows - 1 });
    else table.hanging.delete(table.column);
    table.column++;
  };
  const endRow = (table: Open) => {
    endCell(table);
    if (table.row === null) return;
    for (const column of [...table.hanging.keys()].sort((a, b) => a - b))
      if (column >= table.column) {
        table.column = column;
        hang(table);
      }
    const row = trimmed(Array.from(table.row, (cell) => cell ?? ''));
    if (row.length > 0) table.rows.push(row);
    table.row = null;
  };
  const parser = new Parser(
    {
      onopentag: (tag, attributes) => {
        const table = open.at(-1);
        if (MUTED.has(tag)) muted++;
        else if (tag === 'table')
          open.push({ rows: [], row: null, cell: null, column: 0, columnSpan: 1, rowSpan: 1, hanging: new Map() });
        else if (tag === 'caption') caption = '';
        else if (tag === 'tr' && table) {
          endRow(table);
          table.row = [];
          table.column = 0;
        } else if ((tag === 'td' || tag === 'th') && table) {
          table.row ??= [];
          endCell(table);
          table.cell = '';
          table.columnSpan = spanOf(attributes.colspan);
          table.rowSpan = spanOf(attributes.rowspan);
          // the order of a column may be told by a value of its own
          if (attributes['data-order'] ?? attributes['data-sort']) table.cell = '';
        } else if (tag === 'br' && table?.cell != null) table.cell += '\n';
        else if (tag === 'time' && table && table.cell !== null && attributes.datetime) table.cell = `${table.cell} `;
        if (BLOCKS.has(tag)) endLine();
      },
      ontext: (piece) => {
        if (muted > 0) return;
        if (caption !== null) caption += piece;
        const table = open.at(-1);
        if (table?.cell != null) table.cell += piece;
        else if (!table) line += piece;
      },
      onclosetag: (tag) => {
        const table = open.at(-1);
        if (MUTED.has(tag)) muted = Math.max(0, muted - 1);
        else if (tag === 'caption') caption = caption?.trim() ?? null;
        else if ((tag === 'td' || tag === 'th') && table) endCell(table);
        else if (tag === 'tr' && table) endRow(table);
        else if (tag === 'table' && table) {
          endRow(table);
          open.pop();
          if (table.rows.length > 0 && sheets.length < MOST_SHEETS)
            sheets.push({ name: caption || `table ${sheets.length + 1}`, rows: table.rows });
          caption = null;
        }
        if (BLOCKS.has(tag)) endLine();
      },
    },
    { decodeEntities: true, lowerCaseTags: true },
  );
  parser.write(text);
  parser.end();
  endLine();
  const pres = lines.map((one) => [one]);
  return sheets.length > 0 || pres.length === 0 ? sheets : [{ name: 'text', rows: pres }];
}

const MUTED = new Set(['script', 'style', 'template', 'noscript', 'head']);
const BLOCKS = new Set([
  'p',
  'div',
  'li',
  'ul',
  'ol',
  'br',
  'tr',
  'h1',
  'h2',
  'h3',
  'h4',
  'section',
  'article',
  'pre',
  'dd',
  'dt',
]);

function spanOf(text: string | undefined): number {
  const span = Number(text ?? 1);
  return Number.isInteger(span) && span > 0 ? Math.min(span, MOST_SPAN) : 1;
}
