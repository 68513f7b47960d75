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
  const edgeCount = to.length;
  const inStart = new Uint32Array(nodeCount + 1);
  const outStart = new Uint32Array(nodeCount + 1);
  for (let edge = 0; edge < edgeCount; edge++) {
    if (to[edge] >= nodeCount || from[edge] >= nodeCount) throw new RangeError(`edge ${edge} leaves the graph`);
    inStart[to[edge] + 1]++;
    outStart[from[edge] + 1]++;
  }
  for (let node = 0; node < nodeCount; node++) {
    inStart[node + 1] += inStart[node];
    outStart[node + 1] += outStart[node];
  }
  // laid out by source first, and from there in the order of sources into the rows of targets: each row comes out sorted
  const targets = new Uint32Array(edgeCount);
  const next = outStart.slice(0, nodeCount);
  for (let edge = 0; edge < edgeCount; edge++) targets[next[from[edge]]++] = to[edge];
  const sources = new Uint32Array(edgeCount);
  next.set(inStart.subarray(0, nodeCount));
  for (let source = 0; source < nodeCount; source++)
    for (let edge = outStart[source], end = outStart[source + 1]; edge < end; edge++)
      sources[next[targets[edge]]++] = source;

  const outDegree = new Uint32Array(nodeCount);
  let write = 0;
  let read = 0;
  for (let node = 0; node < nodeCount; node++) {
    const end = inStart[node + 1];
    inStart[node] = write;
    let last = -1;
    for (; read < end; read++) {
      const source = sources[read];
      if (source === last || source === node) continue;
      last = source;
      sources[write++] = source;
      outDegree[source]++;
    }
  }
  inStart[nodeCount] = write;
  return { nodeCount, inStart, sources: sources.slice(0, write), outDegree };
}

/** The same edges by source: the targets of node u are `targets[outStart[u]] … targets[outStart[u + 1] - 1]`, in order. */
export interface OutRows {
  /** nodeCount + 1 offsets into `targets`. */
  outStart: Uint32Array;
  targets: Uint32Array;
}

export function outRows({ nodeCount, inStart, sources, outDegree }: LinkGraph): OutRows {
  const outStart = new Uint32Array(nodeCount + 1);
  for (let node = 0; node < nodeCount; node++) outStart[node + 1] = outStart[node] + outDegree[node];
  const fill = outStart.slice(0, nodeCount);
  const targets = new Uint32Array(sources.length);
  for (let node = 0; node < nodeCount; node++)
    for (let edge = inStart[node], end = inStart[node + 1]; edge < end; edge++) targets[fill[sources[edge]]++] = node;
  return { outStart, targets };
}
