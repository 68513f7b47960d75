import { judgeRisks } from '../src/core/spam/fit';
import { scoreSpam } from '../src/core/spam/scorecard';
import { makeLabelledWorld, OTHER_ABUSE, OTHER_CLEAN, TAUGHT_CLEAN } from '../standins/labelled-worlds';
import type { Bench } from './figure';
import { round, sized } from './figure';
import { casesOf } from './spam-cases';

const SEEDS = [501, 502, 503, 504, 505].slice(0, sized('BENCH_SPAM_WORLDS', 5, 1));
const DOMAINS_A_KIND = sized('BENCH_SPAM_DOMAINS', 20, 4);

/** Spam risk on worlds with other seeds and other ways of abuse than the points were fitted on, against the share of money-word anchors alone. */
export const spam: Bench = async (log) => {
  const kinds = [...OTHER_ABUSE, ...OTHER_CLEAN, ...TAUGHT_CLEAN];
  const worlds = await Promise.all(SEEDS.map((seed) => casesOf(makeLabelledWorld(seed, kinds, DOMAINS_A_KIND))));
  const cases = worlds.flat().map((entry) => {
    const card = scoreSpam(entry.input);
    const money = card.results.find(({ rule }) => rule === 'money-anchors')?.value ?? 0;
    return { kind: entry.kind, isSpam: entry.isSpam, risk: card.risk ?? 0, money: 100 * money };
  });
  const report = judgeRisks(cases);
  const base = judgeRisks(cases.map(({ isSpam, money }) => ({ isSpam, risk: money })));
  log(`${report.spam} abused and ${report.examples - report.spam} honest domains`);
  const kindFigures = kinds.map((kind) => {
    const own = cases.filter((entry) => entry.kind === kind);
    const called = own.filter(({ risk }) => risk >= 50).length;
    const isAbuse = own[0].isSpam;
    const value = round((100 * called) / own.length, 1);
    return { name: `spam-${kind}`, value, unit: `% of ${own.length} called spam`, baseline: null, ratio: null, goal: isAbuse ? 'none: abuse' : 'none: honest', met: true };
  }); // biome-ignore format: a figure a line
  return [
    { name: 'spam', value: round(report.area, 4), unit: 'area under the ROC curve', baseline: round(base.area, 4), ratio: round(report.area / base.area, 2), goal: 'at least 0.95', met: report.area >= 0.95 },
    { name: 'spam-false-alarms', value: round(100 * report.falseAlarms, 2), unit: '% of the honest called spam', baseline: round(100 * base.falseAlarms, 2), ratio: null, goal: 'at most 2%', met: report.falseAlarms <= 0.02 },
    { name: 'spam-missed', value: round(100 * report.missed, 1), unit: '% of the abused not called spam', baseline: round(100 * base.missed, 1), ratio: null, goal: 'none', met: true },
    ...kindFigures,
  ]; // biome-ignore format: a figure a line
};
