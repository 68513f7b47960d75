import { fitPoints } from '../src/core/spam/fit';
import { type SpamPoints, scoreSpam, valuesOf } from '../src/core/spam/scorecard';
import type { LabelledText } from '../src/core/topics/calibration';
import { termsOf } from '../src/core/topics/terms';
import { labelledTexts } from '../standins/labelled-texts';
import { makeLabelledWorld, TAUGHT_ABUSE, TAUGHT_CLEAN } from '../standins/labelled-worlds';
import { casesOf } from './spam-cases';

export function textsOfSeeds(seeds: readonly number[], perTheme: number): LabelledText[] {
  return seeds.flatMap((seed) =>
    Array.from(labelledTexts(seed, perTheme), ({ subject, text }) => ({ subject, terms: termsOf(text) })),
  );
}

/** Worlds that points are fitted on; those that are judged have other seeds and other ways of abuse. */
const FITTED_SEEDS = [401, 402, 403, 404, 405, 406];
const DOMAINS_A_KIND = 12;
const HONEST_WEIGHT = 1.6;

/** The points that ship with the product. */
export async function trainSpam(): Promise<SpamPoints> {
  const kinds = [...TAUGHT_ABUSE, ...TAUGHT_CLEAN];
  const worlds = FITTED_SEEDS.map((seed) => casesOf(makeLabelledWorld(seed, kinds, DOMAINS_A_KIND)));
  const cases = (await Promise.all(worlds)).flat();
  const examples = cases.map(({ input, isSpam }) => ({
    values: valuesOf(scoreSpam(input)),
    isSpam,
    // an honest name that is called spam is lost for good; spam that is not called so is looked at once more
    weight: isSpam ? 1 : HONEST_WEIGHT,
  }));
  const spam = examples.filter(({ isSpam }) => isSpam).length;
  return fitPoints(examples, `${spam} abused and ${examples.length - spam} honest domains of made-up worlds`);
}
