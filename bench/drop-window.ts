import { isInside, learnHabits, looksAtAll, widestMs } from '../e2e/life-looks';
import { type Bench, round } from './figure';

const HOUR = 3_600_000;

/** How often the true drop of every life of the world lies in the expected window, and how wide windows are, against none but the policy. */
export const dropWindow: Bench = async (log) => {
  log('looking at every life');
  const habits = learnHabits();
  const started = performance.now();
  const looks = looksAtAll(habits);
  const each = (performance.now() - started) / looks.length;
  const blind = looksAtAll(new Map());
  const inside = (100 * looks.filter(isInside).length) / looks.length;
  const insideBlind = (100 * blind.filter(isInside).length) / blind.length;
  const width = (list: typeof looks) => {
    const widths = list
      .flatMap(({ window, phase }) => (window && phase === 'auto-renew' ? window.to - window.from : []))
      .sort((a, b) => a - b);
    return widths[widths.length >> 1] / HOUR;
  };
  const wide = looks.filter((one) => one.window && one.window.to - one.window.from > widestMs(one)).length;
  return [
    { name: 'drop-window', value: round(inside, 2), unit: `% of ${looks.length} true drops inside`, baseline: round(insideBlind, 2), ratio: round(inside / insideBlind, 2), goal: 'at least 95; baseline: by the policy alone', met: inside >= 95 },
    { name: 'drop-window-width', value: round(width(looks)), unit: 'h, the middle window in the auto-renew period', baseline: round(width(blind)), ratio: round(width(looks) / width(blind), 2), goal: 'none; baseline: by the policy alone', met: true },
    { name: 'drop-window-too-wide', value: wide, unit: 'windows wider than the policy forces', baseline: null, ratio: null, goal: '0', met: wide === 0 },
    { name: 'drop-window-time', value: round(each * 1000), unit: 'microseconds a look, record included', baseline: null, ratio: null, goal: 'none', met: true },
  ]; // biome-ignore format: a figure a line
};
