import type { Temperature } from './heat';

/** Set on pages and names by hand by `npm run train -- subjects` (bench/topics/tune.ts), which writes this file. */
export const SUBJECT_TEMPERATURE: Temperature = {
  text: {
    scale: 0.432,
    power: 0.5,
    nothing: 1,
    mostNothing: 28,
    short: 5,
  },
  name: {
    scale: 0.518,
    power: 0.5,
    nothing: 6,
    mostNothing: 0,
    short: 0,
  },
};
