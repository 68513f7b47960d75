import { z } from 'zod';
import { Connection } from '../core/connections/connection';
import { ReferrerCutsSchema } from '../core/crawl/params';
import { DATE_ORDERS } from '../core/formats/dates';
import { LINK_FIELDS } from '../core/formats/link-rows';
import { LIST_FIELDS } from '../core/formats/list-fields';
import { REFERRER_FIELDS } from '../core/formats/referrer-fields';
import { ORDER_KINDS } from '../core/orders/order';
import type { SievePart } from '../core/pool/conditions';
import { CHOICE_FACTS, FACT_NAMES, type FactName, JUDGEMENTS, MEMBER_FACTS, type MemberFact } from '../core/pool/facts';
import { Settings } from '../core/settings/settings';
import { TRIED } from '../core/setup/abilities';
import { TriedSchema } from '../core/setup/tried';
import type { DeepReadonly } from './call';
import { TriedConnectionSchema } from './connections';
import { EngineHealthSchema } from './engine';
import { JobOrderSchema, JobRowSchema } from './jobs';
import { ConfirmedSchema } from './lifecycle';
import { RefitReportSchema } from './measures';
import { NameReadingSchema } from './names';
import { OrderTermsSchema, StoredOrderSchema } from './orders';
import { changeOf } from './parts';
import { ActedSchema, KnownSchema, PoolReplySchema } from './pool';
import { StoredResaleSchema } from './portfolio';
import { DigestStateSchema } from './sieves';
import { MailboxSchema } from './source-forms';
import { CutLookSchema, ListLookSchema, ReferrerPreviewSchema, TriedMailboxSchema, VenueLookSchema } from './sources';
import { FoundPagesSchema, PAGE_ITEMS } from './verdict';
import { ResaleWorthSchema } from './worth';

const Fact = z.enum(FACT_NAMES as [FactName, ...FactName[]]);
/** Conditions: whoever asks has parsed them, so that only their form is looked at. */
const Parts = z.array(z.custom<SievePart>((value) => typeof value === 'object' && value !== null && 'type' in value));
const Id = z.object({ id: z.number().int() });
const Nothing = z.object({}).nullable();
const Done = z.object({});
/** Millions of ids at a time: looked at one by one, they would take as long as the question. */
const Ids = z.custom<number[]>((value) => Array.isArray(value) && typeof (value[0] ?? 0) === 'number');

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

/** How a file is read where a person has said so. */
const shapeOf = <Field extends string>(fields: readonly [Field, ...Field[]]) =>
  z.object({
    path: z.string(),
    given: z.object({
      delimiter: z.string().length(1).optional(),
      hasHeader: z.boolean().optional(),
      headRows: z.number().int().min(0).optional(),
      order: z.enum(DATE_ORDERS).nullable().optional(),
      sheet: z.string().nullable().optional(),
      columns: z.array(z.enum(fields)).optional(),
    }),
  });
const ListFile = shapeOf(LIST_FIELDS);
const LinkFile = shapeOf(LINK_FIELDS);

const Names = (most: number) => z.object({ names: z.array(z.string().max(253)).max(most) });

/** Every call of the engine over the local socket, by its path: what is asked, and what is answered. The server has a handler for each. */
export const ENGINE_CALLS = {
  '/health': { asked: Nothing, answer: EngineHealthSchema },
  '/restore': {
    asked: z.object({ name: z.string().max(100) }),
    answer: z.object({ name: z.string(), aside: z.string() }),
  },
  '/settings/changed': { asked: Nothing, answer: Done },
  '/connections/try': {
    asked: z.object({ connection: Connection, question: z.string().max(20_000) }),
    answer: TriedConnectionSchema,
  },
  '/mailbox/try': { asked: MailboxSchema, answer: TriedMailboxSchema },
  '/pages/ask': {
    asked: z.object({ item: z.enum(PAGE_ITEMS), name: z.string().max(253) }),
    answer: FoundPagesSchema,
  },
  '/setup/try': {
    asked: z.object({ ability: z.enum(TRIED), settings: changeOf(Settings), question: z.string().max(300) }),
    answer: TriedSchema,
  },

  '/pool/query': {
    asked: z.object({
      parts: Parts,
      sorts: z.array(z.object({ fact: Fact, descending: z.boolean() })),
      offset: z.number().int().min(0),
      limit: z.number().int().min(0).max(5_000_000),
      histograms: z.array(z.string()),
      anchor: z.number().int().nullable().optional(),
      withExcluded: z.boolean().optional(),
    }),
    answer: PoolReplySchema,
  },
  '/pool/known': { asked: Nothing, answer: KnownSchema },
  '/pool/words': {
    asked: z.object({ fact: z.enum(CHOICE_FACTS), many: z.number().int().min(0).max(10_000) }),
    answer: z.object({ words: z.array(z.string()) }),
  },
  '/pool/ids': { asked: WhichSchema, answer: z.object({ ids: Ids }) },
  '/pool/act': { asked: z.object({ act: ActSchema, which: WhichSchema }), answer: ActedSchema },
  '/pool/undo': {
    asked: z.object({ action: z.number().int() }),
    answer: z.object({
      changed: z.number(),
    }),
  },
  '/pool/refresh': { asked: z.object({ ids: z.array(z.number().int()).max(1_000_000) }), answer: Done },
  '/pool/members': {
    asked: z.object({
      fact: z.enum(MEMBER_FACTS as [MemberFact, ...MemberFact[]]),
      set: z.number().int(),
      ids: z.array(z.number().int()).nullable(),
      isIn: z.boolean(),
    }),
    answer: Done,
  },
  '/sieves/run': {
    asked: Id,
    answer: z.object({
      total: z.number(),
      fresh: z.number(),
    }),
  },
  '/briefs/changed': { asked: Nothing, answer: Done },
  '/digest/make': { asked: Nothing, answer: DigestStateSchema },

  '/lists/preview': { asked: ListFile, answer: ListLookSchema },
  '/lists/import': { asked: ListFile, answer: ListLookSchema },
  '/cuts/preview': { asked: LinkFile, answer: CutLookSchema },
  '/cuts/import': { asked: LinkFile, answer: CutLookSchema },
  '/venues/preview': { asked: z.object({ url: z.url() }), answer: VenueLookSchema },
  '/referrers/preview': {
    asked: z.object({
      path: z.string(),
      columns: z.array(z.enum(REFERRER_FIELDS)).optional(),
      cuts: ReferrerCutsSchema,
    }),
    answer: ReferrerPreviewSchema,
  },
  '/referrers/import': {
    asked: z.object({
      path: z.string(),
      name: z.string(),
      columns: z.array(z.enum(REFERRER_FIELDS)),
      cuts: ReferrerCutsSchema,
      to: z.enum(['seeds', 'pool']),
    }),
    answer: z.object({
      sourceId: z.number().nullable(),
      seeds: z.array(z.string()),
      file: z.string(),
    }),
  },
  '/pages/links': {
    asked: z.object({ url: z.string().max(2000) }),
    answer: z.object({
      contact: z.string().nullable(),
      links: z.array(z.string()),
    }),
  },

  '/domains/confirm': { asked: Id, answer: ConfirmedSchema },
  '/orders/terms': {
    asked: z.object({ briefId: z.number().int(), domainId: z.number().int() }),
    answer: OrderTermsSchema,
  },
  '/orders/place': {
    asked: z.object({
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
    answer: z.object({
      order: StoredOrderSchema,
    }),
  },
  '/orders/withdraw': {
    asked: Id,
    answer: z.object({
      refusal: z.string().nullable(),
    }),
  },
  '/orders/look': {
    asked: Id,
    answer: z.object({
      order: StoredOrderSchema.nullable(),
    }),
  },
  '/orders/outcome': {
    asked: Id.extend({
      outcome: z.enum(['won', 'lost', 'withdrawn']),
      priceMinor: z.number().int().min(0).nullable(),
    }),
    answer: z.object({
      order: StoredOrderSchema,
    }),
  },
  '/resales/look': {
    asked: Id,
    answer: z.object({
      sale: StoredResaleSchema.nullable(),
    }),
  },
  '/resales/withdraw': {
    asked: Id,
    answer: z.object({
      refusal: z.string().nullable(),
    }),
  },

  '/names/read': {
    asked: z.object({
      names: z.array(z.object({ name: z.string().max(253), ending: z.string().max(253) })).max(5000),
    }),
    answer: z.object({
      readings: z.array(NameReadingSchema),
    }),
  },
  '/names/subjects': {
    asked: Names(5000),
    answer: z.object({
      subjects: z.array(z.string().nullable()),
    }),
  },
  '/worth/resale': {
    asked: Names(500),
    answer: z.object({
      worths: z.array(ResaleWorthSchema.nullable()),
    }),
  },
  '/spam/refit': { asked: Nothing, answer: RefitReportSchema },
  '/spam/unfit': { asked: Nothing, answer: Done },

  '/jobs': { asked: JobOrderSchema, answer: JobRowSchema },
  '/jobs/steer': {
    asked: z.object({ id: z.number(), action: z.enum(['pause', 'resume', 'cancel']) }),
    answer: JobRowSchema,
  },
};

export type EnginePath = keyof typeof ENGINE_CALLS;
/** What may be asked of a path, as it is sent. */
export type Asked<Path extends EnginePath> = DeepReadonly<z.input<(typeof ENGINE_CALLS)[Path]['asked']>>;
/** The same as it is read. */
export type Read<Path extends EnginePath> = z.output<(typeof ENGINE_CALLS)[Path]['asked']>;

/** What a path answers. */
export type EngineAnswer<Path extends EnginePath> = z.output<(typeof ENGINE_CALLS)[Path]['answer']>;

export const isEnginePath = (path: string): path is EnginePath => Object.hasOwn(ENGINE_CALLS, path);
