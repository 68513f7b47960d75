import { singular } from '../topics/terms';

/** A name that was sold, with what is needed to hold another against it. */
export interface Sale {
  name: string;
  /** Words of its label. */
  words: readonly string[];
  ending: string;
  length: number;
  hyphens: number;
  digits: number;
  /** Subject that its words tell; null: none that shows. */
  subject: string | null;
  /** In minor units of the user's currency, over 0. */
  priceMinor: number;
  /** ms since 1970 UTC. */
  at: number;
  venue: string | null;
}

export type SoldName = Omit<Sale, 'priceMinor' | 'at' | 'venue'>;

/** A sale that a worth rests on. */
export interface NearSale {
  sale: Sale;
  /** 0: the same in all that is looked at; 1 is as far as two names of one trade mostly are. */
  distance: number;
  /** What its price says of this name, once what the two differ in is taken into account. */
  adjustedMinor: number;
}

export interface ResaleWorth {
  lowMinor: number;
  medianMinor: number;
  highMinor: number;
  /** The nearest first. */
  near: NearSale[];
}

const YEAR = 365.2425 * 86_400_000;
const NEIGHBOURS = 24;
/** Fewer sales say nothing. */
export const LEAST_SALES = 30;
/** Strength of the ridge (Hoerl and Kennard 1970): a feature that few sales have is believed little. */
const RIDGE = 4;
const REACH = 0.6;

/** How common words are, as the logarithm of their counts; by a list of counts. */
export type Commonness = (word: string) => number;

/**
 * What names would bring, by those that were sold: the nearest sales by words, length, ending, commonness of the words, subject and year,
 * each corrected for what the two names differ in by a linear model of log prices (hedonic regression, Rosen 1974), then the 20%, 50% and
 * 80% quantiles of these, widened until the range held six times in ten over the sales themselves, each left out in turn.
 */
export class ResaleIndex {
  private readonly model: LinearModel;
  private readonly byWord = new Map<string, number[]>();
  private readonly rarity = new Map<string, number>();
  private readonly logs: Float64Array;
  private readonly expected: Float64Array;
  /** What distances are reckoned from, a value each sale. */
  private readonly columns: {
    count: number;
    logLength: Float64Array;
    common: Float64Array;
    years: Float64Array;
    ending: string[];
    subject: (string | null)[];
  };
  /** Rarity of the words that each sale shares with the name at hand. */
  private readonly shared: Float64Array;
  private widening = 1;

  constructor(
    private readonly sales: readonly Sale[],
    private readonly commonness: Commonness,
  ) {
    this.logs = Float64Array.from(sales, ({ priceMinor }) => Math.log(priceMinor));
    for (const [n, { words }] of sales.entries())
      for (const word of new Set(words.map(singular))) {
        const places = this.byWord.get(word);
        if (places) places.push(n);
        else this.byWord.set(word, [n]);
      }
    for (const [word, places] of this.byWord) this.rarity.set(word, Math.log(1 + sales.length / places.length));
    this.shared = new Float64Array(sales.length);
    this.columns = {
      count: sales.length,
      logLength: Float64Array.from(sales, ({ length }) => Math.log(length)),
      common: Float64Array.from(sales, (sale) => this.commonOf(sale)),
      years: Float64Array.from(sales, ({ at }) => at / YEAR),
      ending: sales.map(({ ending }) => ending),
      subject: sales.map(({ subject }) => subject),
    };
    this.model = new LinearModel(
      sales.map((sale) => this.features(sale, sale.at)),
      this.logs,
    );
    this.expected = Float64Array.from(sales, (sale) => this.model.at(this.features(sale, sale.at)));
    this.widening = this.calibrate();
  }

  get size(): number {
    return this.sales.length;
  }

  /** @returns null where too few sales are known. */
  estimate(name: SoldName, at: number): ResaleWorth | null {
    if (this.sales.length < LEAST_SALES) return null;
    return this.judge(name, at, -1);
  }

  private judge(name: SoldName, at: number, without: number): ResaleWorth {
    const expected = this.model.at(this.features(name, at));
    const near = this.nearest(name, at, without).map(({ n, distance }) => ({
      n,
      distance,
      log: this.logs[n] + expected - this.expected[n],
    }));
    const [low, middle, high] = quantiles(near, [0.2, 0.5, 0.8]);
    const minor = (log: number) => Math.max(1, Math.round(Math.exp(log)));
    return {
      lowMinor: minor(middle - (middle - low) * this.widening),
      medianMinor: minor(middle),
      highMinor: minor(middle + (high - middle) * this.widening),
      near: near.map(({ n, distance, log }) => ({ sale: this.sales[n], distance, adjustedMinor: minor(log) })),
    };
  }

  private nearest(name: SoldName, at: number, without: number): { n: number; distance: number }[] {
    const { shared, columns } = this;
    const own = new Set(name.words.map(singular));
    let weight = 0.1;
    shared.fill(0);
    for (const word of own) {
      const rare = this.rare(word);
      weight += rare;
      for (const n of this.byWord.get(word) ?? []) shared[n] += rare;
    }
    const [common, logLength, years] = [this.commonOf(name), Math.log(name.length), at / YEAR];
    const { ending, subject } = name;
    const best: { n: number; distance: number }[] = [];
    for (let n = 0; n < columns.count; n++) {
      if (n === without) continue;
      const distance =
        0.5 * (1 - Math.min(1, shared[n] / weight)) +
        0.25 * Math.abs(logLength - columns.logLength[n]) +
        0.04 * Math.abs(common - columns.common[n]) +
        0.02 * Math.abs(years - columns.years[n]) +
        (columns.ending[n] === ending ? 0 : 0.12) +
        (columns.subject[n] === subject ? 0 : 0.15);
      if (best.length === NEIGHBOURS && distance >= best[NEIGHBOURS - 1].distance) continue;
      if (best.length === NEIGHBOURS) best.pop();
      let place = best.length;
      while (place > 0 && best[place - 1].distance > distance) place--;
      best.splice(place, 0, { n, distance });
    }
    return best;
  }

  private rare(word: string): number {
    return this.rarity.get(word) ?? Math.log(1 + this.sales.length);
  }

  private commonOf({ words }: SoldName): number {
    return words.reduce((sum, word) => sum + this.commonness(word.toLowerCase()), 0) / Math.max(1, words.length);
  }

  private features(name: SoldName, at: number): number[] {
    const { ending, length, hyphens, digits, words } = name;
    return [
      1,
      Math.log(length),
      hyphens,
      Math.min(1, digits),
      words.length - 2,
      this.commonOf(name),
      at / YEAR - 50,
      Number(ending === 'com'),
      Number(ending === 'org'),
      Number(ending === 'net'),
      Number(ending.includes('.')),
      Number(ending.length === 2),
    ];
  }

  /** Factor by which ranges must be wider to hold six times in ten over the sales, each judged without itself. */
  private calibrate(): number {
    if (this.sales.length < LEAST_SALES) return 1;
    const step = Math.max(1, Math.floor(this.sales.length / 1000));
    const needed: number[] = [];
    for (let n = 0; n < this.sales.length; n += step) {
      const { lowMinor, medianMinor, highMinor } = this.judge(this.sales[n], this.sales[n].at, n);
      const off = this.logs[n] - Math.log(medianMinor);
      const half = off < 0 ? Math.log(medianMinor / lowMinor) : Math.log(highMinor / medianMinor);
      needed.push(Math.abs(off) / Math.max(0.02, half));
    }
    needed.sort((a, b) => a - b);
    return Math.max(0.5, Math.min(4, needed[Math.floor(needed.length * 0.6)]));
  }
}

/** Least squares with a ridge, by its normal equations. The first feature is the constant and bears no ridge. */
class LinearModel {
  private readonly weights: number[];

  constructor(rows: readonly (readonly number[])[], values: Float64Array) {
    const size = rows[0]?.length ?? 0;
    const left = Array.from({ length: size }, (_, i) =>
      Array.from({ length: size }, (__, j) => (i === j && i > 0 ? RIDGE : 0)),
    );
    const right = new Array<number>(size).fill(0);
    for (const [n, row] of rows.entries())
      for (let i = 0; i < size; i++) {
        right[i] += row[i] * values[n];
        for (let j = 0; j < size; j++) left[i][j] += row[i] * row[j];
      }
    this.weights = solve(left, right);
  }

  at(row: readonly number[]): number {
    return row.reduce((sum, value, i) => sum + value * (this.weights[i] ?? 0), 0);
  }
}

/** Gaussian elimination with pivots; what cannot be told from the others is 0. */
function solve(left: number[][], right: number[]): number[] {
  const size = right.length;
  for (let k = 0; k < size; k++) {
    let pivot = k;
    for (let i = k + 1; i < size; i++) if (Math.abs(left[i][k]) > Math.abs(left[pivot][k])) pivot = i;
    [left[k], left[pivot]] = [left[pivot], left[k]];
    [right[k], right[pivot]] = [right[pivot], right[k]];
    if (Math.abs(left[k][k]) < 1e-9) continue;
    for (let i = k + 1; i < size; i++) {
      const factor = left[i][k] / left[k][k];
      for (let j = k; j < size; j++) left[i][j] -= factor * left[k][j];
      right[i] -= factor * right[k];
    }
  }
  const found = new Array<number>(size).fill(0);
  for (let k = size - 1; k >= 0; k--) {
    let sum = right[k];
    for (let j = k + 1; j < size; j++) sum -= left[k][j] * found[j];
    found[k] = Math.abs(left[k][k]) < 1e-9 ? 0 : sum / left[k][k];
  }
  return found;
}

/** Quantiles of what neighbours say, the nearer the more. */
function quantiles(near: readonly { distance: number; log: number }[], shares: readonly number[]): number[] {
  const sorted = near
    .map(({ distance, log }) => ({ log, weight: Math.exp(-distance / REACH) }))
    .sort((a, b) => a.log - b.log);
  const all = sorted.reduce((sum, { weight }) => sum + weight, 0);
  return shares.map((share) => {
    let sum = 0;
    for (const { log, weight } of sorted) {
      sum += weight;
      if (sum >= share * all) return log;
    }
    return sorted[sorted.length - 1]?.log ?? 0;
  });
}
