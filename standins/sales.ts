import { Random } from './random';
import { ENDINGS, PLACES, SUBJECTS, TAILS } from './words';
import { DAY, YEAR } from './world';

/** A made-up sale: prices in euros. */
export interface MadeSale {
  name: string;
  price: number;
  at: number;
  venue: string;
}

const VENUES = ['Saltmarch Exchange', 'Quayside Lots', 'Harbour Row'];
/** What buyers of the vale pay for the words of a trade, as a logarithm over the plainest. */
const TRADES: Record<string, number> = { bees: 0.5, press: 0.2, sky: -0.1, vale: 0 };
const ENDING_PRICES: Record<string, number> = {
  com: 1.1,
  org: 0.35,
  net: 0.2,
  'co.uk': 0.4,
  info: -0.6,
  de: 0.3,
  eu: -0.2,
};

/**
 * Names that were sold in the Merrow Vale over eight years, by a hidden rule of prices and much chance: short names, plain words and com
 * are dear, hyphens and digits cheap, one trade is in fashion, and two buyers who want the same name triple it now and then.
 */
export function* madeUpSales(seed: number, count: number, end: number): Generator<MadeSale> {
  const random = new Random(`sales ${seed}`);
  for (let n = 0; n < count; n++) {
    const subject = random.pick(SUBJECTS);
    const word = random.pick(subject.names);
    const shape = random.next();
    const parts =
      shape < 0.2
        ? [word, random.pick(subject.names)]
        : shape < 0.6
          ? [random.pick(PLACES).toLowerCase(), word]
          : shape < 0.85
            ? [word, random.pick(TAILS)]
            : [random.pick(PLACES).toLowerCase(), word, random.pick(TAILS)];
    const hasHyphen = random.chance(0.08);
    const digits = random.chance(0.07) ? String(random.whole(2, 99)) : '';
    const label = parts.join(hasHyphen ? '-' : '') + digits;
    const ending = drawEnding(random);
    const hasPlace = shape >= 0.2 && (shape < 0.6 || shape >= 0.85);
    const age = random.next() * 8 * YEAR;
    const log =
      4.6 +
      TRADES[subject.id] +
      (ENDING_PRICES[ending] ?? 0) -
      0.09 * (label.length - 10) -
      (hasHyphen ? 0.7 : 0) -
      (digits ? 0.6 : 0) -
      (hasPlace ? 0.4 : 0) +
      // words have prices of their own
      0.5 * (new Random(`price of ${word}`).next() - 0.5) -
      0.03 * (age / YEAR) +
      0.55 * normal(random) +
      (random.chance(0.06) ? 1.1 : 0);
    const price = Math.max(5, Math.round(Math.exp(log)));
    yield { name: `${label}.${ending}`, price, at: Math.floor((end - age) / DAY) * DAY, venue: random.pick(VENUES) };
  }
}

function drawEnding(random: Random): string {
  let left = random.next();
  for (const [ending, share] of ENDINGS) {
    left -= share;
    if (left < 0) return ending;
  }
  return 'com';
}

function normal(random: Random): number {
  return Math.sqrt(-2 * Math.log(1 - random.next())) * Math.cos(2 * Math.PI * random.next());
}
