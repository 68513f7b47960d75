import { z } from 'zod';
import { ReferrerCutsSchema } from '../core/crawl/params';
import { LINK_FIELDS } from '../core/formats/link-rows';
import { LIST_FIELDS } from '../core/formats/list-fields';
import { REFERRER_FIELDS } from '../core/formats/referrer-fields';
import { ORDER_KINDS } from '../core/orders/order';
import type { SievePart } from '../core/pool/conditions';
import { FACT_NAMES, type FactName, JUDGEMENTS, MEMBER_FACTS, type MemberFact } from '../core/pool/facts';
import { JOB_KINDS } from '../core/work/job-kinds';

const Fact = z.enum(FACT_NAMES as [FactName, ...FactName[]]);
/** Conditions: whoever asks has parsed them, so that only their form is looked at. */
const Parts = z.array(z.custom<SievePart>((value) => typeof value === 'object' && value !== null && 'type' in value));
const Id = z.object({ id: z.number().int() });
const Nothing = z.object({}).nullable();

/** One thing to be done to domains. */
export const ActSchema = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('judge'),
    judged: z.enum(JUDGEMENTS),
    reason: z.string().max(500).nullable().optional(),
    until: z.number().nullable().optional(),
  }),
  z.object({ kind: z.literal('tag'), tag: z.number().int() }),
  z.object({ kind: z.literal('untag'), tag: z.number().int() }),
  z.object({ kind: z.literal('shortlist'), brief: z.number().int() }),
  z.object({ kind: z.literal('unshortlist'), brief: z.number().int() }),
  z.object({ kind: z.literal('watch') }),
  z.object({ kind: z.literal('unwatch') }),
]);

/** Some domains by id, or all that pass a sieve but some. */
export const WhichSchema = z.union([
  z.object({ ids: z.array(z.number().int()).max(1_000_000) }),
  z.object({
    parts: Parts,
    withExcluded: z.boolean().optional(),
    except: z.array(z.number().int()).max(1_000_000).default([]),
  }),
]);
export type Which = z.input<typeof WhichSchema>;

interface JobToQueue {
  kind: (typeof JOB_KINDS)[number];
  sourceId: number | null;
  params: Record<string, unknown>;
  next?: JobToQueue[];
}
const JobToQueue: z.ZodType<JobToQueue> = z.object({
  kind: z.enum(JOB_KINDS),
  sourceId: z.number().int().nullable(),
  params: z.record(z.string(), z.unknown()),
  get next() {
    return z.array(JobToQueue).optional();
  },
});

/** How a file is read where a person has said so. */
const shapeOf = <Field extends string>(fields: readonly [Field, ...Field[]]) =>
  z.object({
    path: z.string(),
    given: z.object({
      delimiter: z.string().length(1).optional(),
      hasHeader: z.boolean().optional(),
      columns: z.array(z.enum(fields)).optional(),
    }),
  });
const ListFile = shapeOf(LIST_FIELDS);
const LinkFile = shapeOf(LINK_FIELDS);

const Names = (most: number) => z.object({ names: z.array(z.string().max(253)).max(most) });

/** Every call of the engine over the local socket, by its path: what is asked. The server has a handler for each, the client a method. */
export const ENGINE_CALLS = {
  '/health': Nothing,
  '/restore': z.object({ name: z.string().max(100) }),
  '/settings/changed': Nothing,

  '/pool/query': z.object({
    parts: Parts,
    sorts: z.array(z.object({ fact: Fact, descending: z.boolean() })),
    offset: z.number().int().min(0),
    limit: z.number().int().min(0).max(5_000_000),
    histograms: z.array(z.string()),
    anchor: z.number().int().nullable().optional(),
    withExcluded: z.boolean().optional(),
  }),
  '/pool/ids': WhichSchema,
  '/pool/act': z.object({ act: ActSchema, which: WhichSchema }),
  '/pool/undo': z.object({ action: z.number().int() }),
  '/pool/members': z.object({
    fact: z.enum(MEMBER_FACTS as [MemberFact, ...MemberFact[]]),
    set: z.number().int(),
    ids: z.array(z.number().int()).nullable(),
    isIn: z.boolean(),
  }),
  '/sieves/run': Id,
  '/briefs/changed': Nothing,
  '/digest/make': Nothing,

  '/lists/preview': ListFile,
  '/lists/import': ListFile,
  '/cuts/preview': LinkFile,
  '/cuts/import': LinkFile,
  '/venues/preview': z.object({ url: z.url() }),
  '/referrers/preview': z.object({
    path: z.string(),
    columns: z.array(z.enum(REFERRER_FIELDS)).optional(),
    cuts: ReferrerCutsSchema,
  }),
  '/referrers/import': z.object({
    path: z.string(),
    name: z.string(),
    columns: z.array(z.enum(REFERRER_FIELDS)),
    cuts: ReferrerCutsSchema,
    to: z.enum(['seeds', 'pool']),
  }),
  '/pages/links': z.object({ url: z.string().max(2000) }),

  '/domains/confirm': Id,
  '/orders/terms': z.object({ briefId: z.number().int(), domainId: z.number().int() }),
  '/orders/place': z.object({
    briefId: z.number().int(),
    domainId: z.number().int(),
    venue: z.string().min(1).max(120),
    kind: z.enum(ORDER_KINDS),
    amountMinor: z.number().int().positive().max(1e12),
    currency: z.string().optional(),
    sendAt: z.number().nullable().optional(),
    clientKey: z.string().max(100).nullable().optional(),
    estimates: z
      .object({ winChance: z.number(), worthLowMinor: z.number(), worthHighMinor: z.number() })
      .partial()
      .optional(),
  }),
  '/orders/withdraw': Id,
  '/orders/look': Id,
  '/orders/outcome': Id.extend({
    outcome: z.enum(['won', 'lost', 'withdrawn']),
    priceMinor: z.number().int().min(0).nullable(),
  }),
  '/resales/look': Id,
  '/resales/withdraw': Id,

  '/names/read': z.object({
    names: z.array(z.object({ name: z.string().max(253), ending: z.string().max(253) })).max(5000),
  }),
  '/names/subjects': Names(5000),
  '/worth/resale': Names(500),
  '/spam/refit': Nothing,
  '/spam/unfit': Nothing,

  '/jobs': JobToQueue,
  '/jobs/steer': z.object({ id: z.number(), action: z.enum(['pause', 'resume', 'cancel']) }),
};

export type EnginePath = keyof typeof ENGINE_CALLS;
/** What may be asked of a path, as it is sent. */
export type Asked<Path extends EnginePath> = z.input<(typeof ENGINE_CALLS)[Path]>;
/** The same as it is read. */
export type Read<Path extends EnginePath> = z.output<(typeof ENGINE_CALLS)[Path]>;

export const isEnginePath = (path: string): path is EnginePath => Object.hasOwn(ENGINE_CALLS, path);
