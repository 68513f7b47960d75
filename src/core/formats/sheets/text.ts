import { ZoneReader } from '../../zones/zone-reader';
import { CSV_DEFAULTS, type CsvProblem, CsvReader } from '../csv';
import { looksLikeJsonLines } from '../json-lines';
import { sniffDelimiter } from '../list-columns';
import { namesIn } from '../list-names';
import { alignedCells, alignedColumns } from './aligned';
import { jsonLineRows, jsonSheets } from './json';
import { htmlSheets, xmlSheets } from './markup';
import type { Sheet } from './sheet';

/** What a text is, by its beginning. */
export type TextKind = 'json' | 'json-lines' | 'xml' | 'html' | 'zone' | 'aligned' | 'table';

const SAMPLE_CHARS = 256 * 1024;
const ZONE_LINE = /^(?:\S+\s+)?(?:\d+[smhdw]?\s+)?(?:IN\s+)?(?:\d+[smhdw]?\s+)?(?:NS|SOA|DS|RRSIG|NSEC3?|DNSKEY)\s+\S/i;

/** @param sample the beginning of the text; `isWhole` when it is all of it. */
export function textKind(sample: string, isWhole: boolean): TextKind {
  const start = sample.replace(/^\ufeff/, '').trimStart();
  if (/^[[{]/.test(start)) {
    if (looksLikeJsonLines(start) && isManyLines(start)) return 'json-lines';
    if (looksLikeJson(start, isWhole)) return 'json';
  }
  if (/^<(?:!doctype html|html|table|body|div|head|ul|ol|pre|section|!--[^>]*-->\s*<(?:html|table))/i.test(start))
    return 'html';
  if (/^<\?xml|^<[a-z][\w:.-]*[\s>/]/i.test(start))
    return /<(?:html|table)\b/i.test(start.slice(0, 2000)) ? 'html' : 'xml';
  const lines = start.split(/\r\n|\n|\r/).slice(0, 200);
  if (isZone(lines)) return 'zone';
  if (!isWhole) lines.pop();
  if (isAligned(start, lines)) return 'aligned';
  return 'table';
}

/** A document of one object is no JSON Lines: what follows its first line is none by itself. */
function isManyLines(text: string): boolean {
  const lines = text.split('\n', 50).filter((line) => line.trim() !== '');
  return lines.length > 1 && lines.filter((line) => /^\s*\{.*\}\s*$/.test(line)).length >= 0.5 * lines.length;
}

/** A line that begins with a bracket may be a name in brackets. */
function looksLikeJson(text: string, isWhole: boolean): boolean {
  if (isWhole) {
    try {
      JSON.parse(text);
      return true;
    } catch {
      return /^\[\s*[[{"]|^\{\s*"/.test(text);
    }
  }
  return /^\[\s*[[{"\d]|^\{\s*"/.test(text);
}

function isZone(lines: readonly string[]): boolean {
  if (lines.some((line) => /^\$(?:ORIGIN|TTL)\s/i.test(line))) return true;
  const records = lines.filter((line) => line.trim() !== '' && !/^\s*;/.test(line));
  return records.length > 0 && records.filter((line) => ZONE_LINE.test(line)).length >= 0.8 * records.length;
}

function isAligned(text: string, lines: readonly string[]): boolean {
  if (/\t/.test(text.slice(0, 4000))) return false;
  const delimiter = sniffDelimiter(text.slice(0, SAMPLE_CHARS));
  const parted = lines.filter((line) => line.includes(delimiter)).length;
  if (delimiter !== ' ' && parted >= 0.7 * lines.filter((line) => line.trim() !== '').length) return false;
  return alignedColumns(lines) !== null;
}

/** The tables of a text, and the rows that could not be read. @throws Error with a message for people when it is damaged JSON or XML. */
export function textSheets(text: string): {
  kind: TextKind;
  delimiter: string;
  sheets: Sheet[];
  problems: CsvProblem[];
} {
  const bare = text.replace(/^\ufeff/, '');
  const kind = textKind(bare, true);
  const found = (sheets: Sheet[], problems: CsvProblem[] = [], delimiter = '') => ({
    kind,
    delimiter,
    sheets,
    problems,
  });
  switch (kind) {
    case 'json':
      return found(jsonSheets(parsedJson(bare)));
    case 'json-lines':
      return found([{ name: '', ...jsonLineRows(bare.split(/\r\n|\n|\r/)) }]);
    case 'xml':
      return found(xmlSheets(bare));
    case 'html':
      return found(htmlSheets(bare));
    case 'zone':
      return found([{ name: '', rows: zoneNames(bare).map((name) => [name]) }]);
    case 'aligned': {
      const lines = bare.split(/\r\n|\n|\r/);
      const starts = alignedColumns(lines.slice(0, 2000)) ?? [0];
      const rows = lines
        .filter((line) => line.trim() !== '' && !/^[-=+\s|]+$/.test(line))
        .map((line) => alignedCells(line, starts));
      return found([{ name: '', rows }]);
    }
    default: {
      const delimiter = sniffDelimiter(bare.slice(0, SAMPLE_CHARS));
      const rows: string[][] = [];
      const problems: CsvProblem[] = [];
      const reader = new CsvReader(
        ({ fields }) => rows.push(fields),
        (problem) => problems.push(problem),
        { ...CSV_DEFAULTS, delimiter },
      );
      reader.write(bare);
      reader.end();
      const within = rows.every((row) => row.length === 1) ? quotedRows(rows) : null;
      if (within) return found([{ name: '', rows: within.rows }], problems, within.delimiter);
      return found([{ name: '', rows }], problems, delimiter);
    }
  }
}

/** Rows of a table whose lines are each one text in quotes, as spreadsheets write a table that they took for one column; null: it is none. */
function quotedRows(rows: readonly string[][]): { rows: string[][]; delimiter: string } | null {
  const lines = rows.map(([line]) => line);
  const delimiter = [',', ';', '\t', '|'].find(
    (one) => lines.length > 1 && lines.filter((line) => line.includes(one)).length >= 0.9 * lines.length,
  );
  if (delimiter === undefined || lines.every((line) => namesIn(line).length > 1)) return null;
  const found: string[][] = [];
  const reader = new CsvReader(
    ({ fields }) => found.push(fields),
    () => undefined,
    { ...CSV_DEFAULTS, delimiter },
  );
  reader.write(lines.join('\n'));
  reader.end();
  return { rows: found, delimiter };
}

function parsedJson(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch (error) {
    const values = valuesOf(text);
    if (values !== null && values.length > 1) return values;
    throw new Error(`The JSON is damaged: ${(error as Error).message}.`);
  }
}

/** Values that stand one after another, each over several lines; null: something else stands there. */
function valuesOf(text: string): unknown[] | null {
  const values: unknown[] = [];
  let depth = 0;
  let start = -1;
  let isText = false;
  for (let at = 0; at < text.length; at++) {
    const code = text[at];
    if (isText) {
      if (code === '\\') at++;
      else if (code === '"') isText = false;
    } else if (code === '"') isText = true;
    else if (code === '{' || code === '[') {
      if (depth++ === 0) start = at;
    } else if ((code === '}' || code === ']') && --depth === 0) {
      try {
        values.push(JSON.parse(text.slice(start, at + 1)));
      } catch {
        return null;
      }
    } else if (depth === 0 && !/[\s,]/.test(code)) return null;
  }
  return depth === 0 ? values : null;
}

/** Names that a zone delegates, each once, in their order. */
export function zoneNames(text: string): string[] {
  const names = new Set<string>();
  const decoder = new TextDecoder();
  const reader = new ZoneReader({
    delegation: (owner, length) => {
      names.add(decoder.decode(owner.subarray(0, length)));
    },
    other: () => undefined,
    problem: () => undefined,
  });
  reader.write(new TextEncoder().encode(text));
  reader.end();
  return [...names].filter((name) => name.includes('.'));
}
