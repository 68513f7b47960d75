import type { ListingKind } from '../formats/list-fields';
import type { ListFigure } from '../formats/list-figures';
import type { Phase } from '../lifecycle/phase';
import type { Judgement, ShownNumber } from './facts';
import type { NameMatch } from './query';

/**
 * One domain as the grid, Today and the shortlist show it. Times in ms since 1970 UTC; null is unknown. Its figures are those of the table
 * of facts (facts.ts).
 */
export interface DomainView extends Record<ShownNumber, number | null> {
  id: number;
  /** A-label form, as addresses hold it. */
  name: string;
  /** As people read it. */
  display: string;
  ending: string;
  phase: Phase;
  phaseReason: string | null;
  phaseSource: string | null;
  phaseAt: number | null;
  /** Unknown, because those who could know could not be asked. */
  isUnasked: boolean;
  /** It is the person's own. */
  isOwn: boolean;
  registeredAt: number | null;
  expiresAt: number | null;
  dropAt: number | null;
  /** Expected drop by the record, with its reasons; null: nothing to reckon from. */
  window: { from: number; to: number; isConditional: boolean; reasons: string[] } | null;
  watched: 'by hand' | 'near miss' | null;
  firstSeenAt: number | null;
  capturesByYear: { year: number; captures: number }[] | null;
  pastAt: number | null;
  pastSource: string | null;
  /** Which source's count is shown. */
  countFrom: string | null;
  /** ISO 639-1. */
  language: string | null;
  /** Its title, and that of its area. */
  subject: string | null;
  area: string | null;
  subjectConfidence: number | null;
  forwardsTo: string | null;
  forwardsNow: boolean;
  /** Strength as it would show together with the domain it forwards to. */
  strengthWith: number | null;
  capturesAt: number | null;
  capturesRead: number | null;
  referrersAt: number | null;
  linksAt: number | null;
  listing: ListingKind | null;
  venue: string | null;
  priceMinor: number | null;
  currency: string | null;
  /** The price in the user's currency, in its minor units; null also where no rate is set. */
  homeMinor: number | null;
  homeCurrency: string;
  closingAt: number | null;
  listingUrl: string | null;
  listingAt: number | null;
  registrar: string | null;
  lastSeenAt: number | null;
  /** When it came to be known here. */
  addedAt: number;
  length: number;
  recordAt: number | null;
  judged: Judgement;
  judgedReason: string | null;
  judgedAt: number | null;
  snoozedUntil: number | null;
  shortlisted: boolean;
  /** Where words begin in the A-label before the ending. */
  starts: number[];
  /** Letters that conditions on the name found, as they stand in it. */
  matches: NameMatch[];
  /** How easily the name is said, 0 to 100, and the subject of its words; null: not read for this view, or none. */
  sayability: number | null;
  nameSubject: string | null;
  /** Which list stated each of its figures, and when that was read, with the name of a score; null: none states any. */
  stated: Partial<Record<ListFigure, { source: string; at: number; name: string | null }>> | null;
  /** Kept sieves in which it is new, by number. */
  freshIn: number[];
}
