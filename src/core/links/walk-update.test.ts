import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { buildGraph, outRows } from './graph';
import { strengthAndTrust } from './pagerank';
import { foldIn, ranksOf, walkState } from './walk-update';

const edge = (nodes: number) => fc.tuple(fc.nat(nodes - 1), fc.nat(nodes - 1)).filter(([a, b]) => a !== b);
const change = fc.record({
  old: fc.array(edge(30), { minLength: 1, maxLength: 120 }),
  added: fc.array(edge(36), { maxLength: 25 }),
  gone: fc.array(fc.nat(119), { maxLength: 10 }),
});

function graphOf(nodes: number, edges: [number, number][]) {
  return buildGraph(
    nodes,
    Uint32Array.from(edges, ([from]) => from),
    Uint32Array.from(edges, ([, to]) => to),
  );
}

function rowsOf(edges: [number, number][], of: Iterable<number>): Map<number, Uint32Array> {
  return new Map(
    Array.from(of, (node) => [
      node,
      Uint32Array.from(new Set(edges.filter(([from]) => from === node).map(([, to]) => to))).sort(),
    ]),
  );
}

describe('foldIn', () => {
  it('gives what walking anew gives, within the bound it states', () => {
    fc.assert(
      fc.property(change, fc.constantFrom(1e-3, 1e-6), ({ old, added, gone }, tolerance) => {
        const before = graphOf(30, old);
        const trusted = [0, 1];
        const state = walkState(before, outRows(before), strengthAndTrust(before, trusted), trusted);
        const now = [...old.filter((_, n) => !gone.includes(n)), ...added];
        const sources = new Set([...added.map(([from]) => from), ...gone.flatMap((n) => (old[n] ? [old[n][0]] : []))]);
        const folded = foldIn(state, rowsOf(now, sources), { tolerance })!;
        const nodes = folded.state.nodeCount;
        const exact = strengthAndTrust(graphOf(nodes, now), trusted, { tolerance: 1e-13, maxSteps: 2000 });
        const truth = walkState(graphOf(nodes, now), outRows(graphOf(nodes, now)), exact, trusted);
        expect(folded.state.bound).toBe(tolerance);
        folded.state.strength.forEach((value, node) => {
          expect(Math.abs(value - truth.strength[node])).toBeLessThanOrEqual((tolerance + 1e-7) * truth.strength[node]);
        });
        const total = (values: Float64Array) => values.reduce((sum, value) => sum + value, 0);
        const scale = total(truth.trust!) / total(truth.strength);
        folded.state.trust!.forEach((value, node) => {
          const allowed = (1.2 * tolerance + 1e-7) * truth.strength[node] * scale;
          expect(Math.abs(value - truth.trust![node])).toBeLessThanOrEqual(allowed + 1e-9);
        });
        // and on the scale that is shown
        expect(ranksOf(folded.state).floor / exact.strength.floor).toBeCloseTo(1, tolerance < 1e-4 ? 4 : 2);
      }),
      {
        numRuns: 300,
        // much of the trust goes with two links
        examples: [
          [
            {
              old: [[0, 1], [0, 4], [0, 1], [25, 3], [0, 1], [1, 0], [0, 25], [3, 25], [0, 1]],
              added: [],
              gone: [6, 5],
            },
            1e-3,
          ],
        ], // biome-ignore format: one case
      },
    );
  });

  it('adds up what several changes leave undone', () => {
    let state = (() => {
      const graph = graphOf(4, [
        [0, 1],
        [1, 2],
        [2, 0],
        [3, 0],
      ]);
      return walkState(graph, outRows(graph), strengthAndTrust(graph, [0]), [0]);
    })();
    const bounds = [state.bound];
    for (let node = 4; node < 9; node++) {
      state = foldIn(state, new Map([[node, Uint32Array.of(node - 4)]]))!.state;
      bounds.push(state.bound);
    }
    expect(bounds).toEqual([0, 0.001, 0.002, 0.003, 0.004, 0.005]);
    expect(state.nodeCount).toBe(9);
  });

  it('gives up when the change is too large, and leaves the state as it was', () => {
    const edges = Array.from({ length: 200 }, (_, n): [number, number] => [n % 50, (n * 7 + 1) % 50]).filter(
      ([a, b]) => a !== b,
    );
    const graph = graphOf(50, edges);
    const state = walkState(graph, outRows(graph), strengthAndTrust(graph, [0]), [0]);
    const strength = state.strength.slice();
    expect(foldIn(state, rowsOf([[1, 2]], [1, 2, 3, 4]), { mostSteps: 3 })).toBeNull();
    expect(state.strength).toEqual(strength);
    expect(state.changed.size).toBe(0);
  });
});
