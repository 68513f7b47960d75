import { z } from 'zod';
import type { WorthAssumptions } from '../core/worth/assumptions';
import type { PhraseWorth, Ranking } from '../core/worth/rebuild';
import type { NearSale, ResaleWorth, Sale } from '../core/worth/resale';

export const WorthAssumptionsSchema = z
  .object({
    firstClickPercent: z.number(),
    ownNamePercent: z.number(),
    halfLifeYears: z.number(),
    competitionPercent: z.number(),
    earningMonths: z.number(),
    linkMinor: z.number(),
    linkDoubling: z.number(),
    otherSubjectPercent: z.number(),
    carryPercent: z.number(),
  })
  .meta({ id: 'WorthAssumptions' }) satisfies z.ZodType<WorthAssumptions>;

export const RankingSchema = z.object({
  phrase: z.string(),
  position: z.number(),
  searches: z.number(),
  clickMinor: z.number(),
  competition: z.number().nullable(),
}) satisfies z.ZodType<Ranking>;

export const PhraseWorthSchema = RankingSchema.extend({
  visits: z.number(),
  isOwnName: z.boolean(),
  keptVisits: z.number(),
  monthMinor: z.number(),
}).meta({ id: 'PhraseWorth' }) satisfies z.ZodType<PhraseWorth>;

export const SaleSchema = z.object({
  name: z.string(),
  words: z.array(z.string()).readonly(),
  ending: z.string(),
  length: z.number(),
  hyphens: z.number(),
  digits: z.number(),
  subject: z.string().nullable(),
  priceMinor: z.number(),
  at: z.number(),
  venue: z.string().nullable(),
}) satisfies z.ZodType<Sale>;

export const NearSaleSchema = z.object({
  sale: SaleSchema,
  distance: z.number(),
  adjustedMinor: z.number(),
}) satisfies z.ZodType<NearSale>;

export const ResaleWorthSchema = z.object({
  lowMinor: z.number(),
  medianMinor: z.number(),
  highMinor: z.number(),
  near: z.array(NearSaleSchema),
}) satisfies z.ZodType<ResaleWorth>;
