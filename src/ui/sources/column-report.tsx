import type { ColumnTally } from '../../core/formats/tally';
import { count } from '../../core/wording/format';

/** What became of the values of a list, column by column; the names themselves are counted above. */
export function ColumnReport({ tally, titles }: { tally: readonly ColumnTally[]; titles: readonly string[] }) {
  if (tally.length === 0) return null;
  return (
    <section aria-labelledby="columns">
      <h2 id="columns">Values of its columns</h2>
      <table className="mt-1 w-full">
        <thead>
          <tr className="small border-b border-rule text-left">
            <th className="py-1 font-normal">Column</th>
            <th className="text-right font-normal">read</th>
            <th className="text-right font-normal">empty</th>
            <th className="text-right font-normal">not understood</th>
            <th className="pl-4 font-normal">for instance</th>
          </tr>
        </thead>
        <tbody>
          {tally.map(({ column, read, empty, notUnderstood, examples }) => (
            <tr key={column} className="border-b border-faint">
              <td className="max-w-40 truncate py-0.5">{titles[column] || `column ${column + 1}`}</td>
              <td className="text-right">{count(read)}</td>
              <td className="text-right">{count(empty)}</td>
              <td className={`text-right ${notUnderstood > 0 ? 'font-semibold' : ''}`}>{count(notUnderstood)}</td>
              <td className="small max-w-56 truncate pl-4" title={examples.join(' · ')}>
                {examples.join(' · ')}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
