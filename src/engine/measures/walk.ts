import { readFileSync, renameSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { deserialize, serialize } from 'node:v8';
import { buildGraph, outRows } from '../../core/links/graph';
import { rankScale, shortestPaths, strengthAndTrust } from '../../core/links/pagerank';
import { foldIn, ranksOf, targetsOf, type WalkState, walkState } from '../../core/links/walk-update';
import type { Store } from '../../store/base/database';
import { edgesAfter, lastLinks, readEdges } from '../../store/links/link-walks.sql';
import { linkDrops } from '../../store/links/links';

/** Strength and trust of all domains that link or are linked to, and what they were walked over. */
export interface Walk {
  state: WalkState;
  /** Domain id by node. */
  ids: number[];
  trusted: string[];
  edges: number;
  steps: number;
  change: number;
  /** The last link of each source that is in it, and how often links had been forgotten. */
  last: [source: number, seq: number][];
  drops: number;
}

/** A walk as it is now, and what is new in it. */
export interface FreshWalk {
  walk: Walk;
  /** Domain ids that new links lead to; null: everything was walked anew. */
  targets: Set<number> | null;
  /** State before new links were folded in; null with `targets`. */
  before: WalkState | null;
}

const FORMAT = 1;
const FILE = 'walk.bin';
/** Over so much undone, 0.04 points, or so many changed nodes, the next walk begins anew. */
const MOST_BOUND = 5e-3;
const MOST_CHANGED = 0.05;

/**
 * The walk over all links that are known: that of last time with new links folded in where they are few, else one from the beginning.
 * Links that were forgotten, other trusted sites or a walk that cannot be read: from the beginning.
 *
 * @param trusted names of trusted sites; `idOf` gives the domain id of a name, or null.
 */
export function freshWalk(store: Store, trusted: readonly string[], idOf: (name: string) => number | null): FreshWalk {
  const kept = readWalk(store.folder);
  const fresh =
    (kept && kept.drops === linkDrops(store) && sameNames(kept.trusted, trusted) ? takeIn(store, kept) : null) ??
    walkAnew(store, trusted, idOf);
  if (fresh.targets === null || fresh.targets.size > 0) keepWalk(store.folder, fresh.walk);
  return fresh;
}

function walkAnew(store: Store, trusted: readonly string[], idOf: (name: string) => number | null): FreshWalk {
  const drops = linkDrops(store);
  const last = [...lastLinks(store)];
  const edges = readEdges(store);
  const nodes = new Nodes([]);
  const from = edges.from.map((id) => nodes.of(id));
  const to = edges.to.map((id) => nodes.of(id));
  const trustedNodes = [...new Set(trusted.flatMap((name) => nodes.known(idOf(name)) ?? []))];
  const graph = buildGraph(nodes.ids.length, from, to);
  const walks = strengthAndTrust(graph, trustedNodes);
  const state = walkState(graph, outRows(graph), walks, trustedNodes);
  const { steps, change } = walks.strength;
  return {
    walk: { state, ids: nodes.ids, trusted: [...trusted], edges: graph.sources.length, steps, change, last, drops },
    targets: null,
    before: null,
  };
}

/** @returns null when the new links are too many to be folded in. */
function takeIn(store: Store, walk: Walk): FreshWalk | null {
  const known = new Map(walk.last);
  const nodes = new Nodes(walk.ids);
  const added = new Map<number, Set<number>>();
  const targets = new Set<number>();
  const last = [...lastLinks(store)];
  for (const [source, seq] of last) {
    const after = known.get(source) ?? -1;
    if (seq <= after) continue;
    const links = edgesAfter(store, source, after);
    for (const id of links.targets) targets.add(id);
    for (const [from, to] of links.edges) {
      const node = nodes.of(from);
      const row = added.get(node) ?? new Set();
      row.add(nodes.of(to));
      added.set(node, row);
    }
  }
  if (added.size > MOST_CHANGED * walk.ids.length) return null;
  const rows = new Map<number, Uint32Array>();
  let edges = walk.edges;
  for (const [node, more] of added) {
    const before = targetsOf(walk.state, node);
    const after = new Set([...before, ...more]);
    if (after.size === before.length) continue;
    edges += after.size - before.length;
    rows.set(node, Uint32Array.from(after).sort());
  }
  if (walk.state.changed.size + rows.size > MOST_CHANGED * walk.ids.length) return null;
  const folded = rows.size === 0 ? { state: walk.state, steps: 0 } : foldIn(walk.state, rows);
  if (!folded || folded.state.bound > MOST_BOUND) return null;
  return {
    walk: {
      ...walk,
      state: folded.state,
      ids: nodes.ids,
      edges,
      last,
    },
    targets,
    before: walk.state,
  };
}

/** What a walk says of domains. Scores are 0 to 100, one decimal. */
export class WalkReader {
  private readonly nodes: Nodes;
  private readonly ranks: ReturnType<typeof ranksOf>;
  private readonly previous: Int32Array;

  constructor(
    private readonly walk: Walk,
    trustedIds: readonly number[],
  ) {
    this.nodes = new Nodes(walk.ids);
    this.ranks = ranksOf(walk.state);
    const trusted = trustedIds.flatMap((id) => this.nodes.known(id) ?? []);
    this.previous = shortestPaths(walk.state.nodeCount, (node) => targetsOf(walk.state, node), trusted);
  }

  /** Ranks and scores of a domain; null where it is in no link that counts. */
  of(id: number): { strengthRank: number; trustRank: number | null; strength: number; trust: number | null } | null {
    const node = this.nodes.known(id);
    if (node === null) return null;
    const { strength, trust, floor } = this.ranks;
    return {
      strengthRank: strength[node],
      trustRank: trust ? trust[node] : null,
      strength: tenth(rankScale(strength[node], floor)),
      trust: trust ? tenth(rankScale(trust[node], floor)) : null,
    };
  }

  get floor(): number {
    return this.ranks.floor;
  }

  /** Ids of the domains on a shortest path from a trusted site; null: there is none, or it is too long to tell anything. */
  pathTo(id: number): number[] | null {
    const node = this.nodes.known(id);
    if (node === null || this.previous[node] === -2) return null;
    const path: number[] = [];
    for (let at = node; at >= 0 && path.length < MOST_STEPS; at = this.previous[at]) path.push(this.walk.ids[at]);
    return path.reverse();
  }

  /** Domains whose scores are others than in an earlier state. */
  movedSince(before: WalkState): number[] {
    const was = ranksOf(before);
    const moved: number[] = [];
    this.walk.ids.forEach((id, node) => {
      const isNew = node >= before.nodeCount;
      const score = (ranks: typeof was, of: 'strength' | 'trust') => {
        const rank = ranks[of]?.[node];
        return rank === undefined ? -1 : tenth(rankScale(rank, ranks.floor));
      };
      if (
        isNew ||
        score(was, 'strength') !== score(this.ranks, 'strength') ||
        score(was, 'trust') !== score(this.ranks, 'trust')
      )
        moved.push(id);
    });
    return moved;
  }

  /**
   * Strengths as they were without some links: of each domain, of the links from the given ones. All are taken out together, and folded
   * in like any other change.
   *
   * @param borrowed by domain id, the ids of those whose links do not count.
   * @returns scores by domain id; null when the change is too large.
   */
  without(borrowed: ReadonlyMap<number, readonly number[]>): Map<number, number> | null {
    const { state } = this.walk;
    const rows = new Map<number, Uint32Array>();
    for (const [to, from] of borrowed) {
      const target = this.nodes.known(to);
      if (target === null) continue;
      for (const id of from) {
        const node = this.nodes.known(id);
        if (node === null) continue;
        rows.set(
          node,
          (rows.get(node) ?? targetsOf(state, node)).filter((other) => other !== target),
        );
      }
    }
    const folded = rows.size === 0 ? { state } : foldIn(state, rows);
    if (!folded) return null;
    const { strength, floor } = ranksOf(folded.state);
    const scores = new Map<number, number>();
    for (const id of borrowed.keys()) {
      const node = this.nodes.known(id);
      if (node !== null) scores.set(id, tenth(rankScale(strength[node], floor)));
    }
    return scores;
  }

  /** Strength of two domains taken for one, as of one that forwards to the other. */
  together(one: number, other: number): number | null {
    const [a, b] = [this.of(one), this.of(other)];
    if (!a && !b) return null;
    return tenth(rankScale((a?.strengthRank ?? 0) + (b?.strengthRank ?? 0), this.floor));
  }
}

const MOST_STEPS = 50;
const tenth = (value: number) => Math.round(value * 10) / 10;

/** Numbers domains from 0 on. */
class Nodes {
  readonly ids: number[];
  private readonly byId: Map<number, number>;

  constructor(ids: readonly number[]) {
    this.ids = [...ids];
    this.byId = new Map(ids.map((id, node) => [id, node]));
  }

  of(id: number): number {
    let node = this.byId.get(id);
    if (node === undefined) {
      node = this.ids.length;
      this.ids.push(id);
      this.byId.set(id, node);
    }
    return node;
  }

  known(id: number | null): number | null {
    return id === null ? null : (this.byId.get(id) ?? null);
  }
}

function sameNames(a: readonly string[], b: readonly string[]): boolean {
  return a.length === b.length && a.every((name, n) => name === b[n]);
}

function keepWalk(folder: string, walk: Walk): void {
  const path = join(folder, FILE);
  writeFileSync(`${path}.new`, serialize({ format: FORMAT, walk }));
  renameSync(`${path}.new`, path);
}

/** @returns null when there is none, or none that can be read: it is only kept to save time. */
function readWalk(folder: string): Walk | null {
  try {
    const { format, walk } = deserialize(readFileSync(join(folder, FILE)));
    return format === FORMAT ? walk : null;
  } catch {
    return null;
  }
}
