import { fixed, tenths as number } from '../formats/figures';
import { SPAM_FROM } from '../spam/threshold';

/** What is known of a domain, as far as it speaks for or against it. null: not known. */
export interface ReasonFacts {
  phase: string;
  phaseConfidence: number | null;
  /** Years since it was registered. */
  ageYears: number | null;
  referringDomains: number | null;
  effective: number | null;
  strength: number | null;
  trust: number | null;
  spamMass: number | null;
  spamRisk: number | null;
  /** Title of the rule with most points. */
  worstRule: string | null;
  judged: string | null;
  contentYears: number | null;
  drops: number | null;
  drift: number | null;
  /** Title. */
  subject: string | null;
  subjectConfidence: number | null;
  languageSwitches: number | null;
  forwardsTo: string | null;
  wordMarks: number | null;
  /** Factor by which sources differ. */
  countFactor: number | null;
  /** Sites of the largest network of one owner that links to it. */
  networkSites: number;
}

export interface Reason {
  words: string;
  /** How much it says, 0 to 1. */
  weight: number;
}

/** What speaks for a domain and what against it, what says most first. */
export interface Reasons {
  for: Reason[];
  against: Reason[];
  /** What is not known yet and would decide. */
  open: string[];
}

/** Said of a name that somebody has; of one's own it says nothing. */
export const TAKEN = 'it is registered';
const between = (value: number, from: number, to: number) => Math.max(0, Math.min(1, (value - from) / (to - from)));
/** Weaker reasons are none. */
const LEAST = 0.08;

/** Weighs what is known. Each reason says its figure; nothing that is not known speaks either way. */
export function reasonsOf(facts: ReasonFacts): Reasons {
  const pro: Reason[] = [];
  const con: Reason[] = [];
  const say = (list: Reason[], weight: number, words: string) => {
    if (weight >= LEAST) list.push({ words, weight });
  };
  links(
    facts,
    (weight, words) => say(pro, weight, words),
    (weight, words) => say(con, weight, words),
  );
  past(
    facts,
    (weight, words) => say(pro, weight, words),
    (weight, words) => say(con, weight, words),
  );
  if (facts.phase === 'free') say(pro, 0.35 * (facts.phaseConfidence ?? 0.5), 'it is free');
  if (facts.phase === 'active') say(con, 0.5, TAKEN);
  if (facts.phase === 'not-registrable') say(con, 0.9, 'it cannot be registered');
  if (facts.wordMarks !== null && facts.wordMarks > 0)
    say(con, 0.55, facts.wordMarks === 1 ? 'a trademark is like it' : `${facts.wordMarks} trademarks are like it`);
  const order = (a: Reason, b: Reason) => b.weight - a.weight || (a.words < b.words ? -1 : 1);
  return { for: pro.sort(order), against: con.sort(order), open: openOf(facts) };
}

type Say = (weight: number, words: string) => void;

function links(facts: ReasonFacts, pro: Say, con: Say): void {
  const { effective, referringDomains, trust, strength, spamRisk, spamMass, judged } = facts;
  if (effective !== null)
    pro(0.9 * between(Math.log10(1 + effective), 0.7, 2.2), `${number(effective)} effective referring domains`);
  if (effective !== null && referringDomains !== null && referringDomains >= 10)
    con(
      0.8 * between(1 - effective / referringDomains, 0.35, 0.95),
      `only ${number(effective)} of ${number(referringDomains)} referring domains count`,
    );
  if (facts.networkSites >= 5)
    con(between(facts.networkSites, 0, 30), `${facts.networkSites} referring domains are one owner's`);
  if (trust !== null && strength !== null)
    pro(0.8 * between(trust, 8, 30), `trust ${number(trust)} beside strength ${number(strength)}`);
  if (spamMass !== null)
    con(
      0.5 * between(spamMass, 0.8, 1),
      `${Math.round(100 * spamMass)}% of its strength does not come from trusted sites`,
    );
  if (judged === 'spam') con(1, 'you marked it spam');
  else if (judged === 'clean') pro(0.5, 'you marked it sound');
  else if (spamRisk !== null) {
    con(
      between(spamRisk, 0.5 * SPAM_FROM, 1.6 * SPAM_FROM),
      `spam risk ${spamRisk} of 100${facts.worstRule ? `: ${facts.worstRule.toLowerCase()}` : ''}`,
    );
    pro(0.4 * between(SPAM_FROM - spamRisk, 30, SPAM_FROM), `spam risk ${spamRisk} of 100`);
  }
  if (facts.forwardsTo !== null) con(0.7, `forwards to ${facts.forwardsTo}, whose strength it borrows`);
  if (facts.countFactor !== null)
    con(
      0.25 * between(Math.log10(facts.countFactor), 0.3, 1.5),
      `sources differ ${number(facts.countFactor)} times in their counts`,
    );
}

function past(facts: ReasonFacts, pro: Say, con: Say): void {
  const { contentYears, drops, drift, ageYears, subject, subjectConfidence, languageSwitches } = facts;
  if (contentYears !== null) {
    pro(0.7 * between(contentYears, 2, 12), `${number(contentYears)} years with content`);
    con(
      0.5 * between(2 - contentYears, 0.5, 2),
      contentYears === 0 ? 'no content was ever captured' : `only ${number(contentYears)} years with content`,
    );
  }
  if (ageYears !== null) pro(0.4 * between(ageYears, 5, 18), `registered for ${Math.floor(ageYears)} years`);
  if (drops !== null) {
    con(0.6 * between(drops, 0, 3), drops === 1 ? 'it changed hands once' : `it changed hands ${drops} times`);
    if (drops === 0 && (contentYears ?? 0) > 3) pro(0.3, 'it never changed hands, as far as it shows');
  }
  if (drift !== null)
    con(
      0.7 * between(drift, 0.4, 0.95),
      `its last site has little in common with the main one (topic change ${fixed(drift, 2)})`,
    );
  if (languageSwitches !== null && languageSwitches > 0) con(0.5, 'it changed its language');
  if (subject !== null && subjectConfidence !== null)
    pro(0.35 * between(subjectConfidence, 0.5, 1), `about ${subject}`);
}

function openOf(facts: ReasonFacts): string[] {
  const open: string[] = [];
  if (facts.phase === 'unknown') open.push('whether it is available');
  if (facts.referringDomains === null) open.push('who links to it');
  if (facts.contentYears === null) open.push('what was there');
  if (facts.wordMarks === null) open.push('trademarks like it');
  return open;
}
