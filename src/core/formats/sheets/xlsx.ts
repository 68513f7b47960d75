import { type Archive, readXml, walkXml } from './archive';
import { type NumberStyle, styledText, styleOf } from './number-format';
import { MOST_SHEETS, numberText, trimmed } from './sheet';

/** A sheet of a workbook that can be read row by row. */
export interface OpenSheet {
  name: string;
  rows(): AsyncGenerator<string[]>;
}

/** Texts that are used in many cells are held while a sheet is read. */
const MOST_TEXT_CHARS = 96 * 2 ** 20;
const MOST_COLUMNS = 16_384;

/**
 * Sheets of a workbook (Office Open XML, ECMA-376), visible ones first. Dates are written by their formats and the workbook's epoch (1900
 * or 1904), money with its currency, numbers as they are stored. Texts, styles and rows are read as streams.
 *
 * @throws Error when it is no workbook.
 */
export async function xlsxSheets(archive: Archive): Promise<OpenSheet[]> {
  const workbook = archive.names.find((name) => /(^|\/)workbook\.xml$/i.test(name));
  if (workbook === undefined) throw new Error('it has no workbook in it');
  const base = workbook.slice(0, workbook.lastIndexOf('/') + 1);
  const named: { name: string; id: string; isHidden: boolean }[] = [];
  let isFrom1904 = false;
  await readXml(archive, workbook, {
    open: (tag, { name, id, state, date1904 }) => {
      if (tag === 'sheet' && named.length < MOST_SHEETS)
        named.push({ name: name ?? '', id: id ?? '', isHidden: state === 'hidden' || state === 'veryHidden' });
      if (tag === 'workbookPr') isFrom1904 = date1904 === '1' || date1904 === 'true';
    },
  });
  const targets = await targetsOf(archive, base);
  const styles = await stylesOf(archive, base);
  let texts: Promise<string[]> | null = null;
  const sheets = named.map(({ name, id, isHidden }, n) => ({
    name,
    isHidden,
    part: partOf(archive, base, targets.get(id)) ?? `${base}worksheets/sheet${n + 1}.xml`,
  }));
  return sheets
    .filter(({ part }) => archive.names.includes(part))
    .sort((a, b) => Number(a.isHidden) - Number(b.isHidden))
    .map(({ name, part }) => ({
      name,
      rows: async function* () {
        texts ??= textsOf(archive, base);
        yield* rowsOf(archive, part, { texts: await texts, styles, isFrom1904 });
      },
    }));
}

function partOf(archive: Archive, base: string, target: string | undefined): string | null {
  if (target === undefined) return null;
  const part = target.startsWith('/') ? target.slice(1) : `${base}${target}`;
  return archive.names.includes(part) ? part : null;
}

async function targetsOf(archive: Archive, base: string): Promise<Map<string, string>> {
  const targets = new Map<string, string>();
  const part = `${base}_rels/workbook.xml.rels`;
  if (archive.names.includes(part))
    await readXml(archive, part, {
      open: (tag, { Id, Target }) => {
        if (tag === 'Relationship' && Id && Target) targets.set(Id, Target);
      },
    });
  return targets;
}

/** What the number of a cell is, by the style of the cell. */
async function stylesOf(archive: Archive, base: string): Promise<NumberStyle[]> {
  const part = `${base}styles.xml`;
  if (!archive.names.includes(part)) return [];
  const codes = new Map<number, string>();
  const ids: number[] = [];
  let isOfCells = false;
  await readXml(archive, part, {
    open: (tag, { numFmtId, formatCode }) => {
      if (tag === 'numFmt' && numFmtId) codes.set(Number(numFmtId), formatCode ?? '');
      else if (tag === 'cellXfs') isOfCells = true;
      else if (tag === 'xf' && isOfCells) ids.push(Number(numFmtId ?? 0));
    },
    close: (tag) => {
      if (tag === 'cellXfs') isOfCells = false;
    },
  });
  return ids.map((id) => styleOf(id, codes.get(id)));
}

/** Texts that cells name by number. How they are to be said (rPh) is no part of them. */
async function textsOf(archive: Archive, base: string): Promise<string[]> {
  const part = archive.names.find((name) => name.toLowerCase() === `${base}sharedStrings.xml`.toLowerCase());
  const texts: string[] = [];
  if (part === undefined) return texts;
  let text = '';
  let isText = false;
  let isSaid = false;
  let chars = 0;
  await readXml(archive, part, {
    open: (tag) => {
      if (tag === 'si') text = '';
      else if (tag === 't') isText = true;
      else if (tag === 'rPh') isSaid = true;
    },
    close: (tag) => {
      if (tag === 'si') {
        chars += text.length;
        if (chars > MOST_TEXT_CHARS) throw new Error('its texts take more memory than there is for them');
        texts.push(text);
      } else if (tag === 't') isText = false;
      else if (tag === 'rPh') isSaid = false;
    },
    text: (piece) => {
      if (isText && !isSaid) text += piece;
    },
  });
  return texts;
}

interface Given {
  texts: string[];
  styles: NumberStyle[];
  isFrom1904: boolean;
}

async function* rowsOf(archive: Archive, part: string, given: Given): AsyncGenerator<string[]> {
  let rows: string[][] = [];
  let row: string[] = [];
  let column = 0;
  let type = '';
  let style = 0;
  let value = '';
  let isValue = false;
  let isSaid = false;
  const walk = walkXml(archive, part, {
    open: (tag, { r, t, s }) => {
      if (tag === 'row') {
        row = [];
        column = 0;
      } else if (tag === 'c') {
        const at = r === undefined ? -1 : columnOf(r);
        if (at >= 0) column = at;
        type = t ?? 'n';
        style = Number(s ?? 0);
        value = '';
      } else if (tag === 'v' || tag === 't') isValue = true;
      else if (tag === 'rPh') isSaid = true;
    },
    close: (tag) => {
      if (tag === 'v' || tag === 't') isValue = false;
      else if (tag === 'rPh') isSaid = false;
      else if (tag === 'c') {
        if (column < MOST_COLUMNS && value !== '') {
          while (row.length < column) row.push('');
          row[column] = cellText(value, type, style, given);
        }
        column++;
      } else if (tag === 'row') rows.push(trimmed(row));
    },
    text: (piece) => {
      if (isValue && !isSaid) value += piece;
    },
  });
  for await (const _part of walk) {
    yield* rows;
    rows = [];
  }
}

function cellText(value: string, type: string, style: number, { texts, styles, isFrom1904 }: Given): string {
  switch (type) {
    case 's':
      return texts[Number(value)] ?? '';
    case 'b':
      return value === '1' || value === 'true' ? 'true' : 'false';
    case 'e':
      return '';
    case 'n': {
      const number = Number(value);
      if (!Number.isFinite(number)) return value;
      return styles[style] ? styledText(number, styles[style], isFrom1904) : numberText(number);
    }
    default:
      return value;
  }
}

/** Column of a cell by its address, from 0: `C7` is 2. */
function columnOf(address: string): number {
  let column = 0;
  for (let at = 0; at < address.length; at++) {
    const code = address.charCodeAt(at) & ~32;
    if (code < 65 || code > 90) break;
    column = column * 26 + code - 64;
  }
  return column - 1;
}
