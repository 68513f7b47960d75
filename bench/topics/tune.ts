import { readFileSync, writeFileSync } from 'node:fs';
import {
  classShares,
  SubjectClassifier,
  type SubjectLanguage,
  type SubjectScore,
} from '../../src/core/topics/classifier';
import type { Heat } from '../../src/core/topics/heat';
import { NOTHING_NUMBER } from '../../src/core/topics/subject-table';
import { SUBJECTS } from '../../src/core/topics/subjects';
import { singular, termsOf } from '../../src/core/topics/terms';
import { readTable } from '../../src/store/base/tables';
import { tunePages } from './materials';

/** What was scored, and the number of the class that is right. */
interface Scored {
  score: SubjectScore;
  right: number;
}

const POWERS = [0, 0.25, 0.5];
const SCALES = Array.from({ length: 18 }, (_, n) => 0.3 * 1.2 ** n);
const NOTHINGS = [0, 1, 2, 3, 4, 5, 6];
/** No more: whole pages carry notices and menus that the extracts here leave out. */
const MOSTS = [0, 4, 8, 12, 20, 28];
/** Login pages and the like are shorter than any page here. */
const SHORT = 5;
const LEAST_CHANCE = 1e-6;

/** Sets the temperatures of texts and names on hand-written ones that no table was made of, and writes them to where the product reads them. */
export function tuneSubjects(log: (line: string) => void): void {
  const classifier = new SubjectClassifier((language) => readTable(`subjects-${language}`));
  const pages = tunePages().map(({ subject, language, text }) => ({
    score: classifier.score(termsOf(text), language as SubjectLanguage),
    right: numberOf(subject),
  }));
  const names = readFileSync('bench/topics/tune/names.txt', 'utf8')
    .trim()
    .split('\n')
    .map((line) => {
      const [language, subject, ...words] = line.split(' ');
      const score = classifier.scoreName(words.map(singular), language as SubjectLanguage);
      return { score, right: numberOf(subject === 'null' ? null : subject) };
    });
  const heat = {
    text: coolest(pages, SHORT),
    name: coolest(
      names.filter(({ score }) => score.known > 0),
      0,
    ),
  };
  writeFileSync(
    'src/core/topics/subject-temperature.ts',
    `import type { Temperature } from './heat';\n\n/** Set on pages and names by hand by \`npm run train -- subjects\` (bench/topics/tune.ts), which writes this file. */\nexport const SUBJECT_TEMPERATURE: Temperature = ${JSON.stringify(heat, null, 2)};\n`,
  );
  log(`temperatures of ${pages.length} pages and ${names.length} names: ${JSON.stringify(heat)}`);
}

const numberOf = (subject: string | null) =>
  subject === null ? NOTHING_NUMBER : SUBJECTS.findIndex(({ id }) => id === subject);

/** The temperature with the least mean negative log likelihood of the right class, among a grid. */
function coolest(scored: readonly Scored[], short: number): Heat {
  let best: Heat = { scale: 1, power: 0, nothing: 0, mostNothing: 0, short };
  let least = Number.POSITIVE_INFINITY;
  for (const power of POWERS)
    for (const scale of SCALES)
      for (const nothing of NOTHINGS)
        for (const mostNothing of MOSTS) {
          const heat = { scale: Math.round(scale * 1000) / 1000, power, nothing, mostNothing, short };
          let loss = 0;
          for (const { score, right } of scored)
            loss -= Math.log(Math.max(LEAST_CHANCE, classShares(score.sums, score.evidence || 1, heat)[right]));
          if (loss < least) [least, best] = [loss, heat];
        }
  return best;
}
