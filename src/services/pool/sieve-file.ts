import { createHash } from 'node:crypto';
import type { z } from 'zod';
import type { SieveFileSchema } from '../../contracts/sieves';
import {
  eachPart,
  formatPart,
  formatView,
  MAX_VALUES,
  type PoolView,
  parseView,
  type SievePart,
} from '../../core/pool/conditions';
import { MEMBER_FACTS, type MemberFact } from '../../core/pool/facts';
import type { Store } from '../../store/base/database';
import { keepWords, listTags, readWords } from '../../store/domains/marks';
import { listSieves } from '../../store/pool/sieves';
import { listBriefs } from '../../store/shortlist/briefs';
import { listSources } from '../../store/sources/sources';

type SieveFile = z.infer<typeof SieveFileSchema>;

/** What sets are called, by fact and number. */
function setNames(store: Store): Record<MemberFact, Map<number, string>> {
  const named = (rows: { id: number; name: string }[]) => new Map(rows.map(({ id, name }) => [id, name]));
  return {
    source: named(listSources(store)),
    tag: named(listTags(store)),
    shortlist: named(listBriefs(store)),
    fresh: named(listSieves(store)),
  };
}

/** A sieve that means the same on another machine: sets by their names, long lists in full. */
export function sieveFile(store: Store, sieve: { name: string; view: string }): SieveFile {
  const parameters = new URLSearchParams(sieve.view);
  const { parts } = parseView(parameters);
  const all = setNames(store);
  const names: SieveFile['names'] = {};
  const lists: SieveFile['lists'] = {};
  eachPart(parts, (part) => {
    if (part.type === 'member')
      for (const id of part.values) {
        names[part.fact] ??= {};
        names[part.fact][id] = all[part.fact].get(id) ?? `number ${id}`;
      }
    if (part.type === 'text' && part.list) lists[part.list] = readWords(store, part.list) ?? [];
  });
  return {
    kind: 'sieve',
    version: 1,
    name: sieve.name,
    conditions: parts.map(formatPart),
    sort: parameters.get('sort') ?? '',
    columns: parameters.get('columns') ?? '',
    names,
    lists,
  };
}

/** A view from such a file, with the numbers that sets and lists have here. */
export function viewOfFile(store: Store, file: SieveFile): { view: string; problems: string[]; isEmpty: boolean } {
  const parameters = new URLSearchParams(file.conditions.map((text) => ['c', text]));
  if (file.sort) parameters.set('sort', file.sort);
  if (file.columns) parameters.set('columns', file.columns);
  const { problems, ...view } = parseView(parameters);
  const all = setNames(store);
  const here = (fact: MemberFact, id: number): number[] => {
    const name = file.names[fact]?.[id];
    const found = [...all[fact]].find(([, other]) => other === name);
    if (found) return [found[0]];
    problems.push(`There is no ${fact} "${name ?? id}" here, so it is left out`);
    return [];
  };
  const local = (part: SievePart): SievePart => {
    if (part.type === 'group') return { ...part, parts: part.parts.map(local) };
    if (part.type === 'member' && MEMBER_FACTS.includes(part.fact))
      return { ...part, values: part.values.flatMap((id) => here(part.fact, id)) };
    if (part.type !== 'text' || !part.list) return part;
    const words = file.lists[part.list] ?? [];
    const { list: _, ...rest } = part;
    return words.length <= MAX_VALUES ? { ...rest, values: words } : { ...rest, list: keptList(store, words) };
  };
  const made: PoolView = { ...view, parts: view.parts.map(local) };
  return { view: formatView(made).toString(), problems, isEmpty: made.parts.length === 0 };
}

function keptList(store: Store, words: string[]): number {
  const sorted = [...new Set(words)].sort();
  return keepWords(store, sorted, createHash('sha256').update(sorted.join('\n')).digest('hex'));
}
