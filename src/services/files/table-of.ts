import { decoderOf, guessCharset } from '../../core/formats/charset';
import type { TitledInput } from '../../core/formats/titled-table';
import { packingOf } from './packing';
import { sheetsOf } from './sheets';

/** Bytes that a file that is read whole may unpack to. */
const MOST_UNPACKED = 64 * 2 ** 20;

/**
 * The tables of a file, whatever it is written in: a text as it stands, anything else as its sheets.
 *
 * @throws FileProblem where it cannot be read.
 */
export async function tablesOf(bytes: Uint8Array): Promise<TitledInput> {
  if (packingOf(bytes) !== null) return (await sheetsOf(bytes, MOST_UNPACKED)).sheets;
  return decoderOf(guessCharset(bytes, false)).decode(bytes);
}
