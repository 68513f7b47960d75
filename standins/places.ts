import { Random } from './random';
import { PLACES } from './words';

/** Towns of the Merrow Vale with how many live there and how that changes: a few are large. */
export function* placesFile(seed: number): Generator<string> {
  yield 'place,people,growth\n';
  for (const place of PLACES) {
    const random = new Random(`people ${seed} ${place}`);
    yield `${place},${400 + 350 * random.tail(300)},${(4 * random.next() - 1.2).toFixed(1)}\n`;
  }
}
