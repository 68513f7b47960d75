import { readAnswer } from '../../core/connections/answer';
import { type Connection, USE_SPECS } from '../../core/connections/connection';
import { repeatedElements } from '../../core/connections/html-answer';
import { FieldReader } from '../../core/connections/meanings';
import { formatOf, leavesOf, proposed, seriesIn } from '../../core/connections/pick';
import { masked } from '../../core/connections/template';
import { AnswerFault } from '../../core/connections/tree';
import type { ConnectionTried, LaidOut } from '../../core/connections/tried';
import { plainText } from '../../core/formats/plain-text';
import type { RawPart } from '../../net/connection';

const ROWS = 5;

/** What a try found, and the answer laid out to be picked from; null: there was none that could be. */
export interface ConnectionTry {
  tried: ConnectionTried;
  laidOut: LaidOut | null;
}

/** Lays an answer out to be picked from, whatever the description says of its format. */
export function layOut(raw: RawPart, connection: Connection, secrets: readonly string[]): LaidOut | null {
  const { text, contentType, address } = raw;
  if (text.trim() === '') return null;
  const format = formatOf(text, contentType);
  const shown = (value: string) => masked(plainText(value, 160), secrets);
  const none = {
    format,
    leaves: [],
    isCut: false,
    series: [],
    repeated: [],
    proposed: null,
    ...firstRows(raw, connection),
  };
  if (connection.format === 'html' || format === 'html') {
    const repeated = repeatedElements(text, address);
    for (const one of repeated) {
      one.samples = one.samples.map(shown);
      for (const part of one.parts) part.text = shown(part.text);
    }
    return { ...none, repeated };
  }
  try {
    const { tree } = readAnswer(text, format, '', address);
    if (tree === null) return none;
    const { leaves, isCut } = leavesOf(tree);
    return {
      ...none,
      leaves: leaves.map((leaf) => ({ parts: leaf.parts, text: shown(leaf.text) })),
      isCut,
      series: seriesIn(tree).slice(0, 10),
      proposed: proposed(tree, connection.use),
    };
  } catch (error) {
    if (error instanceof AnswerFault) return none;
    throw error;
  }
}

/** The first entries as the description reads them now. */
function firstRows({ text, address }: RawPart, connection: Connection): Pick<LaidOut, 'columns' | 'rows' | 'count'> {
  const picked = USE_SPECS[connection.use].fields.filter(
    (field) => connection.format === 'feed' || connection.fields[field],
  );
  try {
    const answer = readAnswer(text, connection.format, connection.entries, address);
    const reader = new FieldReader(connection, answer);
    const columns = picked.filter((field) => reader.has(field));
    const rows = Array.from({ length: Math.min(ROWS, reader.count) }, (_, entry) =>
      columns.map((field) => plainText(reader.text(entry, field), 120)),
    );
    return { columns, rows, count: reader.count };
  } catch (error) {
    if (error instanceof AnswerFault) return { columns: [], rows: [], count: 0 };
    throw error;
  }
}
