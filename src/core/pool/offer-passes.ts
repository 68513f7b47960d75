import type { PoolColumns } from './columns';
import type { Condition, SievePart } from './conditions';
import type { Passes } from './evaluate';
import type { FactName } from './facts';
import { cheapestOffer, isOfferCondition, type OfferCondition, offerMask } from './further-offers';
import type { FurtherOffer } from './offer';
import type { RowBits } from './range-marks';
import type { Circumstances } from './text-hits';

/** What conditions on offers that stand together let through, for one of them. */
export interface TogetherBits {
  members: ReadonlySet<SievePart>;
  /** Rows that have an offer with all of it. */
  whole: RowBits;
  /** Rows that have an offer with all but this one. */
  without: RowBits;
}

/** As many bits as a mask has room for. */
const MOST_TOGETHER = 30;

/**
 * Conditions on offers ask whether one open offer has all that stands together, not only the one that a row shows. A name that nobody
 * offers has none; that the price of an offer is not said is another thing.
 */
export class OfferPasses {
  private readonly single = new Map<Condition, RowBits>();
  private readonly together = new Map<SievePart, TogetherBits>();
  /** Those that every row has to pass. */
  private readonly outermost: OfferCondition[];

  constructor(
    private readonly columns: PoolColumns,
    private readonly passes: Passes,
    private readonly given: Circumstances,
    parts: SievePart[],
  ) {
    this.outermost = parts.filter(isOfferCondition).slice(0, MOST_TOGETHER);
    this.take(parts, true);
  }

  /** Rows a condition lets through, in its place: those that have one offer with this and what stands before it. null: it is not about offers. */
  of(condition: Condition): RowBits | null {
    return this.single.get(condition) ?? null;
  }

  /** Of conditions that stand together, where that is more than each by itself; null: it is not. */
  togetherOf(part: SievePart): TogetherBits | null {
    return this.together.get(part) ?? null;
  }

  /** Rows that have an offer of which a fact is not known, as far as it is the one they show. */
  unknown(fact: FactName): RowBits {
    return and(this.passes.unknown(fact), this.passes.offered());
  }

  /** Rows that an offer lets through which is not the one they show, with that offer. */
  others(): Map<number, FurtherOffer> {
    const found = new Map<number, FurtherOffer>();
    const { outermost, columns, given } = this;
    if (outermost.length === 0 || columns.further.isEmpty) return found;
    const shown = this.shown(outermost);
    for (const [row, offers] of columns.further.entries()) {
      if (((shown[row >> 5] >>> (row & 31)) & 1) === 1) continue;
      const all = (1 << outermost.length) - 1;
      const best = cheapestOffer(offers.filter((offer) => offerMask(offer, outermost, given.nowSeconds) === all));
      if (best) found.set(row, best);
    }
    return found;
  }

  private take(parts: SievePart[], isAll: boolean): void {
    const asked = parts.filter(isOfferCondition);
    if (isAll && asked.length > 1 && asked.length <= MOST_TOGETHER && !this.columns.further.isEmpty) {
      const all = (1 << asked.length) - 1;
      // each with what stands before it, and all but each
      const wanted = asked.map((_, n) => (2 << n) - 1);
      const bits = this.having(asked, [...wanted, ...asked.map((_, n) => all & ~(1 << n))]);
      asked.forEach((condition, n) => {
        this.single.set(condition, bits[n]);
        this.together.set(condition, {
          members: new Set<SievePart>(asked),
          whole: bits[asked.length - 1],
          without: bits[asked.length + n],
        });
      });
    } else for (const condition of asked) this.single.set(condition, this.having([condition], [1])[0]);
    for (const part of parts) if (part.type === 'group') this.take(part.parts, part.mode === 'all');
  }

  /** For each of some choices of conditions (bits of a mask), the rows one of whose offers passes all that are chosen. */
  private having(asked: readonly OfferCondition[], masks: readonly number[]): RowBits[] {
    const { columns, given } = this;
    const bits = masks.map((mask) => this.shown(asked.filter((_, n) => (mask >> n) & 1)));
    if (columns.further.isEmpty) return bits;
    const own = bits.map((one) => one.slice());
    for (const [row, offers] of columns.further.entries())
      for (const offer of offers) {
        const has = offerMask(offer, asked, given.nowSeconds);
        for (let n = 0; n < masks.length; n++) if ((has & masks[n]) === masks[n]) own[n][row >> 5] |= 1 << (row & 31);
      }
    return own;
  }

  /** Rows whose shown offer passes all of some conditions. */
  private shown(conditions: readonly OfferCondition[]): RowBits {
    const { passes, given } = this;
    if (conditions.length === 0) return passes.offered();
    const [first, ...rest] = conditions.map((condition) => {
      const bits = passes.of(condition, given);
      if (!condition.keepUnknown) return bits;
      const [unknown, offered] = [passes.unknown(condition.fact), passes.offered()];
      return bits.map((word, w) => word & ~(unknown[w] & ~offered[w]));
    });
    return rest.reduce(and, first);
  }
}

function and(a: RowBits, b: RowBits): RowBits {
  const bits = new Uint32Array(Math.min(a.length, b.length));
  for (let w = 0; w < bits.length; w++) bits[w] = a[w] & b[w];
  return bits;
}
