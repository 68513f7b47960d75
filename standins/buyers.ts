import { Random } from './random';

const HOUR = 3_600_000;
const DAY = 24 * HOUR;
/** Who is not answered for so long looks elsewhere. */
export const WAITS_MS = 5 * DAY;
const MOST_ROUNDS = 4;
const COME_WITHIN_HOURS = 18 * 24;

/** How a buyer deals: pays what is asked; comes up by halves; names one figure; offers next to nothing; asks before offering. */
export const BUYER_TEMPERS = ['eager', 'patient', 'firm', 'dreamer', 'curious'] as const;
export type BuyerTemper = (typeof BUYER_TEMPERS)[number];

export interface Buyer {
  id: string;
  name: string;
  temper: BuyerTemper;
  /** What it is worth to this one, in minor units. */
  limitMinor: number;
  comesAt: number;
}

export interface SellerAnswer {
  act: 'accept' | 'counter' | 'decline';
  amountMinor: number | null;
  at: number;
}

export interface Talk {
  state: 'open' | 'countered' | 'agreed' | 'declined' | 'gone';
  words: string;
  offerMinor: number | null;
  askedMinor: number | null;
  /** When it became so. */
  since: number;
  /** Until when this one waits; null: for nothing. */
  until: number | null;
}

const NAMES = ['Ansgar Tollmey', 'Bettina Corrowby', 'Dorrick & Vane', 'Fenella Oxbarrow', 'Hale and Pinch', 'Ivo Marlstead', 'Lathergill Goods', 'Thornabeck Prints']; // biome-ignore format: a list

/** Buyers who will find what is offered: one to four, within three weeks; what it is worth to them scatters around a worth. */
export function buyersFor(seed: string, worthMinor: number, at: number): Buyer[] {
  const random = new Random(`buyers ${seed}`);
  return Array.from({ length: random.whole(1, 4) }, (_, n) => ({
    id: `b${n + 1}`,
    name: random.pick(NAMES),
    temper: random.pick(BUYER_TEMPERS),
    limitMinor: Math.round((worthMinor * (0.5 + 1.2 * random.next())) / 100) * 100,
    comesAt: at + random.whole(2, COME_WITHIN_HOURS) * HOUR,
  }));
}

/**
 * How a talk with a buyer stands at a moment, from what the seller answered and when. The same answers give the same talk whenever one looks.
 *
 * @returns null: this one has not come yet.
 */
export function talkAt(buyer: Buyer, askMinor: number, answers: readonly SellerAnswer[], now: number): Talk | null {
  if (now < buyer.comesAt) return null;
  let talk = opening(buyer, askMinor);
  for (const [round, answer] of answers.entries()) {
    if (answer.at > now || talk.state !== 'open' || (talk.until !== null && answer.at > talk.until)) break;
    const next = after(buyer, talk, answer, round);
    // the buyer thinks: until then nothing is said
    if (next.since > now)
      return { ...talk, state: 'countered', words: 'thinks about it', askedMinor: answer.amountMinor, until: null };
    talk = next;
  }
  if (talk.state === 'open' && talk.until !== null && now > talk.until)
    return { ...talk, state: 'gone', words: 'has waited long enough', since: talk.until, until: null };
  return talk;
}

function opening({ temper, limitMinor, comesAt }: Buyer, askMinor: number): Talk {
  const open = (words: string, offerMinor: number | null): Talk => ({
    state: 'open',
    words,
    offerMinor: offerMinor === null ? null : Math.max(100, Math.round(offerMinor / 100) * 100),
    askedMinor: null,
    since: comesAt,
    until: comesAt + WAITS_MS,
  });
  switch (temper) {
    case 'eager':
      if (askMinor <= limitMinor)
        return {
          state: 'agreed',
          words: 'takes it',
          offerMinor: askMinor,
          askedMinor: null,
          since: comesAt,
          until: null,
        };
      return open('would take it for less', limitMinor * 0.9);
    case 'patient':
      return open('is interested', limitMinor * 0.5);
    case 'firm':
      return open('names one figure', limitMinor * 0.8);
    case 'dreamer':
      return open('hopes for a bargain', askMinor * 0.1);
    case 'curious':
      return open('asks what it would cost', null);
  }
}

function after(buyer: Buyer, talk: Talk, { act, amountMinor, at }: SellerAnswer, round: number): Talk {
  if (act === 'decline') return { ...talk, state: 'declined', words: 'was declined', since: at, until: null };
  if (act === 'accept' && talk.offerMinor !== null)
    return { ...talk, state: 'agreed', words: 'has it', since: at, until: null };
  const asked = amountMinor ?? Infinity;
  const thinks = at + new Random(`${buyer.id} ${buyer.name} ${at} ${round}`).whole(1, 9) * HOUR;
  const told = { ...talk, askedMinor: amountMinor, since: thinks };
  const agreed: Talk = { ...told, state: 'agreed', words: 'agrees', offerMinor: asked, until: null };
  const gone: Talk = { ...told, state: 'gone', words: 'finds it too dear', until: null };
  const { temper, limitMinor } = buyer;
  const offer = talk.offerMinor ?? 0;
  switch (temper) {
    case 'dreamer':
      return gone;
    case 'firm':
      return asked <= limitMinor && asked <= offer * 1.1 ? agreed : gone;
    case 'curious':
      return asked <= limitMinor * 0.9 ? agreed : gone;
    default: {
      if (asked <= limitMinor) return agreed;
      const next = Math.round((offer + (limitMinor - offer) / 2) / 100) * 100;
      if (round + 1 >= MOST_ROUNDS || next <= offer) return gone;
      return { ...told, state: 'open', words: 'comes up', offerMinor: next, until: thinks + WAITS_MS };
    }
  }
}
