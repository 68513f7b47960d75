/** What can be measured of a domain beyond its links, cheapest first. */
export const MEASURES = ['captures', 'forwarding', 'referrers', 'marks'] as const;
export type Measure = (typeof MEASURES)[number];

export interface MeasureSpec {
  title: string;
  /** What one asks, and of whom. */
  what: string;
  /** Days after which it is taken again. */
  freshDays: number;
}

export const MEASURE_SPECS: Record<Measure, MeasureSpec> = {
  captures: {
    title: 'The past',
    what: 'the list of captures, then the captures that tell most, from the archive',
    freshDays: 180,
  },
  forwarding: { title: 'Forwarding', what: 'its front page, as it answers now', freshDays: 30 },
  referrers: {
    title: 'Referring pages read',
    what: 'a linking page of each referring domain, its address and name servers',
    freshDays: 120,
  },
  marks: { title: 'Trademarks', what: 'the trademark register', freshDays: 180 },
};

/** What cheap facts of a domain say about measuring it. Times in ms since 1970 UTC; null: never, or not known. */
export interface MeasureCandidate {
  name: string;
  referringDomains: number | null;
  strength: number | null;
  spamRisk: number | null;
  captures: number | null;
  shortlisted: boolean;
  /** Asked for by hand. */
  isByHand: boolean;
  /** When each measure was last taken. */
  takenAt: Record<Measure, number | null>;
}

/** What a domain must have by its cheap facts before the costly measures are taken. */
export interface MeasureGate {
  leastReferring: number;
  mostSpamRisk: number;
}

export interface MeasurePlan {
  measures: Measure[];
  /** Requests it is likely to cost. */
  cost: number;
  /** Why it is its turn, or why nothing is to be done, for people. */
  why: string;
  /** The larger, the sooner. */
  worth: number;
}

const DAY = 86_400_000;
/** Captures that a site takes to be read, on average. */
const CAPTURES_READ = 10;
/** Referrers that are looked at at most. */
export const MOST_REFERRERS = 150;
/** A linking page, and a question for addresses and one for name servers. */
const REFERRER_COST = 3;

/**
 * Decides which measures of a domain are due, what they cost and how soon it is its turn. What a person asked for or shortlisted passes the
 * gate; of the rest, what its links make most promising for its cost comes first.
 */
export function planMeasures(candidate: MeasureCandidate, gate: MeasureGate, now: number): MeasurePlan {
  const { referringDomains, strength, spamRisk, shortlisted, isByHand, takenAt } = candidate;
  const due = MEASURES.filter((measure) => {
    const at = takenAt[measure];
    return at === null || now - at >= MEASURE_SPECS[measure].freshDays * DAY;
  });
  const cost = due.reduce((sum, measure) => sum + costOf(measure, candidate), 0);
  const none = (why: string): MeasurePlan => ({ measures: [], cost: 0, why, worth: 0 });
  if (due.length === 0) return none('everything is fresh');
  const reasons = [isByHand ? 'asked for by hand' : shortlisted ? 'on the shortlist' : null];
  if (!isByHand && !shortlisted) {
    if ((referringDomains ?? 0) < gate.leastReferring)
      return none(`fewer than ${gate.leastReferring} referring domains are known`);
    if (spamRisk !== null && spamRisk > gate.mostSpamRisk)
      return none(`its spam risk is over ${gate.mostSpamRisk} already`);
  }
  if (strength !== null) reasons.push(`strength ${Math.round(strength)}`);
  if (referringDomains !== null) reasons.push(`${referringDomains.toLocaleString('en')} referring domains`);
  const promise =
    (isByHand ? 1000 : shortlisted ? 500 : 0) + (strength ?? 0) + 10 * Math.log10(1 + (referringDomains ?? 0));
  return {
    measures: due,
    cost,
    why: reasons.filter((reason) => reason !== null).join(', '),
    worth: promise - 5 * Math.log10(1 + cost),
  };
}

function costOf(measure: Measure, { captures, referringDomains }: MeasureCandidate): number {
  if (measure === 'captures') return 1 + Math.min(CAPTURES_READ, captures ?? CAPTURES_READ);
  if (measure === 'referrers') return REFERRER_COST * Math.min(MOST_REFERRERS, referringDomains ?? 0);
  return 1;
}
