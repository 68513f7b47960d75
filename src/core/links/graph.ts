/**
 * A directed graph of registrable domains in compressed sparse rows, stored by target: the sources of the edges into
 * node v are `sources[inStart[v]] … sources[inStart[v + 1] - 1]`. An edge stands once, however many links it has.
 */
export interface LinkGraph {
  nodeCount: number;
  /** nodeCount + 1 offsets into `sources`. */
  inStart: Uint32Array;
  sources: Uint32Array;
  outDegree: Uint32Array;
}

/**
 * Builds the graph from parallel arrays of edges. Loops (a domain linking to itself) and repeats are dropped.
 *
 * @param from node numbers below nodeCount.
 * @param to as long as `from`.
 * @throws RangeError on a node number out of range.
 */
export function buildGraph(nodeCount: number, from: Uint32Array, to: Uint32Array): LinkGraph {
  const inStart = new Uint32Array(nodeCount + 1);
  for (let edge = 0; edge < to.length; edge++) {
    if (to[edge] >= nodeCount || from[edge] >= nodeCount) throw new RangeError(`edge ${edge} leaves the graph`);
    inStart[to[edge] + 1]++;
  }
  for (let node = 0; node < nodeCount; node++) inStart[node + 1] += inStart[node];
  const next = inStart.slice(0, nodeCount);
  const sources = new Uint32Array(to.length);
  for (let edge = 0; edge < to.length; edge++) sources[next[to[edge]]++] = from[edge];

  const outDegree = new Uint32Array(nodeCount);
  let write = 0;
  let read = 0;
  for (let node = 0; node < nodeCount; node++) {
    const end = inStart[node + 1];
    const row = sources.subarray(read, end).sort();
    read = end;
    inStart[node] = write;
    let last = -1;
    for (const source of row) {
      if (source === last || source === node) continue;
      last = source;
      sources[write++] = source;
      outDegree[source]++;
    }
  }
  inStart[nodeCount] = write;
  return { nodeCount, inStart, sources: sources.slice(0, write), outDegree };
}
