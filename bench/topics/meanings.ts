import { readFileSync } from 'node:fs';

/** Word vectors of unit length, one after the other, the commonest word first. */
export interface Meanings {
  words: string[];
  ranks: Map<string, number>;
  vectors: Float32Array;
  /** Numbers a vector. */
  size: number;
}

/** Reads GloVe vectors (Pennington and others 2014) as the package of embeddings keeps them. */
export function readMeanings(path: string): Meanings {
  const { vectors: table } = JSON.parse(readFileSync(path, 'utf8')) as { vectors: Record<string, number[]> };
  const words = Object.keys(table);
  const size = 100;
  const vectors = new Float32Array(words.length * size);
  const ranks = new Map<string, number>();
  for (const [rank, word] of words.entries()) {
    ranks.set(word, rank);
    let squares = 0;
    for (let d = 0; d < size; d++) squares += table[word][d] ** 2;
    const length = Math.sqrt(squares) || 1;
    for (let d = 0; d < size; d++) vectors[rank * size + d] = table[word][d] / length;
  }
  return { words, ranks, vectors, size };
}
