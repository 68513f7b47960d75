import { z } from 'zod';
import { seedAddress } from '../core/crawl/address';
import {
  CrawlBudgetFields,
  CrawlBudgets,
  CrawlRules,
  Depth,
  FindSwitchFields,
  ReferrerCutsSchema,
} from '../core/crawl/params';
import { REFERRER_FIELDS } from '../core/formats/referrer-fields';
import { Endings, Upload } from './parts';

const Seed = z
  .string()
  .max(2000)
  .refine((text) => seedAddress(text) !== null, {
    error: (issue) => `"${String(issue.input).slice(0, 80)}" is no web address`,
  });

export const CrawlSchema = z
  .object({
    name: z.string().trim().max(120).optional(),
    seeds: z
      .array(z.union([Seed, z.object({ address: Seed, depth: Depth })]))
      .min(1, 'name at least one seed')
      .max(10_000),
    /** Check and measure what is found, while the crawl goes on. */
    checkAfter: z.boolean().default(true),
  })
  .extend(CrawlBudgets.shape)
  .extend(CrawlRules.shape)
  .extend({
    excludedEndings: Endings.default([]),
  });

/** Which switches leave domains out of the finds of a source. */
export const FindSwitchesSchema = z.object({ leaveOut: FindSwitchFields.leaveOut });

/** What can be changed of a crawl while it runs. */
export const CrawlChangeSchema = z
  .object(CrawlBudgetFields)
  .partial()
  .extend({
    /** Sites that are read no further. */
    drop: z.array(z.string().max(253)).max(1000).default([]),
  });

export const TrialSchema = z.object({
  seeds: z.array(Seed).min(1, 'name at least one seed').max(10_000),
  delayMs: z.number().int().min(0).max(600_000).optional(),
});

export const SearchSchema = z.object({
  /** Address of an OpenSearch description; absent: the one of the settings. */
  engine: z.url({ protocol: /^https?$/ }).optional(),
  phrases: z.array(z.string().trim().min(1).max(200)).min(1, 'name at least one phrase').max(200),
  perPhrase: z.number().int().min(1).max(100).default(20),
});

export const ReferrerLookSchema = z.object({
  upload: Upload,
  columns: z.array(z.enum(REFERRER_FIELDS)).max(500).optional(),
  cuts: ReferrerCutsSchema.prefault({}),
});

export const ReferrersSchema = z.object({
  upload: Upload,
  name: z.string().trim().min(1).max(120),
  columns: z.array(z.enum(REFERRER_FIELDS)).min(1).max(500),
  cuts: ReferrerCutsSchema.prefault({}),
  to: z.enum(['seeds', 'pool']),
});
