/** One measured figure beside its baseline of the same run. */
export interface Figure {
  name: string;
  value: number;
  unit: string;
  /** null where the goal is absolute. */
  baseline: number | null;
  /** How many times better than the baseline; under 1 is worse. */
  ratio: number | null;
  goal: string;
  met: boolean;
}

export type Bench = (log: (text: string) => void) => Promise<Figure[]>;

/** `npm run bench -- --small`: the same code on sizes of seconds, to see that it runs; what it prints is no figure. */
export const IS_SMALL = process.env.JAM_LADLE_BENCH === 'small';

/** How large a bench is made: as the environment says, else whole or small. */
export function sized(variable: string, whole: number, small: number): number {
  return Number(process.env[variable] ?? (IS_SMALL ? small : whole));
}

/** Deterministic numbers from 0 to 1, so that every run measures the same data. */
export function numbers(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return state / 4294967296;
  };
}

export function percentile(values: number[], share: number): number {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))];
}

export const round = (value: number, digits = 1) => Number(value.toFixed(digits));
