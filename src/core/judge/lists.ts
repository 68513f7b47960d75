import { z } from 'zod';
import { DATE_ORDERS } from '../formats/dates';
import { tableShape } from '../formats/list-columns';
import { type ListRow, ListRowReader } from '../formats/list-row';
import { likeliest } from '../formats/sheets/json';
import type { Sheet } from '../formats/sheets/sheet';
import { iso, type JudgeTools, kind, Text, Time } from './fields';

const MOST_ROWS = 50;

/** A list as it would be imported: what its columns mean, its first rows as read, and what was left of all of them. */
export const list = kind(
  z.object({ name: Text, base64: z.string(), order: z.enum(DATE_ORDERS).nullish(), now: Time }),
  async ({ base64, order, now }, clock, tools: JudgeTools) => {
    const { sheets, problems } = await tools.sheetsOf(Buffer.from(base64, 'base64'));
    const { rows, hasTitles }: Sheet = sheets[likeliest(sheets)] ?? { name: '', rows: [] };
    const shape = tableShape(
      rows.filter((row) => !row.every(isRule)),
      { ...(order && { order }), ...(hasTitles && { headRows: 1, hasHeader: true }) },
    );
    const reader = new ListRowReader(shape.columns, shape.told, now ?? clock);
    const seen = new Set<string>();
    const shown: object[] = [];
    const counts = { read: 0, taken: 0, duplicates: 0, excluded: 0, rejected: problems.length };
    counts.read += problems.length;
    for (const fields of shape.body) {
      const found = reader.readAll(fields);
      if (typeof found === 'string') {
        counts.read++;
        counts.rejected++;
        continue;
      }
      for (const row of found) {
        counts.read++;
        if (seen.has(row.domain)) counts.duplicates++;
        else counts.taken++;
        seen.add(row.domain);
        if (shown.length < MOST_ROWS) shown.push(shownRow(row));
      }
    }
    return {
      columns: shape.columns.map((meaning, n) => ({ title: shape.header?.[n] ?? '', meaning })),
      rows: shown,
      counts,
      notUnderstood: reader.tally
        .take()
        .filter(({ notUnderstood }) => notUnderstood > 0)
        .map(({ column, examples }) => ({ column: shape.header?.[column] ?? String(column + 1), values: examples })),
    };
  },
);

/** Nothing, or a line that is drawn. */
const isRule = (cell: string) => /^[-=+|:_\s]*$/.test(cell);

function shownRow({ domain, ending: _, ...said }: ListRow): object {
  const values = Object.entries(said).map(([field, value]) => [
    field,
    field.endsWith('At') ? iso(value as number | null) : value,
  ]);
  return { domain, values: Object.fromEntries(values) };
}
