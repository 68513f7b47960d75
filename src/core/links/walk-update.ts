import type { LinkGraph, OutRows } from './graph';
import { WALK_DEFAULTS, type WalkResult } from './pagerank';

/**
 * Walks in a form that new links can be folded into. Strength is kept as `z = (1 - d) 1 + d P' z` and trust the same with 1 on trusted
 * nodes only, without the rank of dead ends handed back: that rank goes to where the walk restarts, so it only scales the whole (Del Corso,
 * Gulli, Romani 2005), and a new node changes nothing but what it links to.
 */
export interface WalkState {
  nodeCount: number;
  rows: OutRows;
  /** By node; a node that nobody links to has 1 - damping. */
  strength: Float64Array;
  /** null: nobody is trusted. */
  trust: Float64Array | null;
  /** Targets of nodes whose links have changed since the rows were laid out, in order. */
  changed: Map<number, Uint32Array>;
  /**
   * What folding in has left undone so far, beside the walk's own error: no strength is off by more than this share of itself, no trust by
   * more than this share of the strength it stands beside.
   */
  bound: number;
}

const { damping } = WALK_DEFAULTS;

/** The state of walks that ran to their end. @param trusted node numbers, each once. */
export function walkState(
  graph: LinkGraph,
  rows: OutRows,
  walks: { strength: WalkResult; trust: WalkResult | null },
  trusted: readonly number[],
): WalkState {
  const { strength, trust } = walks;
  const scale = (1 - damping) / strength.floor;
  const state: WalkState = {
    nodeCount: graph.nodeCount,
    rows,
    strength: strength.rank.map((rank) => rank * scale),
    trust: null,
    changed: new Map(),
    bound: 0,
  };
  if (trust) {
    let dangling = 0;
    for (let node = 0; node < graph.nodeCount; node++) if (graph.outDegree[node] === 0) dangling += trust.rank[node];
    const trustScale = ((1 - damping) * trusted.length) / (1 - damping + damping * dangling);
    state.trust = trust.rank.map((rank) => rank * trustScale);
  }
  return state;
}

/** The walks of a state as ranks that sum to 1. */
export function ranksOf({ strength, trust }: Pick<WalkState, 'strength' | 'trust'>): {
  strength: Float64Array;
  floor: number;
  trust: Float64Array | null;
} {
  const total = sum(strength);
  const trustTotal = trust ? sum(trust) : 1;
  return {
    strength: strength.map((value) => value / total),
    floor: (1 - damping) / total,
    trust: trust ? trust.map((value) => value / trustTotal) : null,
  };
}

export interface FoldOptions {
  /** What folding in may leave undone, as a share of each domain's strength. */
  tolerance: number;
  /** More steps over single edges than this cost as much as walking anew: then it gives up. */
  mostSteps: number;
}

export interface Folded {
  state: WalkState;
  /** Steps over single edges. */
  steps: number;
}

/** A thousandth of its strength moves a domain by 0.007 points. */
export const FOLD_DEFAULTS: FoldOptions = { tolerance: 1e-3, mostSteps: 20_000_000 };

/**
 * Folds changed links into walks by pushing residuals (Andersen, Chung and Lang 2006; for changing graphs Ohsaka, Maehara, Kawarabayashi
 * 2015): only nodes that the change reaches are visited. At the end no node has more than `e` of residual left. What a residual of `e`
 * everywhere would still become is `e / (1 - d)` times the walk itself, since the walk is what restarts of `1 - d` everywhere become; so
 * every strength differs from the exact one by at most that share of itself. The bounds of several fold-ins add up.
 *
 * @param rows new targets of each node whose links change, loops and repeats left out. Node numbers from the state's count on are new.
 * @returns null when the change is too large to be worth it. The given state is unchanged then, and used up otherwise.
 */
export function foldIn(
  state: WalkState,
  rows: ReadonlyMap<number, Uint32Array>,
  options: Partial<FoldOptions> = {},
): Folded | null {
  const { tolerance, mostSteps } = { ...FOLD_DEFAULTS, ...options };
  let nodeCount = state.nodeCount;
  for (const [node, targets] of rows) {
    nodeCount = Math.max(nodeCount, node + 1);
    for (const target of targets) nodeCount = Math.max(nodeCount, target + 1);
  }
  const changed = new Map(state.changed);
  const before = new Map<number, Uint32Array>();
  for (const [node, targets] of rows) {
    before.set(node, targetsOf(state, node));
    changed.set(node, targets);
  }
  const after: WalkState = { ...state, nodeCount, changed };
  const least = tolerance * (1 - damping);
  const strength = grown(state.strength, nodeCount);
  const residual = new Float64Array(nodeCount);
  residual.fill(1 - damping, state.nodeCount);
  const grownState = { ...after, firstNew: state.nodeCount };
  let steps = push(grownState, strength, residual, before, least, mostSteps);
  if (steps === null) return null;
  after.strength = strength;
  after.bound = state.bound + tolerance;
  if (state.trust) {
    const trust = grown(state.trust, nodeCount);
    // trust is put on the scale of strength by the ratio of their sums
    const left = new Float64Array(nodeCount);
    let scale = sum(trust) / sum(strength);
    let more = push(grownState, trust, left, before, least * scale, mostSteps);
    // the change may have taken much of the trust itself: what is little beside the old sum can be much beside the new
    for (let ratio = sum(trust) / sum(strength); more !== null && ratio < RATIO_HOLDS * scale; ) {
      steps += more;
      scale = ratio;
      more = push({ ...grownState, firstNew: 0 }, trust, left, NOTHING, least * scale, mostSteps);
      ratio = sum(trust) / sum(strength);
    }
    if (more === null) return null;
    after.trust = trust;
    steps += more;
  }
  return { state: after, steps };
}

/** Trust stands beside strength as before, as long as their ratio has not fallen by more. */
const RATIO_HOLDS = 0.9;
const NOTHING: ReadonlyMap<number, Uint32Array> = new Map();

/** Targets of a node as they stand now. */
export function targetsOf({ changed, rows }: WalkState, node: number): Uint32Array {
  const own = changed.get(node);
  if (own) return own;
  if (node + 1 >= rows.outStart.length) return NONE;
  return rows.targets.subarray(rows.outStart[node], rows.outStart[node + 1]);
}
const NONE = new Uint32Array(0);

/** Puts a change into the residual, then pushes until no node has more of it than `least`. @returns steps over edges; null: too many. */
function push(
  state: WalkState & { firstNew: number },
  value: Float64Array,
  residual: Float64Array,
  before: ReadonlyMap<number, Uint32Array>,
  least: number,
  mostSteps: number,
): number | null {
  const waiting = new Uint8Array(value.length);
  const queue: number[] = [];
  const note = (node: number): void => {
    if (waiting[node] === 0 && Math.abs(residual[node]) > least) {
      waiting[node] = 1;
      queue.push(node);
    }
  };
  for (const [node, old] of before) {
    const now = targetsOf(state, node);
    for (const target of old) residual[target] -= (damping * value[node]) / old.length;
    for (const target of now) residual[target] += (damping * value[node]) / now.length;
    for (const target of old) note(target);
    for (const target of now) note(target);
  }
  for (let node = state.firstNew; node < value.length; node++) note(node);
  let steps = 0;
  for (let head = 0; head < queue.length; head++) {
    const node = queue[head];
    waiting[node] = 0;
    const amount = residual[node];
    residual[node] = 0;
    value[node] += amount;
    const targets = targetsOf(state, node);
    steps += targets.length + 1;
    if (steps > mostSteps) return null;
    const each = (damping * amount) / targets.length;
    for (const target of targets) {
      residual[target] += each;
      note(target);
    }
    if (head > 1 << 20) {
      queue.splice(0, head + 1);
      head = -1;
    }
  }
  return steps;
}

function grown(values: Float64Array, length: number): Float64Array {
  const longer = new Float64Array(length);
  longer.set(values);
  return longer;
}

function sum(values: Float64Array): number {
  let total = 0;
  for (let i = 0; i < values.length; i++) total += values[i];
  return total;
}
