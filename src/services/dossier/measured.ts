import { eraWords } from '../../core/history/era-words';
import { disagreement, type SourceCount } from '../../core/measures/counts';
import { MEASURE_SPECS, MEASURES, planMeasures } from '../../core/measures/plan';
import { SHIPPED_POINTS } from '../../core/spam/scorecard';
import { areaTitle, subjectTitle, subjectWords } from '../../core/topics/subjects';
import type { Store } from '../../store/base/database';
import { readSettings } from '../../store/base/settings';
import type { DomainRow } from '../../store/domains/domains';
import { markMatchesOf, markReviewsOf } from '../../store/domains/word-marks';
import { capturePageTimes, capturesOf } from '../../store/links/captures';
import { frontAnswerOf, pastOf, readInspection, subjectReasonOf } from '../../store/links/inspections';
import { linkCountsBySource } from '../../store/links/links';
import { queuedCandidates, queueLength, spentToday } from '../../store/links/measure-queue';
import { oldAddresses } from '../../store/links/referring';
import { activePoints, lastFit, marksGiven } from '../../store/links/spam-points';
import { referrersOf } from './referrers';

const REFERRERS_SHOWN = 200;
const ADDRESSES_SHOWN = 20;
const MAIN_WORDS = 8;
const NO_WORDS: ReadonlySet<string> = new Set();

/** What was measured of a domain, with its reasons: referrers with their discounts, the past, subject, forwarding, trademarks. */
export function measuredOf(store: Store, row: DomainRow, said: readonly SourceCount[]) {
  const inspection = readInspection(store, row.id);
  const { list, weighed, profile } = referrersOf(store, row);
  const past = pastOf(inspection);
  const captures = capturesOf(store, row.id);
  const keptPages = new Set(capturePageTimes(store, row.id));
  const settings = readSettings(store);
  const counts: SourceCount[] = [...linkCountsBySource(store, row.id), ...said];
  const why = subjectReasonOf(inspection);
  return {
    counts,
    countRule: settings.countRule,
    disagreement: disagreement(counts, settings.countFactor),
    weighing:
      inspection?.effective == null
        ? null
        : {
            value: weighed.effective,
            referring: list.length,
            pages: weighed.pages,
            siteWide: weighed.siteWide,
            taken: weighed.taken,
            networks: weighed.networks,
            lookedAt: inspection.referrers_at,
          },
    referrers: list.slice(0, REFERRERS_SHOWN),
    profile,
    looked: list.filter(({ lookedAt }) => lookedAt !== null).length,
    gone: list.filter(({ standing }) => standing === 'gone').length,
    spamMass: inspection?.spam_mass ?? null,
    forwarding: inspection?.forward_to
      ? {
          to: inspection.forward_to,
          isNow: inspection.forward_now === 1,
          strengthWith: inspection.strength_with,
          strength: row.strength,
        }
      : null,
    front: frontAnswerOf(inspection),
    frontAt: inspection?.forwarding_at ?? null,
    past:
      past === null
        ? null
        : {
            ...past,
            eras: past.eras.map((era) => ({
              ...era,
              subject: era.subject ? subjectTitle(era.subject) : null,
              words: eraWords(era, captures, era.subject ? subjectWords(era.subject) : NO_WORDS, MAIN_WORDS),
            })),
            at: inspection?.captures_at ?? null,
            read: inspection?.captures_read ?? 0,
            isPartial: inspection?.captures_partial === 1,
          },
    readCaptures: captures.map(({ terms, subject, ...capture }) => ({
      ...capture,
      isKept: keptPages.has(capture.at),
      words: [...terms.keys()].slice(0, MAIN_WORDS),
      subject: subject ? subjectTitle(subject) : null,
    })),
    oldAddresses: oldAddresses(store, row.id, ADDRESSES_SHOWN),
    subjectWhy:
      why === null
        ? null
        : {
            title: inspection?.subject ? subjectTitle(inspection.subject) : null,
            area: inspection?.subject ? areaTitle(inspection.subject) : null,
            confidence: inspection?.subject_confidence ?? 0,
            from: why.from,
            words: why.words,
            runnerUp: why.runnerUp
              ? { title: subjectTitle(why.runnerUp.subject), confidence: why.runnerUp.confidence }
              : null,
          },
    marksFound: {
      at: inspection?.marks_at ?? null,
      matches: markMatchesOf(store, row.id),
      reviews: markReviewsOf(store, row.id),
    },
    points: { fittedOn: activePoints(store).fittedOn },
  };
}

export type Measured = ReturnType<typeof measuredOf>;

const NEXT_SHOWN = 40;

/** What measuring costs and is due: the day's budget, the queue with its reasons, the points and the marks they can be fitted to. */
export function measureView(store: Store) {
  const settings = readSettings(store);
  const now = store.now();
  const fit = lastFit(store);
  return {
    budget: settings.measureBudget,
    spent: spentToday(store, now),
    gate: settings.measureGate,
    queued: queueLength(store),
    next: queuedCandidates(store, NEXT_SHOWN)
      .map((candidate) => ({ ...candidate, plan: planMeasures(candidate, settings.measureGate, now) }))
      .sort((a, b) => b.plan.worth - a.plan.worth)
      .map(({ name, wantedBy, since, plan }) => ({ name, wantedBy, since, ...plan })),
    measures: MEASURES.map((measure) => ({ measure, ...MEASURE_SPECS[measure] })),
    points: activePoints(store),
    shipped: SHIPPED_POINTS,
    marks: marksGiven(store),
    fit: fit && { at: fit.at, report: fit.report },
  };
}
