import { writeFileSync } from 'node:fs';
import { loadLanguages } from '../src/core/history/language';
import {
  calibrationErrorOf,
  judgeSubjects,
  type LabelledText,
  type SubjectReport,
} from '../src/core/topics/calibration';
import { LEAST_CONFIDENCE, subjectClassifier } from '../src/core/topics/classifier';
import { SUBJECTS } from '../src/core/topics/subjects';
import { singular, termsOf } from '../src/core/topics/terms';
import '../src/store/base/tables';
import { casePages } from './cases';
import { type Bench, IS_SMALL, round, sized } from './figure';
import { textsOfSeeds } from './training';

const SEEDS = [301, 302];
const TEXTS_A_THEME = sized('BENCH_TEXTS', 40, 1);

/** Subjects of pages of other seeds than were learned from, against counting the written words of each subject. Draws the reliability plot. */
export const subjects: Bench = async (log) => {
  const texts = textsOfSeeds(SEEDS, TEXTS_A_THEME);
  const report = judgeSubjects(subjectClassifier(), texts);
  const base = texts.filter(({ subject, terms }) => byWords(terms) === subject).length / texts.length;
  if (!IS_SMALL) {
    writeFileSync('docs/subject-reliability.svg', reliabilityPlot(report));
    log('docs/subject-reliability.svg is drawn');
  }
  const languageOf = await loadLanguages();
  const pages = casePages().map((page) => ({
    ...page,
    said: subjectClassifier().classify(termsOf(page.text), languageOf(page.text)),
  }));
  const about = pages.filter(({ subject }) => subject !== null);
  const right = about.filter(({ subject, said }) => said.subject === subject);
  const inArea = about.filter(({ subject, said }) => said.subject?.split('.')[0] === subject?.split('.')[0]);
  const called = pages.filter(({ said }) => said.subject !== null && said.confidence >= LEAST_CONFIDENCE);
  const empty = pages.filter(({ subject, isRead }) => subject === null && isRead);
  const unread = pages.filter(({ isRead }) => !isRead);
  const told = about.filter(({ said }) => said.subject !== null);
  const apart = calibrationErrorOf(
    told.map(({ subject, said }) => ({ confidence: said.confidence, isRight: said.subject === subject })),
  );
  const old = about.filter(({ subject, text }) => byWords(termsOf(text)) === subject).length / about.length;
  const share = (some: readonly unknown[], of: readonly unknown[]) => round(some.length / Math.max(1, of.length), 3);
  const hand = (
    name: string,
    value: number,
    unit: string,
    goal: string,
    met: boolean,
    baseline: number | null = null,
  ) => ({
    name: `subjects-by-hand${name}`,
    value,
    unit,
    baseline,
    ratio: baseline === null ? null : round(value / baseline, 2),
    goal,
    met,
  });
  const sure = share(
    called.filter(({ subject, said }) => said.subject === subject),
    called,
  );
  const callsOf = (some: typeof pages) => some.filter((page) => called.includes(page)).length;
  return [
    hand('', share(right, about), `of ${about.length} pages by hand, six languages, told right`, 'at least 0.75', share(right, about) >= 0.75, round(old, 3)),
    hand('-area', share(inArea, about), 'of them with the right area', 'at least 0.85', share(inArea, about) >= 0.85),
    hand('-sure', sure, `right of ${called.length} called at 0.5 or more`, 'at least 0.9', sure >= 0.9),
    hand('-calibration', round(apart, 3), 'mean distance of confidence and accuracy', 'at most 0.06', apart <= 0.06),
    hand('-nothing', callsOf(empty), `of ${empty.length} pages about nothing called`, 'at most 2', callsOf(empty) <= 2),
    hand('-unread', callsOf(unread), `of ${unread.length} pages in other languages called`, 'none', callsOf(unread) === 0),
    { name: 'subjects', value: round(report.accuracy, 4), unit: `of ${texts.length} generated pages of 100 words and more told right, of ${SUBJECTS.length} subjects`, baseline: round(base, 4), ratio: round(report.accuracy / base, 2), goal: 'at least 0.85', met: report.accuracy >= 0.85 },
    { name: 'subjects-calibration', value: round(report.calibrationError, 4), unit: 'mean distance of confidence and accuracy', baseline: null, ratio: null, goal: 'none', met: true },
  ]; // biome-ignore format: a figure a line
};

const written = SUBJECTS.map(({ id, words }) => ({ id, words: new Set(words.map(singular)) }));
function byWords(terms: LabelledText['terms']): string | null {
  let best: string | null = null;
  let most = 0;
  for (const { id, words } of written) {
    let hits = 0;
    for (const word of terms.keys()) if (words.has(word)) hits++;
    if (hits > most) [best, most] = [id, hits];
  }
  return best;
}

const SIZE = 320;
const MARGIN = 46;

/** Confidence against how often it was right; the dots' areas are by how many pages they stand for. */
function reliabilityPlot({ bins, texts, accuracy, calibrationError }: SubjectReport): string {
  const x = (share: number) => round(MARGIN + share * SIZE, 1);
  const y = (share: number) => round(MARGIN / 2 + (1 - share) * SIZE, 1);
  const dots = bins.flatMap((bin) =>
    bin.confidence === null || bin.accuracy === null
      ? []
      : [
          `<circle cx="${x(bin.confidence)}" cy="${y(bin.accuracy)}" r="${round(3 + 9 * Math.sqrt(bin.texts / texts), 1)}" fill="#6b2f4e" fill-opacity="0.75"><title>${bin.texts} pages: confidence ${round(bin.confidence, 2)}, right ${round(bin.accuracy, 2)}</title></circle>`,
        ],
  );
  const ticks = [0, 0.25, 0.5, 0.75, 1].flatMap((share) => [
    `<text x="${x(share)}" y="${y(0) + 16}" text-anchor="middle">${share}</text>`,
    `<text x="${x(0) - 8}" y="${y(share) + 4}" text-anchor="end">${share}</text>`,
  ]);
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${SIZE + MARGIN + 20} ${SIZE + 1.5 * MARGIN}" font-family="sans-serif" font-size="11" fill="#3b332c">
<title>How often subjects are right, by how sure they are</title>
<rect width="100%" height="100%" fill="#f7f2e7"/>
<path d="M${x(0)} ${y(0)} L${x(1)} ${y(1)}" stroke="#b9a98f" stroke-dasharray="4 4"/>
<path d="M${x(0)} ${y(1)} V${y(0)} H${x(1)}" fill="none" stroke="#3b332c"/>
${[...ticks, ...dots].join('\n')}
<text x="${x(0.5)}" y="${y(0) + 34}" text-anchor="middle">confidence</text>
<text x="14" y="${y(0.5)}" text-anchor="middle" transform="rotate(-90 14 ${y(0.5)})">share that was right</text>
<text x="${x(0.04)}" y="${y(0.95)}">${texts} pages, ${round(100 * accuracy, 1)}% right, mean distance ${round(calibrationError, 3)}</text>
</svg>
`;
}
