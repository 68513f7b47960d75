/** How many cells of a column were read, empty, and not understood. */
export interface ColumnTally {
  column: number;
  read: number;
  empty: number;
  notUnderstood: number;
  /** The first of those that were not understood, as they stand. */
  examples: string[];
}
const MOST_EXAMPLES = 5;

/** Counts what became of the cells of a table, by column. */
export class Tally {
  private readonly counts: Record<'read' | 'empty' | 'notUnderstood', Uint32Array>;
  private examples: string[][];

  constructor(private readonly width: number) {
    this.counts = {
      read: new Uint32Array(width),
      empty: new Uint32Array(width),
      notUnderstood: new Uint32Array(width),
    };
    this.examples = Array.from({ length: width }, () => []);
  }

  note(column: number, text: string, what: 'read' | 'empty' | 'notUnderstood'): void {
    this.counts[what][column]++;
    if (what !== 'notUnderstood') return;
    const examples = this.examples[column];
    if (examples.length < MOST_EXAMPLES && !examples.includes(text)) examples.push(text.slice(0, 80));
  }

  /** What was counted since the last time; columns of which nothing was wanted are not there. */
  take(): ColumnTally[] {
    const { read, empty, notUnderstood } = this.counts;
    const found: ColumnTally[] = [];
    for (let column = 0; column < this.width; column++)
      if (read[column] + empty[column] + notUnderstood[column] > 0)
        found.push({
          column,
          read: read[column],
          empty: empty[column],
          notUnderstood: notUnderstood[column],
          examples: this.examples[column],
        });
    for (const counts of Object.values(this.counts)) counts.fill(0);
    this.examples = Array.from({ length: this.width }, () => []);
    return found;
  }
}

/** Two counts of the same columns as one. */
export function tallied(before: readonly ColumnTally[], more: readonly ColumnTally[]): ColumnTally[] {
  const found = new Map(before.map((tally) => [tally.column, tally]));
  for (const tally of more) {
    const old = found.get(tally.column);
    found.set(
      tally.column,
      old
        ? {
            column: tally.column,
            read: old.read + tally.read,
            empty: old.empty + tally.empty,
            notUnderstood: old.notUnderstood + tally.notUnderstood,
            examples: [...new Set([...old.examples, ...tally.examples])].slice(0, MOST_EXAMPLES),
          }
        : tally,
    );
  }
  return [...found.values()].sort((a, b) => a.column - b.column);
}
