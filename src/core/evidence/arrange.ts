/** A value of a table of evidence; times are ms since 1970 UTC. */
export type Cell = string | number | null;

export interface TableColumn {
  key: string;
  title: string;
  type: 'text' | 'number' | 'time';
}

export interface EvidenceRow {
  /** In the order of the columns. */
  cells: Cell[];
  /** What stands under the first cell. */
  note?: string;
  /** Where the row leads: an address of ours. */
  href?: string;
}

export interface TableAsk {
  /** Key of a column; null: as it comes. */
  sort: string | null;
  descending: boolean;
  /** Letters that some text of the row must hold; several words all have to be there. */
  filter: string;
}

/**
 * Rows that hold what is looked for, in the order wanted. What is not known stands last, whichever way it is sorted; equals keep
 * their order.
 */
export function arrange(rows: readonly EvidenceRow[], columns: readonly TableColumn[], ask: TableAsk): EvidenceRow[] {
  const words = ask.filter.toLowerCase().split(/\s+/).filter(Boolean);
  const found = words.length === 0 ? [...rows] : rows.filter((row) => holds(row, words));
  const place = columns.findIndex(({ key }) => key === ask.sort);
  if (place < 0) return found;
  const sign = ask.descending ? -1 : 1;
  return found.sort((a, b) => {
    const [x, y] = [a.cells[place], b.cells[place]];
    if (x === null || y === null) return x === y ? 0 : x === null ? 1 : -1;
    return x === y ? 0 : sign * (compare(x, y) < 0 ? -1 : 1);
  });
}

function holds({ cells, note }: EvidenceRow, words: readonly string[]): boolean {
  const text = `${cells.filter((cell) => typeof cell === 'string').join('\n')}\n${note ?? ''}`.toLowerCase();
  return words.every((word) => text.includes(word));
}

function compare(a: string | number, b: string | number): number {
  if (typeof a === 'number' && typeof b === 'number') return a - b;
  const [x, y] = [String(a).toLowerCase(), String(b).toLowerCase()];
  return x < y ? -1 : x > y ? 1 : 0;
}
