import type { RegistrableDomain } from '../names/domain';

/** Switches that leave domains out of what a source finds. Their places are bits in the database: new ones come last. */
export const LEAVE_OUT = ['known-site', 'ending', 'brief', 'shared', 'known', 'judged'] as const;
export type LeaveOut = (typeof LEAVE_OUT)[number];

/** Left out where nothing else is said. */
export const LEFT_OUT_AT_FIRST: readonly LeaveOut[] = ['known-site', 'ending', 'brief', 'shared'];

/** A domain that so many others link to is everybody's neighbour, not a find. */
export const SHARED_BY = 1000;

/** What is known of a domain at the moment when a source names it first. */
export interface NamedBefore {
  /** It was in the pool. */
  isKnown: boolean;
  /** A person had judged it. */
  isJudged: boolean;
  referringDomains: number | null;
}

export interface LeaveOutLists {
  /** Registrable domains that are not wanted: one's own, those everyone links to. */
  knownSites: readonly string[];
  excludedEndings: readonly string[];
  /** Words that a brief does not want in a name. */
  unwantedWords: readonly string[];
}

/** The switches as bits. */
export function maskOf(switches: readonly LeaveOut[]): number {
  return switches.reduce((mask, one) => mask | (1 << LEAVE_OUT.indexOf(one)), 0);
}

/** Says which switches would leave a domain out, whether they are on or not. */
export class LeaveOutRules {
  private readonly sites: ReadonlySet<string>;
  private readonly endings: ReadonlySet<string>;
  private readonly words: readonly string[];

  /** @param wordsIn words of a label, for telling an unwanted word from letters that only look like it. */
  constructor(
    { knownSites, excludedEndings, unwantedWords }: LeaveOutLists,
    private readonly wordsIn: (label: string) => readonly string[],
  ) {
    this.sites = new Set(knownSites);
    this.endings = new Set(excludedEndings.map((ending) => ending.replace(/^\./, '').toLowerCase()));
    this.words = unwantedWords.map((word) => word.toLowerCase()).filter(Boolean);
  }

  /** @returns bits by LEAVE_OUT. */
  causesOf({ name, ending }: RegistrableDomain, { isKnown, isJudged, referringDomains }: NamedBefore): number {
    const causes: LeaveOut[] = [];
    if (this.sites.has(name)) causes.push('known-site');
    if (this.isEndingOut(ending)) causes.push('ending');
    if (this.words.length > 0 && this.hasUnwanted(name.slice(0, -ending.length - 1))) causes.push('brief');
    if ((referringDomains ?? 0) >= SHARED_BY) causes.push('shared');
    if (isKnown) causes.push('known');
    if (isJudged) causes.push('judged');
    return maskOf(causes);
  }

  /** `co.uk` is out when `uk` is. */
  private isEndingOut(ending: string): boolean {
    for (let rest = ending; rest !== ''; rest = rest.includes('.') ? rest.slice(rest.indexOf('.') + 1) : '')
      if (this.endings.has(rest)) return true;
    return false;
  }

  private hasUnwanted(label: string): boolean {
    const near = this.words.filter((word) => label.includes(word));
    if (near.length === 0) return false;
    const words = new Set(this.wordsIn(label));
    return near.some((word) => words.has(word));
  }
}
