declare module 'unbzip2-stream' {
  import type { Duplex } from 'node:stream';

  /** Unpacks bzip2. */
  export default function unbzip2Stream(): Duplex;
}
