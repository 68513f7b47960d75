import type { EnginePort } from '../../contracts/engine-port';
import type { NameReading } from '../../contracts/names';
import {
  type FitBrief,
  type FitFacts,
  firstShares,
  fitOf,
  fitParts,
  mixedWeights,
  type PartValue,
  PURPOSE_WEIGHTS,
} from '../../core/fit/fit';
import { subjectClassifier } from '../../core/topics/classifier';
import type { DomainRow } from '../../store/domains/domains';
import type { Brief } from '../../store/shortlist/briefs';

/** What a brief's own words tell. */
function wantedOf(brief: Brief): FitBrief {
  const words = [...brief.requiredWords, ...brief.subjectWords].flatMap((text) =>
    text.toLowerCase().split(/[^\p{L}\p{N}]+/u),
  );
  return { ...brief, subject: words.length === 0 ? null : subjectClassifier().nameSubject(words) };
}

function factsOf(row: DomainRow, reading: NameReading | null): FitFacts {
  return {
    words: reading?.split.words ?? [],
    length: row.length,
    hyphens: row.hyphens,
    digits: row.digits,
    sayability: reading?.sayability ?? null,
    subject: row.subject ?? null,
    subjectConfidence: row.subject_confidence ?? null,
    isSubjectRead: row.captures_at != null || row.subject != null,
    contentYears: row.content_years ?? null,
    drift: row.drift ?? null,
    effective: row.effective ?? null,
    trust: row.trust,
    language: row.language ?? null,
    ending: row.ending,
    spamRisk: row.judged === 'spam' ? 100 : row.judged === 'clean' ? 0 : row.spam_risk,
  };
}

/** How well a name alone suits a brief: what links and a past would say of it is not known. */
export function fitOfName(
  brief: Brief,
  name: { label: string; ending: string; words: readonly string[]; sayability: number },
) {
  const parts = fitParts(
    {
      words: name.words,
      length: name.label.length,
      hyphens: name.label.split('-').length - 1,
      digits: name.label.replace(/[^0-9]/g, '').length,
      sayability: name.sayability,
      ending: name.ending,
      subject: null,
      subjectConfidence: null,
      isSubjectRead: false,
      contentYears: null,
      drift: null,
      effective: null,
      trust: null,
      language: null,
      spamRisk: null,
    },
    wantedOf(brief),
  );
  return fitOf(parts, weightsOf(brief));
}

export const weightsOf = (brief: Brief) =>
  brief.weights ?? (brief.mix ? mixedWeights(brief.mix) : PURPOSE_WEIGHTS[brief.purpose]);

/** How well a domain suits a brief, part by part. */
export async function fitFor(engine: EnginePort, row: DomainRow, brief: Brief): Promise<DomainFit> {
  const [fit] = await fitsOf(engine, [row], brief);
  return fit;
}

/** The fits of several domains; the engine is asked once for all their names. */
export async function fitsOf(engine: EnginePort, rows: readonly DomainRow[], brief: Brief): Promise<DomainFit[]> {
  // the engine splits names; while it starts, the names are not known
  const readings = await engine
    .readNames(rows.map(({ name, ending }) => ({ name, ending })))
    .catch((): null[] => rows.map(() => null));
  const weights = weightsOf(brief);
  const wanted = wantedOf(brief);
  return rows.map((row, n) => {
    const parts = fitParts(factsOf(row, readings[n]), wanted);
    return { ...fitOf(parts, weights), parts: parts.map((part) => ({ ...part, weight: weights[part.part] })) };
  });
}

export type DomainFit = ReturnType<typeof fitOf> & { parts: (PartValue & { weight: number })[] };

/** The fits of several domains, and how often each is first when the weights are set as one might as well have. */
export async function fitsFor(
  engine: EnginePort,
  rows: readonly DomainRow[],
  brief: Brief,
): Promise<(DomainFit & { first: number })[]> {
  const fits = await fitsOf(engine, rows, brief);
  const parts: PartValue[][] = fits.map((fit) => fit.parts);
  const shares = firstShares(parts, weightsOf(brief));
  return fits.map((fit, n) => ({ ...fit, first: shares[n] }));
}
