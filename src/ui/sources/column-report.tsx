import type { ColumnTally } from '../../core/formats/tally';
import { count } from '../../core/wording/format';
import { NUMBER, PlainTable, plainColumnsFor } from '../parts/plain-table';

const place = plainColumnsFor<ColumnTally>();

/** What became of the values of a list, column by column; the names themselves are counted above. */
export function ColumnReport({ tally, titles }: { tally: readonly ColumnTally[]; titles: readonly string[] }) {
  if (tally.length === 0) return null;
  return (
    <section aria-labelledby="columns">
      <h2 id="columns">Values of its columns</h2>
      <PlainTable
        label="Values of its columns"
        className="mt-1"
        rows={tally}
        rowId={({ column }) => String(column)}
        columns={[
          place('Column', ({ column }) => titles[column] || `column ${column + 1}`, {
            isHead: true,
            className: 'max-w-40 truncate',
          }),
          place('read', ({ read }) => count(read), NUMBER),
          place('empty', ({ empty }) => count(empty), NUMBER),
          place(
            'not understood',
            ({ notUnderstood }) => (notUnderstood > 0 ? <strong>{count(notUnderstood)}</strong> : count(notUnderstood)),
            NUMBER,
          ),
          place('for instance', ({ examples }) => <span title={examples.join(' · ')}>{examples.join(' · ')}</span>, {
            className: 'small max-w-56 truncate',
          }),
        ]}
      />
    </section>
  );
}
