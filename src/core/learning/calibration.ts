/** A chance that was given, and whether it came to pass. */
export interface Foretold {
  /** 0 to 1. */
  chance: number;
  happened: boolean;
}

/** Foretold chances of about the same size, and how often they came to pass. */
export interface Bin {
  from: number;
  to: number;
  count: number;
  /** Mean of what was foretold. */
  foretold: number;
  /** Share that came to pass. */
  came: number;
}

export interface Calibration {
  count: number;
  bins: Bin[];
  /** Mean squared difference of chance and outcome (Brier 1950): 0 is certainty, 0.25 a coin. */
  brier: number;
  /** The same for whoever always says the share that came to pass. */
  baseBrier: number;
}

const BINS = 5;

/** Holds chances against outcomes, in bins a fifth wide; empty bins are left out. */
export function calibrate(foretold: readonly Foretold[]): Calibration {
  const bins: (Bin & { happened: number })[] = Array.from({ length: BINS }, (_, n) => ({
    from: n / BINS,
    to: (n + 1) / BINS,
    count: 0,
    foretold: 0,
    came: 0,
    happened: 0,
  }));
  let [squares, happened] = [0, 0];
  for (const one of foretold) {
    const bin = bins[Math.min(BINS - 1, Math.floor(one.chance * BINS))];
    bin.count++;
    bin.foretold += one.chance;
    if (one.happened) {
      bin.happened++;
      happened++;
    }
    squares += (one.chance - (one.happened ? 1 : 0)) ** 2;
  }
  const count = foretold.length;
  const share = count === 0 ? 0 : happened / count;
  return {
    count,
    bins: bins
      .filter((bin) => bin.count > 0)
      .map(({ happened: came, ...bin }) => ({ ...bin, foretold: bin.foretold / bin.count, came: came / bin.count })),
    brier: count === 0 ? 0 : squares / count,
    baseBrier: share * (1 - share),
  };
}

/** A range that was given, and what came. */
export interface Ranged {
  lowMinor: number;
  highMinor: number;
  cameMinor: number;
}

export interface RangeRecord {
  count: number;
  below: number;
  within: number;
  above: number;
  /** The power that would have had six in ten within; 1: as they were. Null: too few. */
  factor: number | null;
}

/** Ranges are meant to hold six times in ten. */
export const MEANT_WITHIN = 0.6;
const LEAST_RANGES = 10;

/** How often ranges held, and by which power their factor would have to be widened or narrowed for six in ten. */
export function rangeRecord(ranges: readonly Ranged[]): RangeRecord {
  let [below, above] = [0, 0];
  for (const { lowMinor, highMinor, cameMinor } of ranges) {
    if (cameMinor < lowMinor) below++;
    else if (cameMinor > highMinor) above++;
  }
  const count = ranges.length;
  return {
    count,
    below,
    above,
    within: count - below - above,
    factor: count < LEAST_RANGES ? null : factorFor(ranges),
  };
}

/** How far each outcome lies from its middle, in halves of its range on a log scale; their 60% quantile is the power. */
function factorFor(ranges: readonly Ranged[]): number {
  const reaches = ranges
    .map(({ lowMinor, highMinor, cameMinor }) => {
      const half = Math.log(highMinor / lowMinor) / 2;
      const middle = Math.log(highMinor * lowMinor) / 2;
      return half <= 0 ? 1 : Math.abs(Math.log(Math.max(1, cameMinor)) - middle) / half;
    })
    .sort((a, b) => a - b);
  const at = reaches[Math.min(reaches.length - 1, Math.ceil(MEANT_WITHIN * reaches.length) - 1)];
  return Math.round(100 * Math.min(5, Math.max(0.3, at))) / 100;
}

/** A range with its factor to a power: 1 leaves it, more widens it around its middle. */
export function widened<T extends { lowMinor: number; highMinor: number }>(range: T, power: number): T {
  if (power === 1) return range;
  const middle = Math.sqrt(range.lowMinor * range.highMinor);
  const factor = Math.sqrt(range.highMinor / range.lowMinor) ** power;
  return { ...range, lowMinor: Math.round(middle / factor), highMinor: Math.round(middle * factor) };
}

/** A chance by what came, with what was assumed counting as so many outcomes (a Beta prior). */
export function learnedChance(happened: number, tried: number, assumed: number, weight: number): number {
  return (happened + assumed * weight) / (tried + weight);
}
