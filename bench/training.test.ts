import { describe, expect, it } from 'vitest';
import { judgeRisks } from '../src/core/spam/fit';
import { SHIPPED_POINTS, scoreSpam } from '../src/core/spam/scorecard';
import { judgeSubjects } from '../src/core/topics/calibration';
import { subjectClassifier } from '../src/core/topics/classifier';
import { makeLabelledWorld, OTHER_ABUSE, OTHER_CLEAN, TAUGHT_CLEAN } from '../standins/labelled-worlds';
import { casesOf } from './spam-cases';
import { textsOfSeeds, trainSpam } from './training';

describe('the data that ships', () => {
  // takes long, so only with `npm run soak`
  it.runIf(process.env.JAM_LADLE_SOAK === '1')(
    'is what training makes: points of the spam rules',
    { timeout: 180_000 },
    async () => {
      expect(SHIPPED_POINTS).toEqual(await trainSpam());
    },
  );
});

describe('on worlds of other seeds', () => {
  it('tells the subject of at least 85 in 100 pages, and is as sure as it may be', { timeout: 60_000 }, () => {
    const report = judgeSubjects(subjectClassifier(), textsOfSeeds([311], 20));
    expect(report.accuracy).toBeGreaterThanOrEqual(0.85);
    expect(report.calibrationError).toBeLessThan(0.04);
  });
  it('tells other abuse than it learned from, and calls at most 2 in 100 honest domains spam', {
    timeout: 60_000,
  }, async () => {
    const world = makeLabelledWorld(611, [...OTHER_ABUSE, ...OTHER_CLEAN, ...TAUGHT_CLEAN], 15);
    const cases = (await casesOf(world)).map(({ input, isSpam }) => ({ isSpam, risk: scoreSpam(input).risk ?? 0 }));
    const report = judgeRisks(cases);
    expect(report.area).toBeGreaterThanOrEqual(0.95);
    expect(report.falseAlarms).toBeLessThanOrEqual(0.02);
    expect(report.missed).toBeLessThan(0.3);
  });
});
