import { z } from 'zod';
import type { Belief, Rivals } from '../core/bids/belief';
import type { Maximum } from '../core/bids/maximum';
import type { BidPlan, PlannedBid, Turn } from '../core/bids/plan';
import type { FallingAdvice, Others, WeighedWay } from '../core/bids/weighed-way';
import { RESERVES } from '../core/listings/listing';
import { ORDER_KINDS } from '../core/orders/order';
import { PRICE_SAYERS, type Way } from '../core/orders/ways';

export const WaySchema = z
  .object({
    kind: z.enum(ORDER_KINDS),
    offered: z.enum(['auction', 'expired-auction', 'buy-now', 'offer', 'falling', 'backorder', 'registration']),
    venue: z.string(),
    currency: z.string(),
    priceMinor: z.number().nullable(),
    leastMinor: z.number().nullable(),
    costMinor: z.number().nullable(),
    feesMinor: z.number(),
    next: z
      .object({
        at: z.number(),
        priceMinor: z.number(),
        costMinor: z.number().nullable(),
      })
      .nullable(),
    bids: z.number().nullable(),
    watchers: z.number().nullable(),
    reserve: z.enum(RESERVES).nullable(),
    closesAt: z.number().nullable(),
    url: z.string().nullable(),
    asOf: z.number(),
    says: z.enum(PRICE_SAYERS).nullable(),
    isPremium: z.boolean(),
    refusal: z.string().nullable(),
  })
  .meta({ id: 'Way' }) satisfies z.ZodType<Way>;

export const TurnSchema = z.object({
  more: z.array(z.string()),
  less: z.array(z.string()),
}) satisfies z.ZodType<Turn>;

export const BeliefSchema = z.object({
  medianMinor: z.number(),
  sigma: z.number(),
}) satisfies z.ZodType<Belief>;

export const RivalsSchema = z.object({
  highest: BeliefSchema,
  floorMinor: z.number(),
  stepMinor: z.number(),
  affiliation: z.number(),
}) satisfies z.ZodType<Rivals>;

export const OthersSchema = z.object({
  watchers: z.number().nullable(),
  toMinor: z.number().nullable(),
  auctions: z.number(),
  firstShare: z.number().nullable(),
}) satisfies z.ZodType<Others>;

export const FallingAdviceSchema = z.object({
  venue: z.string(),
  steps: z.array(
    z.object({
      at: z.number(),
      priceMinor: z.number(),
      chanceThere: z.number(),
      expectedMinor: z.number(),
      listedMinor: z.number(),
    }),
  ),
  best: z.number().nullable(),
  currency: z.string().nullable(),
  seen: z.number(),
}) satisfies z.ZodType<FallingAdvice>;

export const WeighedWaySchema = WaySchema.extend({
  offer: z
    .union([
      z.object({
        feesMinor: z.number(),
        kind: z.literal('auction'),
        rivals: RivalsSchema,
        closingAt: z.number().nullable(),
      }),
      z.object({
        feesMinor: z.number(),
        kind: z.literal('fixed'),
        priceMinor: z.number(),
        chance: z.number(),
        until: z.number().nullable(),
      }),
    ])
    .nullable(),
  others: OthersSchema.nullable(),
  falling: FallingAdviceSchema.nullable(),
}).meta({ id: 'WeighedWay' }) satisfies z.ZodType<WeighedWay>;

export const MaximumSchema = z
  .object({
    worthMinor: z.number(),
    presentMinor: z.number(),
    costMinor: z.number(),
    feesMinor: z.number(),
    renewalsMinor: z.number(),
    plainMinor: z.number(),
    curseMinor: z.number(),
    maximumMinor: z.number(),
  })
  .meta({ id: 'Maximum' }) satisfies z.ZodType<Maximum>;

export const PlannedBidSchema = z.object({
  id: z.number(),
  name: z.string(),
  isIn: z.boolean(),
  offer: z.number(),
  maximum: MaximumSchema,
  bidMinor: z.number().nullable(),
  winChance: z.number(),
  paidMinor: z.number(),
  surplusMinor: z.number(),
  heldMinor: z.number(),
  at: z.number().nullable(),
  why: z.string(),
}) satisfies z.ZodType<PlannedBid>;

export const BidPlanSchema = z.object({
  bids: z.array(PlannedBidSchema),
  heldMinor: z.number(),
  spentMinor: z.number(),
  surplusMinor: z.number(),
  worstMinor: z.number(),
}) satisfies z.ZodType<BidPlan>;
