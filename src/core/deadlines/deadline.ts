/** mine: watched by hand or shortlisted; near: what is watched by itself as well; all: the whole pool. */
export const DEADLINE_SCOPES = ['mine', 'near', 'all'] as const;

/** Kinds of moment that want action. */
export const DEADLINE_KINDS = ['closing', 'price-step', 'answer', 'drop', 'expiry', 'renewal', 're-check'] as const;
export type DeadlineKind = (typeof DEADLINE_KINDS)[number];

/** One moment, or a window, that wants action. Times in ms since 1970 UTC. */
export interface Deadline {
  /** The same as long as it is the same deadline of the same domain, however its time moves. */
  uid: string;
  kind: DeadlineKind;
  at: number;
  /** End of a window; null: it is a moment. */
  until: number | null;
  domainId: number;
  name: string;
  /** What it is in a few words: "closes at Saltmarch Exchange, 140 EUR". */
  words: string;
  /** Where it comes from and how it was reckoned. */
  origin: string;
}

/** What deadlines of one domain are made of. */
export interface DeadlineFacts {
  domainId: number;
  name: string;
  isTaken: boolean;
  expiresAt: number | null;
  window: { from: number; to: number; isConditional: boolean; reasons: string[] } | null;
  /** A drop date as a list says. */
  listedDropAt: number | null;
  askAt: number | null;
  recordSource: string | null;
  /** Of what the person owns: when it is to be paid for again, and for how much, in words; null: it is not owned. */
  renewal?: { at: number; words: string } | null;
  /** Who asked for what the person sells and waits for an answer, until when. */
  inquiries?: { key: string; until: number; buyer: string; words: string; venue: string }[];
  listings: {
    kind: string;
    /** What is offered and for how much, in words. */
    words: string;
    venue: string | null;
    sourceId: number;
    closingAt: number | null;
    nextStep: { at: number; words: string } | null;
  }[];
}

/** The deadlines of one domain that are not over, in order of time. */
export function deadlinesOf(facts: DeadlineFacts, now: number): Deadline[] {
  const { domainId, name, window } = facts;
  const deadlines: Deadline[] = [];
  const add = (kind: DeadlineKind, key: string, at: number, until: number | null, words: string, origin: string) => {
    if ((until ?? at) >= now)
      deadlines.push({ uid: `${kind}-${domainId}${key && `-${key}`}`, kind, at, until, domainId, name, words, origin });
  };
  for (const { kind, words, venue, sourceId, closingAt, nextStep } of facts.listings) {
    const at = venue ?? 'a venue';
    if (closingAt !== null)
      add('closing', `${sourceId}-${kind}`, closingAt, null, `closes at ${at}: ${words}`, `as ${at} says`);
    if (nextStep)
      add(
        'price-step',
        `${sourceId}-${kind}`,
        nextStep.at,
        null,
        `price falls at ${at}: ${nextStep.words}`,
        `as ${at} says`,
      );
  }
  for (const { key, until, buyer, words, venue } of facts.inquiries ?? [])
    add('answer', key, until, null, `${buyer} waits for an answer${words}`, `as ${venue} says`);
  if (window && !window.isConditional)
    add('drop', '', window.from, window.to, 'expected to drop', window.reasons.join('; '));
  else if (facts.listedDropAt !== null && !facts.isTaken)
    add('drop', '', facts.listedDropAt, null, 'drops on this day', 'as a list says');
  if (facts.renewal)
    add('renewal', '', facts.renewal.at, null, `renew it${facts.renewal.words}`, 'as your holdings say');
  // one's own name is renewed, whatever its record says
  else if (facts.isTaken && facts.expiresAt !== null)
    add('expiry', '', facts.expiresAt, null, 'expires', `registration data, ${facts.recordSource ?? 'its registry'}`);
  if (facts.askAt !== null) add('re-check', '', facts.askAt, null, 'is asked about again', 'it is watched');
  return deadlines.sort((a, b) => a.at - b.at || a.uid.localeCompare(b.uid));
}
