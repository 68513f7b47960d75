import { Random } from './random';

const MINUTE = 60_000;
const HOUR = 60 * MINUTE;
/** A bid in the last minutes moves the end by as much. */
export const EXTENSION_MS = 10 * MINUTE;
/** Who comes to no end is cut off; nobody bids this often. */
const MOST_BIDS = 400;

/** How a rival bids: with the maximum at once; step by step; not until the end; beyond what was meant, once outbid. */
export const TEMPERS = ['early', 'steady', 'late', 'stubborn'] as const;
export type Temper = (typeof TEMPERS)[number];

export interface Rival {
  id: string;
  temper: Temper;
  /** What it is worth to this one. */
  limitMinor: number;
  /** When this one finds the lot. */
  comesAt: number;
}

export interface AuctionTerms {
  /** Names the chances of this auction. */
  seed: string;
  startMinor: number;
  reserveMinor: number | null;
  closesAt: number;
  rivals: Rival[];
}

/** A maximum that the venue bids up to for its bidder. */
export interface ProxyBid {
  bidder: string;
  amountMinor: number;
  at: number;
}

export interface AuctionState {
  priceMinor: number;
  /** The least that is taken as the next bid. */
  leastMinor: number;
  leader: string | null;
  bids: number;
  closesAt: number;
  reserve: 'none' | 'unmet' | 'met';
  isOver: boolean;
  /** Who has it; null: nobody, as yet or at all. */
  winner: string | null;
}

/** Steps by price, in minor units. */
export function stepOf(priceMinor: number): number {
  if (priceMinor < 5_000) return 100;
  if (priceMinor < 20_000) return 500;
  return priceMinor < 100_000 ? 1_000 : 5_000;
}

/**
 * An auction with proxy maximums at a moment, from its terms and the bids of those who are real: rivals come, are outbid and come back
 * by their tempers. The same bids give the same auction whenever one looks.
 */
export function auctionAt(terms: AuctionTerms, bids: readonly ProxyBid[], now: number): AuctionState {
  const room = new Room(terms);
  const coming: ProxyBid[] = [...bids, ...terms.rivals.map((rival) => firstBid(terms, rival))];
  for (let round = 0; round < MOST_BIDS; round++) {
    const next = earliest(coming);
    if (!next || next.at > now || next.at >= room.closesAt) break;
    coming.splice(coming.indexOf(next), 1);
    const outbid = room.take(next);
    const rival = terms.rivals.find(({ id }) => id === outbid);
    const again = rival && comeBack(terms, rival, room, next.at, round);
    if (again) coming.push(again);
  }
  return room.state(now);
}

class Room {
  leader: string | null = null;
  priceMinor: number;
  closesAt: number;
  private mostMinor = 0;
  private bids = 0;

  constructor(private readonly terms: AuctionTerms) {
    this.priceMinor = terms.startMinor;
    this.closesAt = terms.closesAt;
  }

  get leastMinor(): number {
    return this.leader === null ? this.terms.startMinor : this.priceMinor + stepOf(this.priceMinor);
  }

  /** @returns who does not lead now, and might want to. */
  take({ bidder, amountMinor, at }: ProxyBid): string | null {
    if (bidder === this.leader) {
      this.mostMinor = Math.max(this.mostMinor, amountMinor);
      this.meetReserve();
      return null;
    }
    if (amountMinor < this.leastMinor) return bidder;
    this.bids++;
    if (at > this.closesAt - EXTENSION_MS) this.closesAt = at + EXTENSION_MS;
    if (this.leader !== null && amountMinor <= this.mostMinor) {
      this.priceMinor = Math.min(this.mostMinor, amountMinor + stepOf(amountMinor));
      return bidder;
    }
    const before = this.leader;
    if (before !== null) this.priceMinor = Math.min(amountMinor, this.mostMinor + stepOf(this.mostMinor));
    this.leader = bidder;
    this.mostMinor = amountMinor;
    this.meetReserve();
    return before;
  }

  state(now: number): AuctionState {
    const { reserveMinor } = this.terms;
    const reserve = reserveMinor === null ? 'none' : this.mostMinor >= reserveMinor ? 'met' : 'unmet';
    const isOver = now >= this.closesAt;
    const { leader, priceMinor, leastMinor, closesAt, bids } = this;
    const winner = isOver && reserve !== 'unmet' ? leader : null;
    return { leader, priceMinor, leastMinor, closesAt, bids, reserve, isOver, winner };
  }

  /** A maximum over the reserve brings the price up to it. */
  private meetReserve(): void {
    const { reserveMinor } = this.terms;
    if (reserveMinor !== null && this.mostMinor >= reserveMinor)
      this.priceMinor = Math.max(this.priceMinor, reserveMinor);
  }
}

function firstBid({ startMinor, closesAt }: AuctionTerms, { id, temper, limitMinor, comesAt }: Rival): ProxyBid {
  switch (temper) {
    case 'early':
      return { bidder: id, amountMinor: Math.round(limitMinor * 0.7), at: comesAt };
    case 'late':
      return { bidder: id, amountMinor: limitMinor, at: closesAt - (2 + (comesAt % 6)) * MINUTE };
    default:
      return { bidder: id, amountMinor: Math.min(limitMinor, startMinor), at: comesAt };
  }
}

/** What an outbid rival does next; null: it is too dear. */
function comeBack(terms: AuctionTerms, rival: Rival, room: Room, at: number, round: number): ProxyBid | null {
  const random = new Random(`${terms.seed} ${rival.id} ${round}`);
  const limit = rival.temper === 'stubborn' ? Math.round(rival.limitMinor * 1.3) : rival.limitMinor;
  if (room.leastMinor > limit) return null;
  const amountMinor = rival.temper === 'early' || rival.temper === 'late' ? limit : room.leastMinor;
  const rest = room.closesAt - at;
  const delay = Math.min((20 + random.whole(0, 70)) * MINUTE, rest * (0.3 + 0.4 * random.next()));
  return { bidder: rival.id, amountMinor, at: at + Math.max(MINUTE / 2, Math.round(delay)) };
}

function earliest(bids: readonly ProxyBid[]): ProxyBid | null {
  let first: ProxyBid | null = null;
  for (const bid of bids) if (!first || bid.at < first.at) first = bid;
  return first;
}

/** Rivals for a lot that runs a week: a third of the lots has none, some have five; what it is worth to them scatters around a worth. */
export function rivalsFor(random: Random, worthMinor: number, closesAt: number): Rival[] {
  const count = random.chance(0.3) ? 0 : random.tail(5);
  return Array.from({ length: count }, (_, n) => ({
    id: `rival ${n + 1}`,
    temper: random.pick(TEMPERS),
    limitMinor: Math.round((worthMinor * (0.45 + 0.9 * random.next())) / 100) * 100,
    comesAt: closesAt - random.whole(1, 7 * 24 - 1) * HOUR + random.whole(0, 59) * MINUTE,
  }));
}
