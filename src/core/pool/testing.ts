import { splitterOf } from '../names/testing';
import { PoolColumns } from './columns';
import type { Condition, Group, SievePart, Sort } from './conditions';
import { bareRow, type NumberFact, type PoolRow, type TimeFact } from './facts';
import { PoolIndex, type PoolQuery } from './query';

export const NOW = 1_795_000_000;
export const LAST_VISIT = NOW - 86_400;
export const WORDS = ['bee', 'beech', 'bees', 'hive', 'archive', 'archivists', 'club', 'the', 'h', 'be', 'eh'];
export const splitter = splitterOf(WORDS.map((word, i) => ({ word, count: 1000 - i })));
export const LISTS: Record<number, string[]> = { 7: ['be', '7'], 8: Array.from({ length: 3000 }, (_, i) => `w${i}`) };
/** Stands for what words are about. */
export const subjectOf = (words: readonly string[]) =>
  words.includes('bee') || words.includes('bees') ? 'Beekeeping' : null;
export const given = {
  nowSeconds: NOW,
  lastVisit: LAST_VISIT,
  splitter,
  valuesOf: (list: number) => LISTS[list] ?? [],
  subjectOf,
};
export const row = (id: number, part: Partial<PoolRow> = {}): PoolRow => {
  const name = part.name ?? `name${id}.org`;
  return { ...bareRow(id, name, part.ending ?? 'org'), phase: 'free', length: 5, ...part };
};
export function indexOf(rows: PoolRow[], members: [source: number, id: number][] = []) {
  const columns = new PoolColumns(1);
  for (const entry of rows) columns.put(entry);
  for (const [source, id] of members) columns.setMembers('source', source, [id]);
  return new PoolIndex(columns);
}
export const query = (index: PoolIndex, asked: Partial<PoolQuery>, at = NOW) =>
  index.query(
    { parts: [], sorts: [{ fact: 'name', descending: false }], offset: 0, limit: 1000, histograms: [], ...asked },
    { ...given, nowSeconds: at },
  );
export const ask = (index: PoolIndex, parts: SievePart[], ...sorts: Sort[]) =>
  query(index, { parts, ...(sorts.length > 0 && { sorts }) });
export const range = (
  fact: NumberFact | TimeFact,
  min: number | null,
  max: number | null,
  keepUnknown = false,
): Condition => ({
  type: 'range',
  fact,
  min,
  max,
  keepUnknown,
});
export const text = (
  mode: 'contains' | 'starts' | 'ends' | 'is' | 'word' | 'wordish' | 'pattern',
  ...values: string[]
): Condition => ({
  type: 'text',
  fact: 'name',
  mode,
  values,
  not: false,
});
export const group = (mode: Group['mode'], ...parts: SievePart[]): Group => ({ type: 'group', mode, parts });
