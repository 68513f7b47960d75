import type { SimilarName } from '../../contracts/dossier';
import type { EnginePort } from '../../contracts/engine-port';
import { nearLabels } from '../../core/names/near';
import type { SievePart, TextMode } from '../../core/pool/conditions';
import type { Store } from '../../store/base/database';
import { idsInPool, readDomains } from '../../store/domains/domains';

const SHOWN = 12;
const LEAST_LETTERS = 3;
const MOST_WORDS = 3;

/** Names of the pool that are like a name: one letter away under the same ending, then those that share its words, the strongest first. */
export async function similarNames(
  store: Store,
  engine: EnginePort,
  name: string,
  ending: string,
): Promise<SimilarName[]> {
  const label = name.slice(0, name.length - ending.length - 1);
  const found = new Map<number, string>();
  for (const id of idsInPool(
    store,
    nearLabels(label).map((near) => `${near}.${ending}`),
  ))
    if (found.size < SHOWN) found.set(id, 'one letter away');
  const [{ split }] = await engine.readNames([{ name, ending }]);
  const words = [...new Set(split.words)]
    .filter((word) => word.length >= LEAST_LETTERS)
    .sort((a, b) => b.length - a.length)
    .slice(0, MOST_WORDS);
  // all its words, then all but the shortest, and so on down to the longest alone; then each of the others alone
  const shares = [...words.keys()]
    .map((n) => words.slice(0, words.length - n))
    .concat(words.slice(1).map((word) => [word]));
  for (const shared of shares) {
    if (found.size >= SHOWN) break;
    const { ids } = await engine.queryPool({
      parts: shared.map(wordPart),
      sorts: [{ fact: 'strength', descending: true }],
      offset: 0,
      limit: SHOWN + 1,
      histograms: [],
    });
    for (const id of ids) if (found.size < SHOWN && !found.has(id)) found.set(id, `also says ${shared.join(' and ')}`);
  }
  return readDomains(store, [...found.keys()])
    .filter((row) => row.name !== name)
    .map((row) => ({
      name: row.name,
      why: found.get(row.id) ?? '',
      phase: row.phase,
      strength: row.strength,
      referringDomains: row.referring_domains,
    }));
}

const wordPart = (word: string): SievePart => ({
  type: 'text',
  fact: 'name',
  mode: 'word' satisfies TextMode,
  values: [word],
  not: false,
});
