import type { PoolColumns } from './columns';
import { size, type Tally } from './count';
import { countsBackwards, type FactName, factSpec, isNumberFact, isTimeFact, timeValue } from './facts';
import type { RowBits } from './range-marks';

export interface Histogram {
  /** Where the condition stands. */
  path: string;
  /** Edges of the bars in the fact's unit, one more than bars, ascending. The last edge belongs to the last bar. */
  edges: number[];
  /** Rows in each bar. */
  counts: number[];
  /** Rows whose value is not known. */
  unknown: number;
}

const BARS = 40;
/** Floats are told apart by sign, exponent and the first seven digits of the mantissa: edges lie on such steps. */
const STEP_BITS = 16;
const CODES = 1 << (32 - STEP_BITS);

/**
 * Counts the known values of a fact over some rows. The scale depends on the fact and on the whole pool alone, so it stays where it
 * is while conditions change.
 */
export class HistogramTally implements Tally {
  private readonly edges: number[] = [];
  /** Of an even scale: its first edge and bars a unit; 0: the scale is by factors. */
  private readonly scale: number = 0;
  private readonly counts: Uint32Array;
  private unknown = 0;

  /** @throws RangeError for a fact that is no number and no time. */
  constructor(
    private readonly columns: PoolColumns,
    private readonly fact: FactName,
    private readonly path: string,
  ) {
    if (!isNumberFact(fact) && !isTimeFact(fact)) throw new RangeError(`there is no histogram of ${fact}`);
    const extent = columns.extents[fact];
    if (extent) {
      const [low, high] = extent;
      this.edges = isNumberFact(fact)
        ? numberEdges(fact, extent)
        : Array.from({ length: BARS + 1 }, (_, i) => low + ((high > low ? high - low : 1) * i) / BARS);
      // by steps of mantissa is quicker, and exact where all edges lie on such steps
      const isStepped = isNumberFact(fact) && this.edges.every((edge) => onStep(edge) === edge);
      if (!isStepped && isEven(this.edges)) this.scale = 1 / (this.edges[1] - this.edges[0]);
    }
    this.counts = new Uint32Array(this.scale > 0 ? this.edges.length - 1 : CODES);
  }

  add(rows: RowBits, from: number, blocks: number): void {
    const { fact, columns } = this;
    if (this.edges.length === 0) this.unknown += size(rows, blocks);
    else if (isTimeFact(fact)) this.addTimes(columns.times[fact], rows, from, blocks);
    else if (isNumberFact(fact) && this.scale > 0) this.addEven(columns.numbers[fact], rows, from, blocks);
    else if (isNumberFact(fact)) this.addCodes(columns.numbers[fact], rows, from, blocks);
  }

  private addTimes(column: Uint32Array, rows: RowBits, from: number, blocks: number): void {
    const { counts, scale } = this;
    const low = this.edges[0];
    const last = counts.length - 1;
    let unknown = 0;
    for (let w = 0; w < blocks; w++) {
      const base = (from + w) << 5;
      for (let word = rows[w]; word !== 0; word &= word - 1) {
        const value = column[base + 31 - Math.clz32(word & -word)];
        if (value === 0) unknown++;
        else counts[Math.min(last, ((value - low) * scale) | 0)]++;
      }
    }
    this.unknown += unknown;
  }

  private addEven(column: Float32Array, rows: RowBits, from: number, blocks: number): void {
    const { counts, scale } = this;
    const low = this.edges[0];
    const last = counts.length - 1;
    let unknown = 0;
    for (let w = 0; w < blocks; w++) {
      const base = (from + w) << 5;
      for (let word = rows[w]; word !== 0; word &= word - 1) {
        const value = column[base + 31 - Math.clz32(word & -word)];
        if (value >= low) counts[Math.min(last, ((value - low) * scale) | 0)]++;
        else unknown++;
      }
    }
    this.unknown += unknown;
  }

  /** One step of mantissa at a time, laid into bars at the end. */
  private addCodes(column: Float32Array, rows: RowBits, from: number, blocks: number): void {
    const { counts } = this;
    const bits = new Uint32Array(column.buffer, column.byteOffset, column.length);
    for (let w = 0; w < blocks; w++) {
      const base = (from + w) << 5;
      for (let word = rows[w]; word !== 0; word &= word - 1)
        counts[bits[base + 31 - Math.clz32(word & -word)] >>> STEP_BITS]++;
    }
  }

  /** @param nowSeconds what times count from. */
  result(nowSeconds: number): Histogram {
    const { path, fact, edges } = this;
    const counts = this.scale > 0 || edges.length === 0 ? Array.from(this.counts) : this.barsOfCodes();
    const { unknown } = this;
    if (edges.length === 0) return { path, edges, counts: [], unknown };
    if (!isTimeFact(fact)) return { path, edges, counts, unknown };
    const shown = edges.map((edge) => timeValue(fact, edge, nowSeconds) ?? 0);
    if (!countsBackwards(fact)) return { path, edges: shown, counts, unknown };
    return { path, edges: shown.reverse(), counts: counts.reverse(), unknown };
  }

  private barsOfCodes(): number[] {
    const { edges } = this;
    const bars = new Array<number>(edges.length - 1).fill(0);
    for (let code = 0; code < CODES; code++) {
      if (this.counts[code] === 0) continue;
      scratchBits[0] = code << STEP_BITS;
      const value = scratch[0];
      if (Number.isNaN(value)) {
        this.unknown += this.counts[code];
        continue;
      }
      let bar = 0;
      while (bar < bars.length - 1 && value >= edges[bar + 1]) bar++;
      bars[bar] += this.counts[code];
    }
    return bars;
  }
}

function isEven(edges: number[]): boolean {
  const step = edges[1] - edges[0];
  return edges.every((edge, i) => Math.abs(edges[0] + i * step - edge) <= Math.abs(step) * 1e-6);
}

/** Where the bars of a number begin and end. */
function numberEdges(fact: FactName, [least, greatest]: [number, number]): number[] {
  const spec = factSpec(fact);
  const high = spec.extent && !spec.whole ? roundUp(greatest, spec.extent[1]) : greatest;
  const low = Math.min(least, spec.extent?.[0] ?? 0);
  let edges: number[];
  if (spec.scale === 'factor' && low >= 0) {
    const from = spec.whole ? 1 : Math.max(0.01, Math.min(1, least || 0.01));
    const ratio = Math.max(2, high / from) ** (1 / (BARS - 1));
    edges = [0, ...Array.from({ length: BARS }, (_, i) => from * ratio ** i)];
  } else {
    const step = spec.whole ? Math.max(1, Math.ceil((high - low + 1) / BARS)) : (high - low || 1) / BARS;
    const bars = spec.whole ? Math.max(1, Math.ceil((high - low + 1) / step)) : BARS;
    return Array.from({ length: bars + 1 }, (_, i) => low + i * step);
  }
  const steps = edges.map((edge) => onStep(spec.whole ? Math.round(edge) : edge));
  const rising = steps.filter((edge, i) => i === 0 || edge > steps[i - 1]);
  if (rising[rising.length - 1] < high) rising.push(high);
  return rising.length > 1 ? rising : [0, 1];
}

/** The next round figure, so that the bars of a measured scale begin at figures people know; at most the end of the scale. */
function roundUp(value: number, end: number): number {
  const power = 10 ** Math.floor(Math.log10(Math.max(value, end / 1000)));
  const round = [1, 2, 2.5, 5, 10].find((times) => times * power >= value) ?? 10;
  return Math.min(end, round * power);
}

const scratch = new Float32Array(1);
const scratchBits = new Uint32Array(scratch.buffer);
/** The nearest smaller value that has only seven digits of mantissa. */
function onStep(value: number): number {
  scratch[0] = value;
  scratchBits[0] = (scratchBits[0] >>> STEP_BITS) << STEP_BITS;
  return scratch[0];
}
