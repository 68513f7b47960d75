import { Lexicon } from './lexicon';

/** Bytes of a node's mask, each kept with those of all other nodes, so that they pack well. */
const MASK_BYTES = 4;

/** A table of words as bytes: the masks of its nodes, a byte of all of them after the other, and what their words cost. */
export function packLexicon({ masks, steps }: Lexicon): Uint8Array {
  const nodes = masks.length;
  const bytes = new Uint8Array(nodes * (MASK_BYTES + 1));
  for (let node = 0; node < nodes; node++)
    for (let byte = 0; byte < MASK_BYTES; byte++) bytes[byte * nodes + node] = (masks[node] >>> (8 * byte)) & 255;
  bytes.set(steps, MASK_BYTES * nodes);
  return bytes;
}

/** @throws when it is no such table. */
export function unpackLexicon(bytes: Uint8Array): Lexicon {
  const nodes = bytes.length / (MASK_BYTES + 1);
  if (!Number.isInteger(nodes)) throw new Error('This is no table of words');
  const masks = new Uint32Array(nodes);
  for (let byte = 0; byte < MASK_BYTES; byte++)
    for (let node = 0; node < nodes; node++) masks[node] |= bytes[byte * nodes + node] << (8 * byte);
  return new Lexicon(masks, bytes.slice(MASK_BYTES * nodes));
}
