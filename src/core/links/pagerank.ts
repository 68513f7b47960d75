import { type LinkGraph, outRows } from './graph';

export interface WalkOptions {
  /** Chance that the walker follows a link. */
  damping: number;
  /** Stop when the sum of absolute changes in one step is below this. */
  tolerance: number;
  maxSteps: number;
  /** Where the walker restarts: weight by node, summing to 1. Absent: anywhere alike. */
  restart?: Float64Array;
}

export interface WalkResult {
  /** Probability by node, summing to 1. */
  rank: Float64Array;
  /** Rank of a node that nobody links to and the walk does not restart at especially: the lowest there is. */
  floor: number;
  steps: number;
  change: number;
}

export const WALK_DEFAULTS: WalkOptions = { damping: 0.85, tolerance: 1e-9, maxSteps: 200 };

/**
 * PageRank by power iteration (Brin and Page 1998, section 2.1.1, in the normalised form): each step spreads `damping` of
 * a node's rank evenly over its edges; the rest, and all rank of nodes without edges out, goes to the restart vector.
 * With `restart` on trusted nodes only this is TrustRank (Gyöngyi, Garcia-Molina, Pedersen 2004, section 4.2).
 */
export function walkGraph(graph: LinkGraph, options: Partial<WalkOptions> = {}): WalkResult {
  const { damping, tolerance, maxSteps, restart } = { ...WALK_DEFAULTS, ...options };
  const { nodeCount, inStart, sources, outDegree } = graph;
  const uniform = 1 / nodeCount;
  let rank = new Float64Array(nodeCount);
  for (let node = 0; node < nodeCount; node++) rank[node] = restart ? restart[node] : uniform;
  let next = new Float64Array(nodeCount);
  const share = new Float64Array(nodeCount);
  let floor = uniform;
  let steps = 0;
  let change = nodeCount === 0 ? 0 : Number.POSITIVE_INFINITY;
  while (change >= tolerance && steps < maxSteps) {
    let dangling = 0;
    for (let node = 0; node < nodeCount; node++) {
      if (outDegree[node] === 0) {
        dangling += rank[node];
        share[node] = 0;
      } else share[node] = rank[node] / outDegree[node];
    }
    const restartMass = 1 - damping + damping * dangling;
    floor = restartMass * uniform;
    change = 0;
    for (let node = 0; node < nodeCount; node++) {
      let sum = 0;
      for (let edge = inStart[node], end = inStart[node + 1]; edge < end; edge++) sum += share[sources[edge]];
      const value = damping * sum + restartMass * (restart ? restart[node] : uniform);
      change += Math.abs(value - rank[node]);
      next[node] = value;
    }
    [rank, next] = [next, rank];
    steps++;
  }
  return { rank, floor, steps, change };
}

/**
 * PageRank with its dangling mass spread evenly over all nodes, as link strength is defined; with `trusted`, TrustRank.
 *
 * @returns null when there are no trusted nodes: trust is then unknown, not zero.
 */
export function trustRank(graph: LinkGraph, trusted: Iterable<number>): WalkResult | null {
  const restart = new Float64Array(graph.nodeCount);
  const nodes = [...new Set(trusted)];
  if (nodes.length === 0) return null;
  for (const node of nodes) restart[node] = 1 / nodes.length;
  return walkGraph(graph, { restart });
}

/**
 * Strength and trust in one walk: the same fixed points as `walkGraph` and `trustRank`, reached in fewer steps, each of which reads
 * every edge once for both. Ranks of one step are used as soon as they are known (Gauss-Seidel; Arasu and others 2002, "PageRank
 * computation and the structure of the web", section 3), and both walks lie side by side in memory, because the ranks of
 * scattered sources are what has to be waited for.
 *
 * @returns trust null when there are no trusted nodes.
 */
export function strengthAndTrust(
  graph: LinkGraph,
  trusted: Iterable<number>,
  options: Partial<Omit<WalkOptions, 'restart'>> = {},
): { strength: WalkResult; trust: WalkResult | null } {
  const { damping, tolerance, maxSteps } = { ...WALK_DEFAULTS, ...options };
  const { nodeCount, inStart, sources, outDegree } = graph;
  const trustedNodes = [...new Set(trusted)];
  if (trustedNodes.length === 0 || nodeCount === 0) return { strength: walkGraph(graph, options), trust: null };
  const uniform = 1 / nodeCount;
  const restart = new Float64Array(nodeCount);
  for (const node of trustedNodes) restart[node] = 1 / trustedNodes.length;
  const strength = new Float64Array(nodeCount).fill(uniform);
  const trust = restart.slice();
  /** What a node hands to each of its targets: strength, then trust. */
  const shares = new Float64Array(2 * nodeCount);
  let danglingStrength = 0;
  let danglingTrust = 0;
  for (let node = 0; node < nodeCount; node++)
    if (outDegree[node] === 0) {
      danglingStrength += strength[node];
      danglingTrust += trust[node];
    } else {
      shares[2 * node] = strength[node] / outDegree[node];
      shares[2 * node + 1] = trust[node] / outDegree[node];
    }

  let steps = 0;
  let strengthChange = Number.POSITIVE_INFINITY;
  let trustChange = Number.POSITIVE_INFINITY;
  while ((strengthChange >= tolerance || trustChange >= tolerance) && steps < maxSteps) {
    strengthChange = 0;
    trustChange = 0;
    for (let node = 0; node < nodeCount; node++) {
      let strengthSum = 0;
      let trustSum = 0;
      for (let edge = inStart[node], end = inStart[node + 1]; edge < end; edge++) {
        const at = 2 * sources[edge];
        strengthSum += shares[at];
        trustSum += shares[at + 1];
      }
      const newStrength = damping * strengthSum + (1 - damping + damping * danglingStrength) * uniform;
      const newTrust = damping * trustSum + (1 - damping + damping * danglingTrust) * restart[node];
      const strengthStep = newStrength - strength[node];
      const trustStep = newTrust - trust[node];
      strengthChange += Math.abs(strengthStep);
      trustChange += Math.abs(trustStep);
      strength[node] = newStrength;
      trust[node] = newTrust;
      const degree = outDegree[node];
      if (degree === 0) {
        danglingStrength += strengthStep;
        danglingTrust += trustStep;
      } else {
        shares[2 * node] = newStrength / degree;
        shares[2 * node + 1] = newTrust / degree;
      }
    }
    // ranks of two steps are mixed, so that they do not sum to 1: put right at once, or that error would fade by damping alone
    const strengthScale = scaleOf(strength);
    const trustScale = scaleOf(trust);
    for (let node = 0; node < nodeCount; node++) {
      strength[node] *= strengthScale;
      trust[node] *= trustScale;
      shares[2 * node] *= strengthScale;
      shares[2 * node + 1] *= trustScale;
    }
    danglingStrength *= strengthScale;
    danglingTrust *= trustScale;
    steps++;
  }
  const floor = (1 - damping + damping * danglingStrength) * uniform;
  return {
    strength: { rank: strength, floor, steps, change: strengthChange },
    trust: { rank: trust, floor: 0, steps, change: trustChange },
  };
}

/** What makes ranks sum to 1. */
function scaleOf(rank: Float64Array): number {
  let sum = 0;
  for (let node = 0; node < rank.length; node++) sum += rank[node];
  return 1 / sum;
}

/** Share of the web that is taken for good (Gyöngyi and others 2006, section 4.3). */
const GOOD_SHARE = 0.85;

/**
 * Relative spam mass (Gyöngyi and others 2006): the part of a domain's strength that does not come from trusted sites, 0 to 1.
 *
 * @param strengthRank over 0. Both ranks are of walks over one graph, each summing to 1.
 */
export function spamMass(strengthRank: number, trustRank: number): number {
  return Math.max(0, Math.min(1, 1 - (GOOD_SHARE * trustRank) / strengthRank));
}

/** Ten points on the scale of strength and trust are this factor of rank. */
const TEN_POINTS = 4;

/**
 * A rank on a scale from 0 to 100, relative to the rank of a domain that nobody links to, so that graphs of different
 * size compare: 0 is that floor, every ten points are a factor of 4, and 100 is a million times the floor or more.
 *
 * @param floor lowest rank of the strength walk; trust is put on the same scale with the same floor.
 * @returns 0 for rank at or under the floor (trust that nothing carries).
 */
export function rankScale(rank: number, floor: number): number {
  if (rank <= floor) return 0;
  return Math.min(100, (10 * Math.log(rank / floor)) / Math.log(TEN_POINTS));
}

/** For each node the previous node on a shortest path from a trusted one; -1: trusted itself, -2: out of reach. */
export function pathsFromTrusted(graph: LinkGraph, trusted: Iterable<number>): Int32Array {
  const { outStart, targets } = outRows(graph);
  return shortestPaths(graph.nodeCount, (node) => targets.subarray(outStart[node], outStart[node + 1]), trusted);
}

/** The same over targets that somebody else keeps. */
export function shortestPaths(
  nodeCount: number,
  targetsOf: (node: number) => Uint32Array,
  trusted: Iterable<number>,
): Int32Array {
  const previous = new Int32Array(nodeCount).fill(-2);
  const queue = new Uint32Array(nodeCount);
  let tail = 0;
  for (const node of trusted)
    if (previous[node] === -2) {
      previous[node] = -1;
      queue[tail++] = node;
    }
  for (let head = 0; head < tail; head++) {
    const node = queue[head];
    for (const target of targetsOf(node)) {
      if (previous[target] !== -2) continue;
      previous[target] = node;
      queue[tail++] = target;
    }
  }
  return previous;
}
