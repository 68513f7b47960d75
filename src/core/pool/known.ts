import type { PoolColumns } from './columns';
import { type FactName, factSpec, isChoiceFact, isMemberFact, isNumberFact, isTimeFact } from './facts';

/**
 * Of how many domains the value of a fact is known; of sets, how many domains are in one of them. One pass over the fact's column.
 *
 * @returns null for what is looked for only when it is asked about: the subject that a name tells.
 */
export function countKnown(columns: PoolColumns, fact: FactName): number | null {
  const { count } = columns;
  if (fact === 'nameSubject') return null;
  if (isMemberFact(fact)) return inAnySet(columns.members[fact].values(), columns.blocks);
  // what is made from the name, or stands in every row
  if (!factSpec(fact).optional || fact === 'words') return count;
  // strength tells whether there is a share
  if (fact === 'trustShare') return countKnown(columns, 'trust');
  let known = 0;
  if (isNumberFact(fact)) {
    const values = columns.numbers[fact];
    for (let row = 0; row < count; row++) if (!Number.isNaN(values[row])) known++;
    return known;
  }
  const values = isTimeFact(fact) ? columns.times[fact] : isChoiceFact(fact) ? columns.choices[fact] : null;
  if (values === null) return count;
  for (let row = 0; row < count; row++) if (values[row] !== 0) known++;
  return known;
}

function inAnySet(sets: Iterable<Uint32Array>, blocks: number): number {
  const all = new Uint32Array(blocks);
  for (const bits of sets)
    for (let block = 0; block < Math.min(blocks, bits.length); block++) all[block] |= bits[block];
  let many = 0;
  for (let bits of all) for (; bits !== 0; bits &= bits - 1) many++;
  return many;
}
