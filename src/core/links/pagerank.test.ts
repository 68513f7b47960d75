import fc from 'fast-check';
import Graph from 'graphology';
import pagerank from 'graphology-pagerank';
import { describe, expect, it } from 'vitest';
import { buildGraph } from './graph';
import { pathsFromTrusted, rankScale, strengthAndTrust, trustRank, walkGraph } from './pagerank';

const graphOf = (nodes: number, edges: [number, number][]) =>
  buildGraph(
    nodes,
    Uint32Array.from(edges, (edge) => edge[0]),
    Uint32Array.from(edges, (edge) => edge[1]),
  );

describe('buildGraph', () => {
  it('drops repeats and loops', () => {
    const graph = graphOf(3, [
      [0, 1],
      [0, 1],
      [1, 1],
      [2, 1],
    ]);
    expect([...graph.sources]).toEqual([0, 2]);
    expect([...graph.inStart]).toEqual([0, 0, 2, 2]);
    expect([...graph.outDegree]).toEqual([1, 0, 1]);
  });
  it('refuses edges that leave the graph', () => {
    expect(() => graphOf(2, [[0, 2]])).toThrow(RangeError);
  });
});

describe('walkGraph', () => {
  it('agrees with three nodes worked out by hand', () => {
    // 0 <-> 1, 2 -> 1. Node 2 gets nothing: r2 = 0.15/3 = 0.05. r1 = 0.05 + 0.85 (r0 + 0.05), r0 = 0.05 + 0.85 r1.
    // So r1 (1 - 0.7225) = 0.05 + 0.0425 + 0.0425 = 0.135 and r1 = 0.135 / 0.2775.
    const { rank } = walkGraph(
      graphOf(3, [
        [0, 1],
        [1, 0],
        [2, 1],
      ]),
    );
    const r1 = 0.135 / 0.2775;
    expect(rank[1]).toBeCloseTo(r1, 8);
    expect(rank[0]).toBeCloseTo(0.05 + 0.85 * r1, 8);
    expect(rank[2]).toBeCloseTo(0.05, 8);
  });

  it('spreads the mass of a dead end evenly', () => {
    // 0 -> 1, 1 leads nowhere: r0 = 0.075 + 0.425 r1, r1 = r0 + 0.85 r0, so r0 = 0.075 / (1 - 0.425 * 1.85).
    const { rank } = walkGraph(graphOf(2, [[0, 1]]));
    const r0 = 0.075 / (1 - 0.425 * 1.85);
    expect(rank[0]).toBeCloseTo(r0, 8);
    expect(rank[0] + rank[1]).toBeCloseTo(1, 10);
  });

  it('equals graphology-pagerank on a random graph', () => {
    let state = 12345;
    const random = () => {
      state = (Math.imul(state, 1103515245) + 12345) >>> 0;
      return state / 2 ** 32;
    };
    const nodes = 400;
    const edges: [number, number][] = [];
    const theirs = new Graph({ type: 'directed' });
    for (let node = 0; node < nodes; node++) theirs.addNode(String(node));
    for (let i = 0; i < 3000; i++) {
      const edge: [number, number] = [Math.floor(random() * (nodes - 20)), Math.floor(random() ** 2 * nodes)];
      if (edge[0] === edge[1]) continue;
      edges.push(edge);
      theirs.mergeEdge(String(edge[0]), String(edge[1]));
    }
    const expected = pagerank(theirs, { alpha: 0.85, tolerance: 1e-12, maxIterations: 500, getEdgeWeight: null });
    const { rank } = walkGraph(graphOf(nodes, edges), { tolerance: 1e-13, maxSteps: 500 });
    for (let node = 0; node < nodes; node++) expect(Math.abs(rank[node] - expected[String(node)])).toBeLessThan(1e-6);
  });

  it('does not fail on an empty graph', () => {
    expect(walkGraph(graphOf(0, [])).rank.length).toBe(0);
  });
});

describe('trustRank', () => {
  it('reaches only what trusted nodes lead to', () => {
    // 0 trusted -> 1 -> 2; 3 -> 2 is not. By hand: t = restart at 0 with all that is not passed on.
    const graph = graphOf(4, [
      [0, 1],
      [1, 2],
      [3, 2],
    ]);
    const trust = trustRank(graph, [0])!.rank;
    expect(trust[3]).toBe(0);
    expect(trust[1]).toBeCloseTo(0.85 * trust[0], 8);
    expect(trust[2]).toBeCloseTo(0.85 * 0.85 * trust[0], 8);
    expect(trust[0] + trust[1] + trust[2]).toBeCloseTo(1, 8);
  });
  it('is unknown without trusted nodes', () => {
    expect(trustRank(graphOf(1, []), [])).toBeNull();
  });
});

describe('strengthAndTrust', () => {
  const node = fc.integer({ min: 0, max: 59 });
  it('comes to the same as the two walks by themselves, whatever the graph', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(node, node), { maxLength: 400 }),
        fc.uniqueArray(node, { minLength: 1, maxLength: 6 }),
        (edges, trusted) => {
          const graph = graphOf(60, edges);
          const { strength, trust } = strengthAndTrust(graph, trusted, { tolerance: 1e-13, maxSteps: 2000 });
          const plain = walkGraph(graph, { tolerance: 1e-13, maxSteps: 2000 });
          const restart = new Float64Array(60);
          for (const one of trusted) restart[one] = 1 / trusted.length;
          const plainTrust = walkGraph(graph, { tolerance: 1e-13, maxSteps: 2000, restart });
          for (let i = 0; i < 60; i++) {
            expect(Math.abs(strength.rank[i] - plain.rank[i])).toBeLessThan(1e-10);
            expect(Math.abs((trust?.rank[i] ?? 0) - plainTrust.rank[i])).toBeLessThan(1e-10);
          }
          expect(strength.floor).toBeCloseTo(plain.floor, 10);
        },
      ),
      { numRuns: 60 },
    );
  });
  it('is done in fewer steps on a graph whose links are spread as on the web, with a change under the tolerance', () => {
    let state = 9;
    const random = () => {
      state = (Math.imul(state, 1103515245) + 12345) >>> 0;
      return state / 2 ** 32;
    };
    const edges = Array.from({ length: 40_000 }, (): [number, number] => [
      Math.floor(random() * 2000),
      Math.floor(random() ** 3 * 2000),
    ]);
    const graph = graphOf(2000, edges);
    const { strength, trust } = strengthAndTrust(graph, [1, 2]);
    expect(strength.change).toBeLessThan(1e-9);
    expect(trust?.change).toBeLessThan(1e-9);
    expect(strength.steps).toBeLessThan(trustRank(graph, [1, 2])!.steps);
  });
  it('knows no trust without trusted nodes', () => {
    expect(strengthAndTrust(graphOf(3, [[0, 1]]), []).trust).toBeNull();
    expect(strengthAndTrust(graphOf(0, []), []).strength.rank).toHaveLength(0);
  });
});

describe('pathsFromTrusted', () => {
  it('keeps a shortest path', () => {
    const previous = pathsFromTrusted(
      graphOf(5, [
        [0, 1],
        [1, 2],
        [0, 2],
        [2, 3],
      ]),
      [0],
    );
    expect([...previous]).toEqual([-1, 0, 0, 2, -2]);
  });
});

describe('rankScale', () => {
  it('gives the same ten points to the same factor anywhere, from a domain that nobody links to', () => {
    const { rank, floor } = walkGraph(graphOf(3, [[0, 1]]));
    expect(floor).toBeCloseTo(rank[0], 9);
    expect(rankScale(rank[0], floor)).toBeCloseTo(0, 6);
    expect(rankScale(4 * floor, floor)).toBeCloseTo(10, 9);
    expect(rankScale(4 ** 7 * floor, floor) - rankScale(4 ** 6 * floor, floor)).toBeCloseTo(10, 9);
    expect(rankScale(0, floor)).toBe(0);
    expect(rankScale(1, 1e-12)).toBe(100);
  });
});
