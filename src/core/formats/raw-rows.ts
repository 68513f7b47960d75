/**
 * Rows of a file as they stood, put together for keeping: fields parted by U+001F, rows by U+001E, each row with its line
 * in front. What a list said of a domain is read from here when somebody asks, by the columns of its source.
 */
const UNIT = '\u001f';
const RECORD = '\u001e';
const SEPARATORS = /[\u001e\u001f]/g;

export function packRow(line: number, fields: readonly string[]): string {
  const text = fields.join(UNIT);
  // a separator inside a field would make two of it
  const safe = count(text, UNIT) === fields.length - 1 && !text.includes(RECORD);
  return `${line}${UNIT}${safe ? text : fields.map((field) => field.replace(SEPARATORS, ' ')).join(UNIT)}${RECORD}`;
}

/** Fields of the row on a line; null when the text holds no such row. */
export function findRow(text: string, line: number): string[] | null {
  const mark = `${line}${UNIT}`;
  let at = text.startsWith(mark) ? 0 : text.indexOf(RECORD + mark) + 1;
  if (at === 0 && !text.startsWith(mark)) return null;
  at += mark.length;
  const end = text.indexOf(RECORD, at);
  return text.slice(at, end < 0 ? undefined : end).split(UNIT);
}

function count(text: string, mark: string): number {
  let found = 0;
  for (let at = text.indexOf(mark); at >= 0; at = text.indexOf(mark, at + 1)) found++;
  return found;
}
