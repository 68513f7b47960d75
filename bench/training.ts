import { loadLanguages } from '../src/core/history/language';
import { KINDS } from '../src/core/judge/kinds';
import { spamInputOf } from '../src/core/judge/profiles';
import { fitPoints, type SpamExample } from '../src/core/spam/fit';
import { type SpamPoints, scoreSpam, valuesOf } from '../src/core/spam/scorecard';
import type { LabelledText } from '../src/core/topics/calibration';
import { termsOf } from '../src/core/topics/terms';
import { labelledTexts } from '../standins/labelled-texts';
import type { CaseProfile } from './cases';
import { drawProfiles } from './spam-recipes';

export function textsOfSeeds(seeds: readonly number[], perTheme: number): LabelledText[] {
  return seeds.flatMap((seed) =>
    Array.from(labelledTexts(seed, perTheme), ({ subject, text }) => ({ subject, terms: termsOf(text) })),
  );
}

const FITTED_SEED = 701;
const TIMES = 14;
const HONEST_WEIGHT = 2.6;

/** A profile's measured values. */
export function exampleOf({ line, isSpam, sort }: CaseProfile, languageOf: Awaited<ReturnType<typeof loadLanguages>>) {
  const parsed = KINDS.spam.input.parse(JSON.parse(line)) as Parameters<typeof spamInputOf>[0];
  const card = scoreSpam(spamInputOf(parsed, languageOf));
  return { values: valuesOf(card), risk: card.risk, isSpam, sort };
}

/** Examples drawn from the recipes. */
export async function spamExamples(seed = FITTED_SEED, times = TIMES): Promise<(SpamExample & { sort: string })[]> {
  const languageOf = await loadLanguages();
  return drawProfiles(seed, times).map((profile) => {
    const { values, isSpam, sort } = exampleOf(profile, languageOf);
    // an honest name that is called spam is lost for good; spam that is not called so is looked at once more
    return { values, isSpam, sort, weight: isSpam ? 1 : HONEST_WEIGHT };
  });
}

/** The points that ship with the product. */
export async function trainSpam(): Promise<SpamPoints> {
  const examples = await spamExamples();
  const spam = examples.filter(({ isSpam }) => isSpam).length;
  return fitPoints(examples, `${spam} abused and ${examples.length - spam} honest profiles drawn from recipes`);
}
