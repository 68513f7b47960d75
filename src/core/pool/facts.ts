import { LISTING_KINDS } from '../formats/list-fields';
import { LIST_FIGURES, type ListFigure } from '../formats/list-figures';
import { PHASES } from '../lifecycle/phases';
import type { FurtherOffer } from './offer';

/**
 * The facts the pool can be sifted and sorted by.
 *
 * number: a 32-bit float; NaN is unknown. time: whole seconds since 1970 UTC in 32 unsigned bits, good to 2106; 0 is
 * unknown. choice: one of a list of words. text: the domain name itself. member: sets that the domain belongs to.
 */
export type FactKind = 'number' | 'time' | 'choice' | 'text' | 'member';

export interface FactSpec {
  kind: FactKind;
  /** As a column head and at the start of a condition's sentence. */
  label: string;
  /** Where it stands in a list of facts. */
  part: FactPart;
  unit?: string;
  /** Times: whether larger figures lie further back or further ahead, and how long a unit is. */
  towards?: 'past' | 'future';
  unitSeconds?: number;
  /** Whether a value may be unknown. */
  optional: boolean;
  /** Known words of a choice; absent: an open list. */
  choices?: readonly string[];
  /** How its histogram is cut: evenly, or each bar a like factor wide. */
  scale?: 'even' | 'factor';
  /** Ends of the scale, where they are given by what it measures. */
  extent?: readonly [number, number];
  /** Only whole numbers. */
  whole?: boolean;
  /** Where its value is stored: a column of `domains`, with `i.` of `inspections`; absent: it is made, or lists state it. */
  column?: string;
  /** How its figures are written; absent: whole, with commas. */
  written?: Written;
  /** Whose source and age stand beside the figure. */
  told?: Told;
  /** What it says, in half a sentence. */
  about: string;
  /** Its column in an export; absent: its name with underscores. */
  exportKey?: string;
  /** The group it stands in where domains are compared, and which way is better; absent: it is not compared. */
  compared?: readonly [group: string, better: 'more' | 'less'];
  /** Of its column in the pool, pixels. */
  width?: number;
}

/** `factor`: times as much; `score`: points of 100. */
export type Written = 'tenths' | 'hundredths' | 'factor' | 'score';
/** What was read last where the figure comes from: links, captures, the archive's index, its offer, rankings, lists. */
export type Told = 'links' | 'past' | 'captures' | 'offer' | 'rankings' | 'lists';

export const FACT_PARTS = ['name', 'record', 'past', 'links', 'lists', 'offers', 'sources', 'yours', 'asked'] as const;
export type FactPart = (typeof FACT_PARTS)[number];

/** What the person has decided about a domain. */
export const JUDGEMENTS = ['not-yet', 'keep', 'pass', 'spam', 'clean', 'snoozed', 'excluded'] as const;
export type Judgement = (typeof JUDGEMENTS)[number];

/** Times are asked for in the unit people think in. */
const YEAR = 365.2425 * 86_400;
const DAY = 86_400;
const yearsAgo = { kind: 'time', towards: 'past', unitSeconds: YEAR } as const;
const daysAgo = { kind: 'time', towards: 'past', unitSeconds: DAY, unit: 'days ago' } as const;
const number = { kind: 'number', optional: true, whole: true } as const;
const SCORE = [0, 100] as const;

export const FACTS = {
  name: { kind: 'text', label: 'Name', part: 'name', optional: false, about: 'the domain name, sifted by its letters, words or pattern' },
  ending: { kind: 'choice', label: 'TLD', part: 'name', optional: false, column: 'ending', about: 'what stands behind the name: org, co.uk' },
  length: { kind: 'number', label: 'Length', part: 'name', unit: 'characters', optional: false, whole: true, extent: [0, 63], column: 'length', about: 'letters, digits and hyphens before the TLD' },
  words: { ...number, label: 'Words in the name', part: 'name', about: 'dictionary words that the name is made of; none where it is not understood' },
  nameSubject: { kind: 'choice', label: 'Subject by name', part: 'name', optional: true, about: 'what its words are about, of 168 subjects' },
  hyphens: { kind: 'number', label: 'Hyphens', part: 'name', optional: false, whole: true, column: 'hyphens', about: 'how many hyphens the name has' },
  digits: { kind: 'number', label: 'Digits', part: 'name', optional: false, whole: true, column: 'digits', about: 'how many digits the name has' },
  phase: { kind: 'choice', label: 'Status', part: 'record', optional: false, choices: PHASES, column: 'phase', about: 'registered, in a grace period, in redemption, pending delete, available or reserved' },
  age: { ...yearsAgo, label: 'Age', part: 'record', unit: 'years', optional: true, column: 'registered_at', about: 'since its registration in the current life' },
  expires: { kind: 'time', label: 'Expires', part: 'record', unit: 'days from now', optional: true, towards: 'future', unitSeconds: DAY, column: 'expires_at', about: 'when the registration ends, as the registry shows it' },
  drop: { kind: 'time', label: 'Expected drop', part: 'record', unit: 'days from now', optional: true, towards: 'future', unitSeconds: DAY, column: 'drop_at', about: 'when it should be free, by the rules of its registry' },
  registrar: { kind: 'choice', label: 'Registrar', part: 'record', optional: true, column: 'registrar', about: 'who registers it now' },
  firstSeen: { ...yearsAgo, label: 'First seen', part: 'past', unit: 'years ago', optional: true, column: 'first_seen_at', about: 'first capture by the archive' },
  lastSeen: { ...yearsAgo, label: 'Last seen', part: 'past', unit: 'years ago', optional: true, column: 'last_seen_at', about: 'last capture by the archive' },
  captures: { ...number, label: 'Captures', part: 'past', scale: 'factor', column: 'captures', told: 'past', about: 'how often the archive kept a page of it' },
  contentYears: { kind: 'number', label: 'Years with content', part: 'past', unit: 'years', optional: true, column: 'i.content_years', written: 'tenths', told: 'captures', exportKey: 'years_with_content', compared: ['Past', 'more'], width: 66, about: 'years in which the archive has a page with content of its own' },
  drops: { ...number, label: 'Drops before', part: 'past', column: 'i.drops', told: 'captures', compared: ['Past', 'less'], width: 60, about: 'gaps in its history after which another site began' },
  drift: { kind: 'number', label: 'Topic change', part: 'past', optional: true, extent: [0, 1], column: 'i.drift', written: 'hundredths', told: 'captures', exportKey: 'topic_change', compared: ['Past', 'less'], width: 50, about: '0: the last site has the words of the main one, 1: none of them' },
  language: { kind: 'choice', label: 'Language', part: 'past', optional: true, column: 'i.language', about: 'language of its main site' },
  subject: { kind: 'choice', label: 'Subject by content', part: 'past', optional: true, column: 'i.subject', about: 'what its pages and links were about, of 168 subjects' },
  area: { kind: 'choice', label: 'Area of the subject', part: 'past', optional: true, about: 'the field that its subject belongs to' },
  subjectSure: { kind: 'number', label: 'Confidence of the subject', part: 'past', optional: true, extent: [0, 1], column: 'i.subject_confidence', about: 'how sure the subject is: at 0.9, nine of ten are right' },
  referringDomains: { ...number, label: 'Referring domains', part: 'links', scale: 'factor', column: 'referring_domains', told: 'links', compared: ['Links', 'more'], about: 'domains with at least one page that links to it' },
  backlinks: { ...number, label: 'Backlinks', part: 'links', scale: 'factor', column: 'backlinks', told: 'links', about: 'pages that link to it' },
  effective: { kind: 'number', label: 'Effective referring domains', part: 'links', optional: true, scale: 'factor', column: 'i.effective', written: 'tenths', told: 'links', exportKey: 'effective_referring_domains', compared: ['Links', 'more'], width: 72, about: 'referring domains after nofollow, gone, one owner’s and those that link to everything' },
  countFactor: { kind: 'number', label: 'Sources differ by a factor', part: 'links', optional: true, scale: 'factor', column: 'i.count_factor', written: 'factor', width: 62, about: 'which source’s count is shown stands in the dossier' },
  strength: { kind: 'number', label: 'Strength', part: 'links', optional: true, extent: SCORE, column: 'strength', written: 'score', told: 'links', compared: ['Links', 'more'], about: 'how much weight links carry to it, from all sites known here' },
  trust: { kind: 'number', label: 'Trust', part: 'links', optional: true, extent: SCORE, column: 'trust', written: 'score', told: 'links', compared: ['Links', 'more'], about: 'how much weight links carry to it from the trusted sites of all briefs' },
  trustShare: { kind: 'number', label: 'Trust share', part: 'links', optional: true, extent: [0, 1], about: 'trust as a part of strength' },
  spamMass: { kind: 'number', label: 'Spam mass', part: 'links', optional: true, extent: [0, 1], column: 'i.spam_mass', written: 'hundredths', told: 'links', compared: ['Links', 'less'], width: 58, about: 'part of its strength that does not come from trusted sites' },
  spamRisk: { ...number, label: 'Spam risk', part: 'links', extent: SCORE, column: 'spam_risk', told: 'links', compared: ['Verdict', 'less'], about: 'how likely it was abused; of those at 80, four in five were' },
  forwardsTo: { kind: 'choice', label: 'Forwards to', part: 'links', optional: true, column: 'i.forward_to', about: 'where its address leads now' },
  wordMarks: { ...number, label: 'Trademarks like it', part: 'links', column: 'i.marks_found', exportKey: 'trademarks', compared: ['Name', 'less'], width: 60, about: 'trademarks that are like the name; the dossier has them' },
  readers: { ...number, label: 'Views of mentions', part: 'links', scale: 'factor', column: 'readers', told: 'links', width: 112, about: 'monthly views of pages that mention it, as these pages claim' },
  visits: { ...number, label: 'Visits a month', part: 'links', scale: 'factor', column: 'visits', told: 'rankings', compared: ['Links', 'more'], width: 70, about: 'search volume of what it is found by, times the share that its position gets: an estimate' },
  trafficValue: { ...number, label: 'Traffic value', part: 'links', scale: 'factor', column: 'traffic_value', told: 'rankings', compared: ['Links', 'more'], width: 76, about: 'what its visits of a month would cost as clicks, in your currency: an estimate' },
  listReferringDomains: { ...number, label: 'Referring domains (lists)', part: 'lists', scale: 'factor', told: 'lists', width: 116, about: 'referring domains, as the list says' },
  listBacklinks: { ...number, label: 'Backlinks (lists)', part: 'lists', scale: 'factor', told: 'lists', width: 78, about: 'backlinks, as the list says' },
  listTraffic: { ...number, label: 'Traffic (lists)', part: 'lists', scale: 'factor', told: 'lists', compared: ['Lists', 'more'], width: 70, about: 'visits a month' },
  listKeywords: { ...number, label: 'Keywords (lists)', part: 'lists', scale: 'factor', told: 'lists', compared: ['Lists', 'more'], width: 70, about: 'searches that it is found by' },
  listPosition: { kind: 'number', label: 'Best position (lists)', part: 'lists', optional: true, scale: 'factor', written: 'tenths', told: 'lists', compared: ['Lists', 'less'], width: 92, about: 'its best place among the results of a search' },
  listCpc: { kind: 'number', label: 'CPC (lists)', part: 'lists', optional: true, scale: 'factor', written: 'hundredths', told: 'lists', compared: ['Lists', 'more'], width: 60, about: 'what advertisers pay for a click, in your currency' },
  listScore: { kind: 'number', label: 'Score (lists)', part: 'lists', optional: true, written: 'tenths', told: 'lists', compared: ['Lists', 'more'], width: 66, about: 'a score of somebody else, as it stands' },
  listScore2: { kind: 'number', label: 'Second score (lists)', part: 'lists', optional: true, written: 'tenths', told: 'lists', compared: ['Lists', 'more'], width: 96, about: 'a score under another name, as it stands' },
  listScore3: { kind: 'number', label: 'Third score (lists)', part: 'lists', optional: true, written: 'tenths', told: 'lists', compared: ['Lists', 'more'], width: 92, about: 'a score under a third name, as it stands' },
  listScore4: { kind: 'number', label: 'Fourth score (lists)', part: 'lists', optional: true, written: 'tenths', told: 'lists', compared: ['Lists', 'more'], width: 96, about: 'a score under a fourth name, as it stands' },
  listScore5: { kind: 'number', label: 'Fifth score (lists)', part: 'lists', optional: true, written: 'tenths', told: 'lists', compared: ['Lists', 'more'], width: 96, about: 'a score under a fifth name, as it stands' },
  listScore6: { kind: 'number', label: 'Sixth score (lists)', part: 'lists', optional: true, written: 'tenths', told: 'lists', compared: ['Lists', 'more'], width: 96, about: 'a score under a sixth name, as it stands' },
  listScore7: { kind: 'number', label: 'Seventh score (lists)', part: 'lists', optional: true, written: 'tenths', told: 'lists', compared: ['Lists', 'more'], width: 96, about: 'a score under a seventh name, as it stands' },
  listScore8: { kind: 'number', label: 'Eighth score (lists)', part: 'lists', optional: true, written: 'tenths', told: 'lists', compared: ['Lists', 'more'], width: 96, about: 'a score under a eighth name, as it stands' },
  listing: { kind: 'choice', label: 'Listing', part: 'offers', optional: true, choices: LISTING_KINDS, column: 'listing', about: 'how it is offered: auction, buy now, falling price, backorder' },
  venue: { kind: 'choice', label: 'Venue', part: 'offers', optional: true, column: 'venue', about: 'where it is offered' },
  price: { kind: 'number', label: 'Price', part: 'offers', optional: true, scale: 'factor', column: 'price_minor', about: 'what it costs now, in your currency where a rate is set' },
  bids: { ...number, label: 'Bids', part: 'offers', column: 'bids', told: 'offer', width: 50, about: 'bids so far on its best offer' },
  offers: { ...number, label: 'Open offers', part: 'offers', column: 'offers', told: 'offer', about: 'offers that are open now' },
  closing: { kind: 'time', label: 'Closes', part: 'offers', unit: 'hours from now', optional: true, towards: 'future', unitSeconds: 3600, column: 'closing_at', about: 'when its best offer ends' },
  source: { kind: 'member', label: 'Found in', part: 'sources', optional: false, about: 'crawls, lists and feeds that named it' },
  added: { ...daysAgo, label: 'First found', part: 'sources', optional: false, column: 'added_at', about: 'when a source named it for the first time' },
  named: { ...daysAgo, label: 'Last found', part: 'sources', optional: true, about: 'when a source named it last' },
  judged: { kind: 'choice', label: 'Judged by me', part: 'yours', optional: false, choices: JUDGEMENTS, column: 'judged', about: 'what you decided: keep, pass, spam, sound, snoozed, excluded' },
  tag: { kind: 'member', label: 'Tag', part: 'yours', optional: false, about: 'a word that you gave it' },
  shortlist: { kind: 'member', label: 'Shortlist', part: 'yours', optional: false, about: 'on the shortlist of a brief' },
  fresh: { kind: 'member', label: 'New in the kept sieve', part: 'yours', optional: false, about: 'new in a kept sieve since it ran last' },
  phaseAsked: { ...daysAgo, label: 'Status asked', part: 'asked', optional: true, column: 'phase_at', about: 'when its status was asked last' },
  recordRead: { ...daysAgo, label: 'Registration data read', part: 'asked', optional: true, column: 'record_at', about: 'when its registration data was read last' },
  pastRead: { ...daysAgo, label: 'History read', part: 'asked', optional: true, column: 'past_at', about: 'when the archive was asked last' },
  pastInspected: { ...daysAgo, label: 'Captures read', part: 'asked', optional: true, column: 'i.captures_at', about: 'when captures of it were read last' },
  referrersSeen: { ...daysAgo, label: 'Referring pages read', part: 'asked', optional: true, column: 'i.referrers_at', about: 'when pages that link to it were read last' },
  linksMeasured: { ...daysAgo, label: 'Links measured', part: 'asked', optional: true, column: 'links_at', about: 'when its links were measured last' },
  offerRead: { ...daysAgo, label: 'Offer read', part: 'asked', optional: true, column: 'listing_at', about: 'when its offer was read last' },
} as const satisfies Record<string, FactSpec>; // biome-ignore format: a fact a line

export type FactName = keyof typeof FACTS;
export const FACT_NAMES = Object.keys(FACTS) as FactName[];

type OfKind<K extends FactKind> = { [F in FactName]: (typeof FACTS)[F]['kind'] extends K ? F : never }[FactName];
export type NumberFact = OfKind<'number'>;
export type TimeFact = OfKind<'time'>;
export type ChoiceFact = OfKind<'choice'>;
export type MemberFact = OfKind<'member'>;

const ofKind = <F extends FactName>(kind: FactKind) => FACT_NAMES.filter((fact) => FACTS[fact].kind === kind) as F[];
/** Facts held as 32-bit floats, NaN unknown. */
export const NUMBER_FACTS = ofKind<NumberFact>('number');
/** Facts held as unsigned seconds, 0 unknown. */
export const TIME_FACTS = ofKind<TimeFact>('time');
/** Facts held as codes of a dictionary, 0 unknown. */
export const CHOICE_FACTS = ofKind<ChoiceFact>('choice');
/** Facts held as one bit a row and set. */
export const MEMBER_FACTS = ofKind<MemberFact>('member');

export function isNumberFact(fact: FactName): fact is NumberFact {
  return FACTS[fact]?.kind === 'number';
}
export function isTimeFact(fact: FactName): fact is TimeFact {
  return FACTS[fact]?.kind === 'time';
}
export function isChoiceFact(fact: FactName): fact is ChoiceFact {
  return FACTS[fact]?.kind === 'choice';
}
export function isMemberFact(fact: FactName): fact is MemberFact {
  return FACTS[fact]?.kind === 'member';
}

/** Looks a fact up as its general type. */
export function factSpec(fact: FactName): FactSpec {
  return FACTS[fact];
}

type Stored<F extends FactName> = (typeof FACTS)[F] extends { column: infer C extends string } ? C : never;
/** Numbers that are shown under another name or in another unit. */
const SHOWN_OTHERWISE = ['length', 'hyphens', 'digits', 'price', 'subjectSure'] as const;
/** Numbers that have a column, and are shown as they stand in it. */
export type StoredNumber = Exclude<
  { [F in NumberFact]: Stored<F> extends never ? never : F }[NumberFact],
  (typeof SHOWN_OTHERWISE)[number]
>;
export const STORED_NUMBERS = NUMBER_FACTS.filter(
  (fact) => factSpec(fact).column !== undefined && !(SHOWN_OTHERWISE as readonly string[]).includes(fact),
) as StoredNumber[];
/** Numbers that are shown as they are. */
export type ShownNumber = StoredNumber | ListFigure;
export const SHOWN_NUMBERS: ShownNumber[] = [...STORED_NUMBERS, ...LIST_FIGURES];

/** The name of the column that a fact is stored in, without its table. */
export type ColumnOf<F extends FactName> = WithoutTable<Stored<F>>;
type WithoutTable<Column> = Column extends `i.${infer C}` ? C : Column;
export const columnOf = <F extends FactName>(fact: F): ColumnOf<F> =>
  (factSpec(fact).column ?? '').replace(/^i\./, '') as ColumnOf<F>;

/** Facts that rows can be put in order by. */
export const SORT_FACTS: FactName[] = FACT_NAMES.filter((fact) => !isMemberFact(fact) && fact !== 'nameSubject');

/**
 * Turns a bound in a time fact's unit into seconds since 1970. "Age at least 5" means registered at the latest 5 years
 * ago, so bounds of facts that lie in the past change sides: see `countsBackwards`.
 */
export function timeBound(fact: TimeFact, value: number, nowSeconds: number): number {
  const { towards, unitSeconds } = FACTS[fact];
  const at = towards === 'future' ? nowSeconds + value * unitSeconds : nowSeconds - value * unitSeconds;
  return Math.max(1, Math.min(0xffffffff, Math.round(at)));
}

/** Whether a larger asked-for value means an earlier moment. */
export function countsBackwards(fact: FactName): boolean {
  return factSpec(fact).towards === 'past';
}

/** A stored time in the fact's unit; null when unknown. */
export function timeValue(fact: TimeFact, seconds: number, nowSeconds: number): number | null {
  if (seconds === 0) return null;
  const { towards, unitSeconds } = FACTS[fact];
  return (towards === 'future' ? seconds - nowSeconds : nowSeconds - seconds) / unitSeconds;
}

/**
 * What the index takes in for one domain; null is unknown. Times in seconds since 1970 UTC. The index itself makes `words` (from
 * the name), `nameSubject` and `trustShare`.
 */
export type PoolRow = { id: number; name: string; ending: string; phase: string; judged: Judgement } & {
  [F in Exclude<NumberFact, 'words' | 'trustShare'>]: number | null;
} & { [F in TimeFact]: number | null } & {
  [F in Exclude<ChoiceFact, 'ending' | 'phase' | 'judged' | 'nameSubject'>]: string | null;
} & {
  /** Open offers beside the one that the row has. */
  further?: readonly FurtherOffer[];
};

/** Read from text, as engines keep such an object in their quick form, and its copies with it: millions of rows begin as one. */
const BARE: PoolRow = JSON.parse(
  JSON.stringify({
    id: 0,
    name: '',
    ...Object.fromEntries(
      [...NUMBER_FACTS, ...TIME_FACTS, ...CHOICE_FACTS]
        .filter((fact) => fact !== 'words' && fact !== 'trustShare' && fact !== 'nameSubject')
        .map((fact) => [fact, null]),
    ),
    ending: '',
    phase: 'unknown',
    judged: 'not-yet',
    length: 0,
    hyphens: 0,
    digits: 0,
  }),
);

/** A row of which nothing is known but its name. */
export function bareRow(id: number, name: string, ending: string): PoolRow {
  return { ...BARE, id, name, ending };
}
