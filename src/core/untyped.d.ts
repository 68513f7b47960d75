declare module 'html-encoding-sniffer' {
  /** The HTML standard's encoding sniffing algorithm; returns a canonical encoding name. */
  export default function sniffEncoding(
    bytes: Uint8Array,
    options?: { xml?: boolean; transportLayerEncodingLabel?: string; defaultEncoding?: string },
  ): string;
}

declare module 'graphology-pagerank' {
  import type Graph from 'graphology';
  export default function pagerank(graph: Graph, options?: Record<string, unknown>): Record<string, number>;
}
