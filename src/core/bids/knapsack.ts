/** One way to take a candidate. */
export interface Choice {
  /** Whole units of the budget, at least 0. */
  cost: number;
  /** Whole units, more is better. */
  gain: number;
}

export interface Packing {
  /** Place of the choice of each class; -1: none. */
  chosen: Int32Array;
  cost: number;
  gain: number;
}

/** A part of a packing that may still become the best: where it came from, and what it has so far. */
interface State {
  cost: number;
  gain: number;
  from: State | null;
  choice: number;
}

/**
 * The best choice of at most one way for each class within a budget: the multiple-choice knapsack, solved exactly. States are built up
 * class by class and kept only where no other costs less and gains more (Nemhauser and Ullmann 1969), and where the bound of the
 * Lagrangian relaxation says that they can still beat the best packing known (Dyer, Riha and Walker 1995). Classes whose choice the
 * relaxation is least sure of come first, so that few states live on.
 *
 * @param classes ways of each class; what costs more than the budget is never chosen.
 * @param budget whole units.
 */
export function pack(classes: readonly (readonly Choice[])[], budget: number): Packing {
  const multiplier = bestMultiplier(classes, budget);
  const order = classes.map((_, n) => n).sort((a, b) => lead(classes[a], multiplier) - lead(classes[b], multiplier));
  // of the classes from here on: what they can add at most, in gain less the price of their cost; and what the relaxation chooses
  const rest = Array.from({ length: order.length + 1 }, () => ({ reduced: 0, cost: 0, gain: 0 }));
  for (let n = order.length - 1; n >= 0; n--) {
    const way = chosenAt(classes[order[n]], multiplier) ?? { cost: 0, gain: 0 };
    const { reduced, cost, gain } = rest[n + 1];
    rest[n] = { reduced: reduced + way.gain - multiplier * way.cost, cost: cost + way.cost, gain: gain + way.gain };
  }
  let best = greedy(classes, budget, multiplier);
  /** A state that beats it when the classes after are taken as the relaxation has them. */
  let better: { state: State; gain: number; next: number } | null = null;
  let most = best.gain;
  // gains are whole: what cannot be better by one is not kept
  const isAlive = ({ cost, gain }: State, reduced: number) =>
    gain + multiplier * (budget - cost) + reduced >= most + 1 - SLACK;
  let states: State[] = [{ cost: 0, gain: 0, from: null, choice: -1 }];
  for (let n = 0; n < order.length; n++) {
    const ways = classes[order[n]];
    const after = rest[n + 1];
    const grown = (cost: number, gain: number, choice: number): State[] => {
      const list: State[] = [];
      for (const from of states) {
        const state = { cost: from.cost + cost, gain: from.gain + gain, from, choice };
        if (state.cost > budget) break;
        const whole = state.gain + after.gain;
        if (whole > most && state.cost + after.cost <= budget) {
          most = whole;
          better = { state, gain: whole, next: n + 1 };
        }
        if (isAlive(state, after.reduced)) list.push(state);
      }
      return list;
    };
    const lists = [grown(0, 0, -1)];
    for (const [choice, { cost, gain }] of ways.entries())
      if (cost <= budget && gain > 0) lists.push(grown(cost, gain, choice));
    states = undominated(lists, (state) => isAlive(state, after.reduced));
  }
  if (better !== null) best = unroll(better, classes, order, multiplier);
  return best;
}
/** Bounds are reckoned in floating point: what they miss by rounding is kept. */
const SLACK = 1e-6;

/** How clearly the first choice of a class leads over its second at a price of the budget. */
function lead(ways: readonly Choice[], multiplier: number): number {
  let [first, second] = [0, Number.NEGATIVE_INFINITY];
  for (const { cost, gain } of ways) {
    const reduced = gain - multiplier * cost;
    if (reduced > first) [first, second] = [reduced, first];
    else if (reduced > second) second = reduced;
  }
  return first - second;
}

/** Price of a unit of the budget at which the relaxation is tightest: found by halving, since the choices cost less the dearer it is. */
function bestMultiplier(classes: readonly (readonly Choice[])[], budget: number): number {
  const costAt = (multiplier: number) =>
    classes.reduce((sum, ways) => sum + (chosenAt(ways, multiplier)?.cost ?? 0), 0);
  if (costAt(0) <= budget) return 0;
  let low = 0;
  let high = 1;
  while (costAt(high) > budget) high *= 2;
  for (let step = 0; step < 60; step++) {
    const middle = (low + high) / 2;
    if (costAt(middle) > budget) low = middle;
    else high = middle;
  }
  return high;
}

function chosenAt(ways: readonly Choice[], multiplier: number): Choice | null {
  let best: Choice | null = null;
  let reduced = 0;
  for (const way of ways) {
    const value = way.gain - multiplier * way.cost;
    if (value > reduced) [best, reduced] = [way, value];
  }
  return best;
}

/** What the relaxation chooses, then the rest of the budget by what gains most for its cost: a packing to beat. */
function greedy(classes: readonly (readonly Choice[])[], budget: number, multiplier: number): Packing {
  const chosen = new Int32Array(classes.length).fill(-1);
  let cost = 0;
  let gain = 0;
  for (const [n, ways] of classes.entries()) {
    const way = chosenAt(ways, multiplier);
    if (way === null || cost + way.cost > budget) continue;
    chosen[n] = ways.indexOf(way);
    cost += way.cost;
    gain += way.gain;
  }
  for (;;) {
    let found: { n: number; choice: number; more: number; rate: number } | null = null;
    for (const [n, ways] of classes.entries()) {
      const has = chosen[n] < 0 ? { cost: 0, gain: 0 } : ways[chosen[n]];
      for (const [choice, way] of ways.entries()) {
        const more = way.gain - has.gain;
        const costs = way.cost - has.cost;
        if (more <= 0 || cost + costs > budget) continue;
        const rate = costs <= 0 ? Number.POSITIVE_INFINITY : more / costs;
        if (found === null || rate > found.rate) found = { n, choice, more, rate };
      }
    }
    if (found === null) return { chosen, cost, gain };
    const had = chosen[found.n];
    cost += classes[found.n][found.choice].cost - (had < 0 ? 0 : classes[found.n][had].cost);
    gain += found.more;
    chosen[found.n] = found.choice;
  }
}

/** Lists of states, each in the order of cost, as one such list without those that cost no less and gain no more than another. */
function undominated(lists: readonly (readonly State[])[], isAlive: (state: State) => boolean): State[] {
  const heads = new Int32Array(lists.length);
  const kept: State[] = [];
  let most = Number.NEGATIVE_INFINITY;
  for (;;) {
    let next = -1;
    for (let k = 0; k < lists.length; k++) {
      const state = lists[k][heads[k]];
      if (!state) continue;
      const other = next < 0 ? null : lists[next][heads[next]];
      if (other === null || state.cost < other.cost || (state.cost === other.cost && state.gain > other.gain)) next = k;
    }
    if (next < 0) return kept;
    const state = lists[next][heads[next]++];
    if (state.gain <= most) continue;
    most = state.gain;
    if (isAlive(state)) kept.push(state);
  }
}

function unroll(
  { state, gain, next }: { state: State; gain: number; next: number },
  classes: readonly (readonly Choice[])[],
  order: readonly number[],
  multiplier: number,
): Packing {
  const chosen = new Int32Array(classes.length).fill(-1);
  let { cost } = state;
  const path: State[] = [];
  for (let at: State | null = state; at?.from; at = at.from) path.push(at);
  path.reverse();
  for (const [n, { choice }] of path.entries()) chosen[order[n]] = choice;
  for (const n of order.slice(next)) {
    const way = chosenAt(classes[n], multiplier);
    if (way === null) continue;
    chosen[n] = classes[n].indexOf(way);
    cost += way.cost;
  }
  return { chosen, cost, gain };
}
