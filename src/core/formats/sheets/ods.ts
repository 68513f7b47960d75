import { type Archive, walkXml } from './archive';
import { MOST_SHEETS, numberText, trimmed } from './sheet';
import type { OpenSheet } from './xlsx';

const CONTENT = 'content.xml';
const MOST_COLUMNS = 16_384;
const MOST_ROWS = 1_048_576;

/** Sheets of a workbook in OpenDocument (OASIS ODF 1.3 part 3, 9.1): values as they are stored, not as they are shown. */
export async function odsSheets(archive: Archive): Promise<OpenSheet[]> {
  const names: string[] = [];
  const walk = walkXml(archive, CONTENT, {
    open: (tag, { name }) => {
      if (tag === 'table' && names.length < MOST_SHEETS) names.push(name ?? '');
    },
    close: () => undefined,
    text: () => undefined,
  });
  for await (const _part of walk);
  return names.map((name, n) => ({ name, rows: () => rowsOf(archive, n) }));
}

async function* rowsOf(archive: Archive, wanted: number): AsyncGenerator<string[]> {
  let table = -1;
  let given: Record<string, string> = {};
  let rows: string[][] = [];
  let row: string[] = [];
  let repeated = 1;
  let text = '';
  let paragraphs = 0;
  let isText = false;
  let isNote = 0;
  let count = 0;
  const emit = () => {
    const cells = trimmed(row);
    // empty rows are none, and thousands of them end a sheet
    if (cells.length === 0) return;
    for (let n = 0; n < repeated && count < MOST_ROWS; n++, count++) rows.push(cells);
  };
  const walk = walkXml(archive, CONTENT, {
    open: (tag, attributes) => {
      if (tag === 'table') table++;
      else if (table !== wanted) return;
      else if (tag === 'table-row') {
        row = [];
        repeated = Math.max(1, Number(attributes['number-rows-repeated'] ?? 1));
      } else if (tag === 'table-cell' || tag === 'covered-table-cell') {
        given = attributes;
        text = '';
        paragraphs = 0;
      } else if (tag === 'annotation') isNote++;
      else if (tag === 'p' && isNote === 0) {
        if (paragraphs++ > 0) text += '\n';
        isText = true;
      } else if (tag === 's' && isText) text += ' '.repeat(Math.min(100, Number(attributes.c ?? 1)));
      else if (tag === 'tab' && isText) text += '\t';
      else if (tag === 'line-break' && isText) text += '\n';
    },
    close: (tag) => {
      if (table !== wanted) return;
      if (tag === 'p') isText = false;
      else if (tag === 'annotation') isNote--;
      else if (tag === 'table-cell' || tag === 'covered-table-cell') {
        const value = cellText(given, text);
        const times = Math.max(1, Number(given['number-columns-repeated'] ?? 1));
        // what is empty to the end of the row is none
        if (value === '' && times > 1000) return;
        for (let n = 0; n < times && row.length < MOST_COLUMNS; n++) row.push(value);
      } else if (tag === 'table-row') emit();
    },
    text: (piece) => {
      if (isText && isNote === 0) text += piece;
    },
  });
  for await (const _part of walk) {
    yield* rows;
    rows = [];
    if (table > wanted) return;
  }
}

function cellText(given: Record<string, string>, text: string): string {
  const number = Number(given.value);
  switch (given['value-type']) {
    case 'float':
      return numberText(number);
    case 'percentage':
      return `${numberText(number * 100)}%`;
    case 'currency':
      return given.currency ? `${numberText(number)} ${given.currency}` : text || numberText(number);
    case 'date':
      return given['date-value'] ?? text;
    case 'time':
      return timeText(given['time-value'] ?? '') ?? text;
    case 'boolean':
      return given['boolean-value'] ?? text;
    default:
      return given['string-value'] ?? text;
  }
}

/** A length of time of ISO 8601, as the workbook writes it: PT26H10M05S. */
function timeText(value: string): string | null {
  const found = /^PT(\d+)H(\d+)M(\d+)(?:[.,]\d+)?S$/.exec(value);
  return found
    ? found
        .slice(1)
        .map((part) => part.padStart(2, '0'))
        .join(':')
    : null;
}
