import { loadLanguages } from '../src/core/history/language';
import { judgeRisks } from '../src/core/spam/fit';
import { scoreSpam } from '../src/core/spam/scorecard';
import { SPAM_FROM } from '../src/core/spam/threshold';
import { makeLabelledWorld, OTHER_ABUSE, OTHER_CLEAN, TAUGHT_CLEAN } from '../standins/labelled-worlds';
import { caseProfiles } from './cases';
import { type Bench, round, sized } from './figure';
import { casesOf } from './spam-cases';
import { exampleOf } from './training';

const SEEDS = [501, 502, 503, 504, 505].slice(0, sized('BENCH_SPAM_WORLDS', 5, 1));
const DOMAINS_A_KIND = sized('BENCH_SPAM_DOMAINS', 20, 4);

/**
 * Spam risk on link profiles by hand, against the share of domains whose words sell alone; and on worlds of the generator, which points were
 * fitted on before.
 */
export const spam: Bench = async (log) => {
  const languageOf = await loadLanguages();
  const hand = caseProfiles().map((profile) => {
    const { values, risk, isSpam, sort } = exampleOf(profile, languageOf);
    return { isSpam, sort, risk: risk ?? 0, money: 100 * (values['money-anchors'] ?? 0) };
  });
  const report = judgeRisks(hand);
  const base = judgeRisks(hand.map(({ isSpam, money }) => ({ isSpam, risk: money })));
  log(`${report.spam} abused and ${report.examples - report.spam} honest profiles by hand`);
  const bySort = new Map<string, typeof hand>();
  for (const entry of hand)
    bySort.set(`${entry.isSpam} ${entry.sort}`, [...(bySort.get(`${entry.isSpam} ${entry.sort}`) ?? []), entry]);
  const calledOf = (some: typeof hand) => some.filter(({ risk }) => risk >= SPAM_FROM).length / some.length;
  const sorts = [...bySort.values()].filter((some) => some.length > 1);
  const worstHonest = Math.max(...sorts.filter(([{ isSpam }]) => !isSpam).map(calledOf));
  const worstAbused = Math.min(...sorts.filter(([{ isSpam }]) => isSpam).map(calledOf));
  const sure = hand.filter(({ risk }) => risk >= 80);
  const right = sure.filter(({ isSpam }) => isSpam).length / Math.max(1, sure.length);
  const kinds = [...OTHER_ABUSE, ...OTHER_CLEAN, ...TAUGHT_CLEAN];
  const worlds = await Promise.all(SEEDS.map((seed) => casesOf(makeLabelledWorld(seed, kinds, DOMAINS_A_KIND))));
  const made = judgeRisks(worlds.flat().map(({ input, isSpam }) => ({ isSpam, risk: scoreSpam(input).risk ?? 0 })));
  return [
    { name: 'spam', value: round(report.area, 4), unit: `area under the ROC curve of ${report.examples} profiles by hand`, baseline: round(base.area, 4), ratio: round(report.area / base.area, 2), goal: 'at least 0.93', met: report.area >= 0.93 },
    { name: 'spam-false-alarms', value: round(100 * report.falseAlarms, 2), unit: '% of the honest called spam', baseline: round(100 * base.falseAlarms, 2), ratio: null, goal: 'at most 3%', met: report.falseAlarms <= 0.03 },
    { name: 'spam-missed', value: round(100 * report.missed, 1), unit: '% of the abused not called spam', baseline: round(100 * base.missed, 1), ratio: null, goal: 'none', met: true },
    { name: 'spam-worst-honest', value: round(100 * worstHonest, 1), unit: `% called of the honest kind that is called most, of those with two and more`, baseline: null, ratio: null, goal: 'at most 10%', met: worstHonest <= 0.1 },
    { name: 'spam-worst-abused', value: round(100 * worstAbused, 1), unit: '% found of the kind of abuse that is found least', baseline: null, ratio: null, goal: 'at least 50%', met: worstAbused >= 0.5 },
    { name: 'spam-sure', value: round(100 * right, 1), unit: `% abused of ${sure.length} with a risk of 80 and more`, baseline: null, ratio: null, goal: 'at least 80%', met: right >= 0.8 },
    { name: 'spam-generated', value: round(made.area, 4), unit: `area under the ROC curve of ${made.examples} generated domains`, baseline: null, ratio: null, goal: 'none', met: true },
    { name: 'spam-generated-false', value: round(100 * made.falseAlarms, 2), unit: '% of the honest generated ones called spam', baseline: null, ratio: null, goal: 'none', met: true },
  ]; // biome-ignore format: a figure a line
};
