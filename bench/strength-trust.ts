import { buildGraph, type LinkGraph, outRows } from '../src/core/links/graph';
import { strengthAndTrust } from '../src/core/links/pagerank';
import { foldIn, walkState } from '../src/core/links/walk-update';
import { type Bench, numbers, round, sized } from './figure';

const NODES = sized('BENCH_GRAPH_NODES', 1_000_000, 10_000);
const EDGES = NODES * 20;
const NEW_EDGES = 2000;

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

  log(`folding ${NEW_EDGES.toLocaleString('en')} new links in`);
  const trusted = [1, 5, 9, 100, 2000];
  const state = walkState(graph, outRows(graph), { strength, trust }, trusted);
  const changes = new Map<number, Uint32Array>();
  for (let edge = 0; edge < NEW_EDGES; edge++) {
    const source = NODES + Math.floor(random() * (NEW_EDGES / 10));
    const before = changes.get(source) ?? new Uint32Array(0);
    changes.set(source, Uint32Array.of(...before, Math.floor(random() * NODES)));
  }
  const foldStarted = performance.now();
  const folded = foldIn(state, changes);
  const foldSeconds = (performance.now() - foldStarted) / 1000;
  if (!folded) throw new Error('the change was too large to be folded in');
  return [
    { name: 'strength-trust', value: round(seconds), unit: 's', baseline: round(base), ratio: round(base / seconds, 2), goal: 'under 20 s', met: seconds < 20 },
    { name: 'strength-trust-memory', value: Math.round(memory), unit: 'MB', baseline: null, ratio: null, goal: 'at most 2 GB', met: memory <= 2048 },
    { name: 'strength-trust-fold', value: round(foldSeconds, 2), unit: `s for ${NEW_EDGES.toLocaleString('en')} new links of new domains, ${folded.steps.toLocaleString('en')} steps`, baseline: round(seconds), ratio: round(seconds / foldSeconds, 1), goal: 'none: faster than walking anew', met: foldSeconds < seconds },
    { name: 'strength-trust-bound', value: Number(folded.state.bound.toExponential(2)), unit: 'of its strength at most, error of any domain after folding in', baseline: null, ratio: null, goal: 'at most 0.001 a time', met: folded.state.bound <= 0.001 },
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
