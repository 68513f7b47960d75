import { nameOf, namesIn } from '../list-names';
import { MOST_SHEETS, numberText, type Sheet } from './sheet';

const MOST_DEPTH = 12;
const MOST_COLUMNS = 2000;
/** Rows that tell how likely an array is the list. */
const LOOKED_AT = 200;

/**
 * Tables in a value of JSON: every array of objects, arrays or texts, by its path, and objects whose keys are names. Nested objects become
 * columns (`price/amount`: with a point a title could be a name), arrays of texts one cell.
 */
export function jsonSheets(value: unknown): Sheet[] {
  const sheets: Sheet[] = [];
  const walk = (at: unknown, path: string, depth: number) => {
    if (depth > MOST_DEPTH || sheets.length >= MOST_SHEETS || typeof at !== 'object' || at === null) return;
    if (Array.isArray(at)) {
      if (at.length > 0) sheets.push({ name: path, ...rowsOfArray(at) });
      // rows may hold the list deeper within
      if (at.length < 50) for (const [n, entry] of at.entries()) walk(entry, `${path}[${n}]`, depth + 1);
      return;
    }
    const entries = Object.entries(at);
    if (entries.length > 0 && entries.every(([key]) => nameOf(key) !== null))
      sheets.push({ name: path, ...rowsByName(entries) });
    const titled = titledRows(entries);
    if (titled) sheets.push({ name: path, ...titled });
    const grouped = groupedRows(entries);
    if (grouped) sheets.push({ name: path, ...grouped });
    for (const [key, entry] of entries) walk(entry, path === '' ? key : `${path}.${key}`, depth + 1);
  };
  walk(value, '', 0);
  // one object alone is a list of one
  if (sheets.length === 0) sheets.push({ name: '', ...rowsOfArray([value]) });
  return sheets;
}

/** Rows of lines that are JSON each; what is none stands in a row of its own. */
export function jsonLineRows(lines: Iterable<string>): Rows {
  const values: unknown[] = [];
  for (const line of lines) {
    if (line.trim() === '') continue;
    try {
      values.push(JSON.parse(line));
    } catch {
      values.push(line);
    }
  }
  return rowsOfArray(values);
}

type Rows = Pick<Sheet, 'rows' | 'hasTitles'>;

function rowsOfArray(values: readonly unknown[]): Rows {
  const flat = values.map(flattened);
  const keys = new Set<string>();
  for (const entry of flat) for (const key of entry.keys()) if (keys.size < MOST_COLUMNS) keys.add(key);
  // arrays of arrays have places, texts have none: no header
  const isBare = [...keys].every((key) => key === '' || /^\d+$/.test(key));
  const columns = isBare ? [...keys].sort((a, b) => Number(a) - Number(b)) : [...keys];
  const rows = flat.map((entry) => columns.map((key) => entry.get(key) ?? ''));
  return isBare ? { rows } : { rows: [columns, ...rows], hasTitles: true };
}

/** Titles in one array and rows in another. */
function titledRows(entries: readonly [string, unknown][]): Rows | null {
  const titles = entries.find(([key]) => /^(columns|header|headers|fields|titles)$/i.test(key))?.[1];
  const rows = entries.find(([key]) => /^(data|rows|values|items|records)$/i.test(key))?.[1];
  if (!Array.isArray(titles) || !Array.isArray(rows) || !rows.every(Array.isArray)) return null;
  const names = titles.map((title) =>
    typeof title === 'object' && title !== null ? String(Object.values(title)[0]) : String(title),
  );
  return {
    ...rowsOfArray(rows.map((row) => Object.fromEntries(names.map((name, n) => [name, row[n]])))),
    hasTitles: true,
  };
}

/** Lists of one kind under several keys, such as a list a day. */
function groupedRows(entries: readonly [string, unknown][]): Rows | null {
  const lists = entries.filter((entry): entry is [string, unknown[]] => Array.isArray(entry[1]) && entry[1].length > 0);
  if (lists.length < 2 || lists.length < entries.length) return null;
  const kindOf = (value: unknown) =>
    typeof value === 'object' && value !== null ? Object.keys(value).sort().join() : typeof value;
  if (new Set(lists.map(([, [first]]) => kindOf(first))).size > 1) return null;
  return rowsOfArray(
    lists.flatMap(([group, list]) =>
      list.map((value) =>
        typeof value === 'object' && value !== null && !Array.isArray(value)
          ? { ...value, group }
          : { domain: value, group },
      ),
    ),
  );
}

function rowsByName(entries: readonly [string, unknown][]): Rows {
  return rowsOfArray(
    entries.map(([name, value]) => ({
      domain: name,
      ...(typeof value === 'object' && value !== null && !Array.isArray(value) ? value : { value }),
    })),
  );
}

/** Leaves of a value by their path; '' for a value that is a leaf itself. */
export function flattened(value: unknown): Map<string, string> {
  const cells = new Map<string, string>();
  const put = (at: unknown, path: string, depth: number) => {
    if (at === null || at === undefined || cells.size >= MOST_COLUMNS) return;
    if (typeof at !== 'object') cells.set(path, typeof at === 'number' ? numberText(at) : String(at));
    else if (Array.isArray(at) && path !== '' && at.every((entry) => typeof entry !== 'object'))
      cells.set(path, at.join(', '));
    else if (depth < MOST_DEPTH)
      for (const [key, entry] of Object.entries(at)) put(entry, path === '' ? key : `${path}/${key}`, depth + 1);
  };
  put(value, '', 0);
  return cells;
}

/** How many of its first rows have a name in them. */
export function namedRows({ rows, hasTitles }: Sheet): number {
  return rows
    .slice(hasTitles ? 1 : 0, LOOKED_AT)
    .filter((row) => row.some((cell) => nameOf(cell) !== null || namesIn(cell).length > 0)).length;
}

/** The sheet that is most likely the list: the one with the most names, the first of those alike; -1: there is none at all. */
export function likeliest(sheets: readonly Sheet[]): number {
  let best = -1;
  let bestScore = -1;
  for (const [n, sheet] of sheets.entries()) {
    const named = namedRows(sheet);
    // a long table of names before a short one; of two alike the one that says more
    const rows = sheet.rows.length - (sheet.hasTitles ? 1 : 0);
    const looked = Math.min(LOOKED_AT, rows);
    const score =
      looked === 0
        ? 0
        : named * Math.sqrt(rows / looked) +
          named / looked / 10 +
          Math.min(9, sheet.rows[0]?.length ?? 0) / 1000 +
          (sheet.hasTitles ? 0.0005 : 0);
    if (score > bestScore) [best, bestScore] = [n, score];
  }
  return best;
}
