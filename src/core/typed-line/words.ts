import type { ListingKind } from '../formats/list-fields';
import type { Phase } from '../lifecycle/phase';
import { FACT_NAMES, type FactName, factSpec, type NumberFact, type TimeFact } from '../pool/facts';

/** What a bare figure of a fact means: so many at least, at most, or exactly. */
export type Bare = 'min' | 'max' | 'exact';

export interface Measure {
  /** As it is written, in lower case, words parted by one blank. */
  words: string;
  fact: NumberFact | TimeFact;
  /** What a figure in these words is multiplied with: months of a fact in years. */
  scale?: number;
}

const measures = (fact: NumberFact | TimeFact, words: string, scale?: number): Measure[] =>
  words.split(', ').map((one) => ({ words: one, fact, scale }));

/** How people call what is measured. Labels of facts are added to them. */
export const MEASURES: readonly Measure[] = [
  ...measures('referringDomains', 'referring domains, referring domain, ref domains, refdomains, rd, rds, linking domains, domains linking, domains that link'),
  ...measures('backlinks', 'backlinks, backlink, links, link'),
  ...measures('effective', 'effective referring domains, effective'),
  ...measures('trust', 'trust'),
  ...measures('strength', 'strength'),
  ...measures('trustShare', 'trust share'),
  ...measures('spamRisk', 'spam risk, spam, spam score'),
  ...measures('spamMass', 'spam mass'),
  ...measures('age', 'years old, years of age, years, year, yrs, yr, y, age, old'),
  ...measures('age', 'months old, months, month', 1 / 12),
  ...measures('contentYears', 'years with content, years of content'),
  ...measures('length', 'characters, character, chars, char, letters, letter, length, long'),
  ...measures('words', 'words, word, words in the name'),
  ...measures('hyphens', 'hyphens, hyphen, dashes, dash'),
  ...measures('digits', 'digits, digit, numbers, number'),
  ...measures('captures', 'captures, capture, snapshots, snapshot'),
  ...measures('drops', 'drops before, drops, earlier drops'),
  ...measures('drift', 'topic change'),
  ...measures('wordMarks', 'trademarks, trademark'),
  ...measures('readers', 'views of mentions, views'),
  ...measures('visits', 'visits a month, visits, visitors, traffic'),
  ...measures('listKeywords', 'keywords, keyword'),
  ...measures('listPosition', 'best position, position'),
  ...measures('listCpc', 'cpc, cost per click'),
  ...measures('price', 'price, cost, costs, priced'),
  ...measures('bids', 'bids, bid'),
  ...measures('offers', 'open offers, offers'),
  ...FACT_NAMES.flatMap((fact): Measure[] => {
    const { kind, label } = factSpec(fact);
    return kind === 'number' || kind === 'time' ? [{ words: label.toLowerCase(), fact: fact as NumberFact }] : [];
  }),
]; // biome-ignore format: a fact a line

const EXACT: ReadonlySet<FactName> = new Set(['length', 'words', 'hyphens', 'digits', 'drops', 'bids', 'wordMarks']);
const AT_MOST: ReadonlySet<FactName> = new Set([
  'price',
  'spamRisk',
  'spamMass',
  'drift',
  'closing',
  'drop',
  'expires',
  'listPosition',
  'listCpc',
]);

export const bareOf = (fact: FactName): Bare => (EXACT.has(fact) ? 'exact' : AT_MOST.has(fact) ? 'max' : 'min');

/** Statuses as people call them. */
export const STATUSES: readonly [words: string, phases: readonly Phase[]][] = [
  ['available', ['free']],
  ['free', ['free']],
  ['unregistered', ['free']],
  ['pending delete', ['pending-delete']],
  ['pending deletion', ['pending-delete']],
  ['pending-delete', ['pending-delete']],
  ['about to drop', ['pending-delete']],
  ['dropping', ['pending-delete']],
  ['in redemption', ['redemption']],
  ['redemption', ['redemption']],
  ['grace period', ['auto-renew']],
  ['auto-renew', ['auto-renew']],
  ['lapsing', ['auto-renew', 'redemption', 'pending-delete']],
  ['expiring', ['auto-renew', 'redemption', 'pending-delete']],
  ['lapsed', ['free', 'pending-delete', 'redemption']],
  ['expired', ['free', 'pending-delete', 'redemption']],
  ['registered', ['active']],
  ['taken', ['active']],
  ['active', ['active']],
  ['reserved', ['not-registrable']],
];

export const LISTINGS: readonly [words: string, kinds: readonly ListingKind[]][] = [
  ['expired auctions', ['expired-auction']],
  ['expired auction', ['expired-auction']],
  ['auctions', ['auction', 'expired-auction']],
  ['auction', ['auction', 'expired-auction']],
  ['at auction', ['auction', 'expired-auction']],
  ['buy now', ['buy-now']],
  ['fixed price', ['buy-now']],
  ['falling price', ['falling']],
  ['falling', ['falling']],
  ['backorders', ['backorder']],
  ['backorder', ['backorder']],
  ['make an offer', ['offer']],
  ['for sale', ['auction', 'expired-auction', 'buy-now', 'offer', 'falling']],
];

/** What comes first, in one word. */
export const SUPERLATIVES: Readonly<Record<string, [fact: FactName, descending: boolean]>> = {
  cheapest: ['price', false],
  dearest: ['price', true],
  oldest: ['age', true],
  youngest: ['age', false],
  shortest: ['length', false],
  longest: ['length', true],
  strongest: ['strength', true],
  soonest: ['closing', false],
  'most trusted': ['trust', true],
};

/** Words between what is said. */
export const FILLERS: ReadonlySet<string> = new Set(
  `a an the with and of for that which is are have has having in at on to only any all domains domain names name sites site me show find
  want wanted i we please ones one some get under tld tlds extension extensions status language listing listed venue by first price
  or be it its than`.split(/\s+/),
);

/** TLDs that are words of the language, too: read as such only with their dot. */
export const WORDY_TLDS: ReadonlySet<string> = new Set(
  `in at it is to no so us be as am do by my me or if of an on new one all only best top free buy shop site website online store club news
  page pub bid bids sale sales price link links name names cheap how now today zero open here word words year age land read long
  life live world work works show find house company blog art auction watch win men you how plus cool fun run red pink black blue
  green gold money bank cash credit loan insurance trust spam old`.split(/\s+/),
);
