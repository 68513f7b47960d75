/** Where an inquiry stands: it wants an answer; the buyer thinks about what was asked; agreed; declined by us; the buyer is gone. */
export const INQUIRY_STATES = ['open', 'countered', 'agreed', 'declined', 'gone'] as const;
export type InquiryState = (typeof INQUIRY_STATES)[number];

/** What is answered to a buyer. */
export const ANSWER_ACTS = ['accept', 'counter', 'decline'] as const;
export type AnswerAct = (typeof ANSWER_ACTS)[number];

/** Who asks for a domain, as the venue tells it. Amounts in minor units of the sale's currency. */
export interface Inquiry {
  inquiry: string;
  buyer: string;
  /** ms since 1970 UTC. */
  at: number;
  words: string;
  /** The last that was offered; null: a question without a figure. */
  offerMinor: number | null;
  /** The last that was asked of this buyer; null: nothing yet. */
  askedMinor: number | null;
  state: InquiryState;
  /** When the buyer waits no longer; null: not said. */
  until: number | null;
}

export interface AnswerAdvice {
  act: AnswerAct;
  /** Asked back, or accepted. */
  amountMinor: number | null;
  reason: string;
}

/** Offers of so much of what is asked are taken at once: haggling over the rest costs more buyers than it brings. */
const NEAR = 0.93;
/** Under such a part of the floor nobody means it. */
const NO_OFFER = 0.25;

/**
 * What to answer: accept what is near to what is asked, or meets what was asked of this buyer; decline what is nothing; else meet
 * half-way between the last two figures, never under the floor, and never over what was asked before.
 */
export function adviseAnswer(
  { offerMinor, askedMinor }: Pick<Inquiry, 'offerMinor' | 'askedMinor'>,
  askMinor: number,
  floorMinor: number,
): AnswerAdvice {
  const asked = Math.max(floorMinor, askedMinor ?? askMinor);
  if (offerMinor === null) return { act: 'counter', amountMinor: asked, reason: 'no figure was named: say yours' };
  if (offerMinor >= asked) return { act: 'accept', amountMinor: offerMinor, reason: 'it is what was asked' };
  if (offerMinor >= floorMinor && offerMinor >= asked * NEAR)
    return {
      act: 'accept',
      amountMinor: offerMinor,
      reason: `within ${Math.round(100 * (1 - NEAR))}% of what was asked`,
    };
  if (offerMinor < floorMinor * NO_OFFER)
    return { act: 'decline', amountMinor: null, reason: 'under a quarter of the floor' };
  const half = Math.ceil((asked + offerMinor) / 200) * 100;
  const amountMinor = Math.min(asked, Math.max(floorMinor, half));
  return {
    act: 'counter',
    amountMinor,
    reason:
      amountMinor === floorMinor ? 'the floor: half-way would be under it' : 'half-way between the last two figures',
  };
}
