import type { SellingKind } from './selling';

/** A followed or unfollowed link to the judged domain, as a source reported it. Times in ms since 1970 or null. */
export interface SpamLink {
  fromSite: string;
  anchor: string;
  nofollow: boolean;
  firstSeenAt: number | null;
  /** Pages that carry it; absent: one. */
  pages?: number;
  /** Of the linking page; absent or null: not read. */
  text?: string | null;
}

/** What the past says, from captures that were read. Shares are of captures, 0 to 1. */
export interface SpamPast {
  captures: number;
  parked: number;
  /** Led to another domain. */
  redirected: number;
  /** Content about gambling, pills, loans, replicas and the like, where the site did not begin with it. */
  risky: number;
  /** Content on something else that is laced with words that sell. */
  laced: number;
  /** What the site was before anything else was made of it. */
  own: OwnPast;
  languageSwitches: number;
  subjectSwitches: number;
  /** 0 to 1; null: no content. */
  drift: number | null;
  /** Examples of each, for people. */
  notes: { parked: string[]; redirected: string[]; risky: string[]; switches: string[]; laced: string[] };
}

/** What a site first was: its script, what it sold and what it was about. */
export interface OwnPast {
  /** null: no content was read. */
  script: string | null;
  sells: SellingKind[];
  /** `area.subject`. */
  subject: string | null;
  /** What it called itself: titles of its first captures. */
  titles: string[];
}

/** What weighing the referrers took away, in referrers. */
export interface SpamVotes {
  referring: number;
  network: number;
  blanket: number;
  notes: { network: string[]; blanket: string[] };
}

export interface SpamInput {
  /** A-label form. */
  name: string;
  links: SpamLink[];
  /** Probabilities from one walk and its trusted twin; null where not measured. */
  strengthRank: number | null;
  trustRank: number | null;
  /** Times the name changed hands through a drop, as the record and the archive show; null when unknown. */
  drops: number | null;
  /** null: captures were not read. */
  past: SpamPast | null;
  /** null: referrers were not weighed. */
  votes: SpamVotes | null;
}
