import { Refusal } from '../../core/refusal';
import { fitPoints, judgeRisks, type SpamExample } from '../../core/spam/fit';
import { rescore, type SpamPoints, valuesOf } from '../../core/spam/scorecard';
import type { Store } from '../../store/base/database';
import { activePoints, keepFit, markedCards, type RefitReport, undoFit } from '../../store/links/spam-points';

/** Marks it takes before points are fitted to them, and of each kind. */
export const LEAST_MARKS = 50;
const LEAST_OF_A_KIND = 5;
/** Points stay near those that ship, as if so many examples spoke for them. */
const RIDGE = 12;
const FOLDS = 5;
const MOST_MOVED = 12;

/** Why points cannot be fitted; the message is for people. */
export class RefitError extends Refusal {
  constructor(message: string, options: ErrorOptions = {}) {
    super('too-few-marks', message, options);
  }
}

/**
 * Fits the points of the spam rules to a person's own marks, near to those that count now, and keeps them. How well they do is judged on
 * marks that they were not fitted to (five parts in turn).
 *
 * @throws RefitError when there are too few marks.
 */
export function refit(store: Store): RefitReport {
  const marked = markedCards(store).filter(({ card }) => card.risk !== null);
  const spam = marked.filter(({ mark }) => mark === 'spam').length;
  if (marked.length < LEAST_MARKS)
    throw new RefitError(
      `It takes ${LEAST_MARKS} domains marked spam or sound whose links are measured; there are ${marked.length}.`,
    );
  if (Math.min(spam, marked.length - spam) < LEAST_OF_A_KIND)
    throw new RefitError(
      `It takes at least ${LEAST_OF_A_KIND} of each kind; there are ${spam} spam and ${marked.length - spam} sound.`,
    );
  const now = activePoints(store);
  const examples = marked.map(({ mark, card }): SpamExample => ({ values: valuesOf(card), isSpam: mark === 'spam' }));
  const fitTo = (some: SpamExample[], words: string) => fitPoints(some, words, { ridge: RIDGE, near: now });
  const points = fitTo(examples, `${now.fittedOn}, then ${spam} spam and ${marked.length - spam} sound of your marks`);
  const riskUnder = (n: number, given: SpamPoints) => rescore(marked[n].card, given).risk ?? 0;
  const byFold = Array.from({ length: FOLDS }, (_, fold) => {
    const others = examples.filter((__, n) => n % FOLDS !== fold);
    const isBoth = others.some(({ isSpam }) => isSpam) && others.some(({ isSpam }) => !isSpam);
    return isBoth ? fitTo(others, '') : points;
  });
  const cases = (risk: (n: number) => number) =>
    marked.map(({ mark }, n) => ({ risk: risk(n), isSpam: mark === 'spam' }));
  const report: RefitReport = {
    before: judgeRisks(cases((n) => riskUnder(n, now))),
    after: judgeRisks(cases((n) => riskUnder(n, byFold[n % FOLDS]))),
    moved: marked
      .map(({ name, mark }, n) => ({ name, mark, before: riskUnder(n, now), after: riskUnder(n, points) }))
      .filter(({ before, after }) => before !== after)
      .sort((a, b) => Math.abs(b.after - b.before) - Math.abs(a.after - a.before))
      .slice(0, MOST_MOVED),
  };
  keepFit(store, points, report);
  return report;
}

/** Takes the last fit back. @throws RefitError when the points are those that ship. */
export function unfit(store: Store): void {
  if (!undoFit(store)) throw new RefitError('The points are those that ship; there is nothing to take back.');
}
