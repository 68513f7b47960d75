import { buildGraph, type LinkGraph } from '../src/core/links/graph';
import { strengthAndTrust } from '../src/core/links/pagerank';
import { type Bench, numbers, round } from './figure';

const NODES = Number(process.env.BENCH_GRAPH_NODES ?? 1_000_000);
const EDGES = NODES * 20;

/** Strength and trust of a heavy-tailed graph, against bare passes over its edges, as many as the walks took. */
export const strengthTrust: Bench = async (log) => {
  log(`making ${EDGES.toLocaleString('en')} edges`);
  const random = numbers(3);
  const from = new Uint32Array(EDGES);
  const to = new Uint32Array(EDGES);
  for (let edge = 0; edge < EDGES; edge++) {
    from[edge] = Math.floor(random() * NODES);
    to[edge] = Math.floor(random() ** 3 * NODES);
  }
  const started = performance.now();
  const graph = buildGraph(NODES, from, to);
  const { strength, trust } = strengthAndTrust(graph, [1, 5, 9, 100, 2000]);
  const seconds = (performance.now() - started) / 1000;

  const passStarted = performance.now();
  sparsePass(graph, strength.rank);
  const pass = (performance.now() - passStarted) / 1000;
  const base = pass * (strength.steps + (trust?.steps ?? 0));
  const memory = process.memoryUsage.rss() / 2 ** 20;
  return [
    { name: 'strength-trust', value: round(seconds), unit: 's', baseline: round(base), ratio: round(base / seconds, 2), goal: 'under 20 s', met: seconds < 20 },
    { name: 'strength-trust-memory', value: Math.round(memory), unit: 'MB', baseline: null, ratio: null, goal: 'at most 2 GB', met: memory <= 2048 },
  ]; // biome-ignore format: a figure a line
};

function sparsePass({ nodeCount, inStart, sources }: LinkGraph, values: Float64Array): number {
  let total = 0;
  for (let node = 0; node < nodeCount; node++) {
    let sum = 0;
    for (let edge = inStart[node]; edge < inStart[node + 1]; edge++) sum += values[sources[edge]];
    total += sum;
  }
  return total;
}
