import { z } from 'zod';
import { EXPORT_FORMATS } from '../core/formats/exports';
import { EraSchema, EraWordSchema, LifeSchema, PageBlockSchema, PastSchema } from '../core/history/past-schema';
import { ANCHOR_KINDS } from '../core/links/anchor-kind-names';
import { DISCOUNTS } from '../core/links/effective';
import { LinkNetworkSchema } from '../core/links/network-schema';
import { SpamCardSchema } from '../core/spam/card-schema';
import { SubjectWordSchema } from '../core/topics/subject-schema';
import { DILIGENCE_KEYS, type DiligenceItem } from '../core/verdict/diligence';
import { MARK_VERDICTS } from '../core/verdict/mark-verdicts';
import { QuestionPlaceSchema, StoredCheckSchema, StoredEventSchema } from './availability';
import { WeighedWaySchema } from './bids';
import type { Calls } from './call';
import {
  HistoryEntrySchema,
  ReferrerSchema,
  SiblingSchema,
  SimilarNameSchema,
  StatementSchema,
  TableViewSchema,
} from './dossier';
import { EXPORT_MEDIA } from './exports';
import { LifePolicySchema, RegistrationRecordSchema } from './lifecycle';
import { LinkSpanSchema, ReferrerGroupSchema, StrengthStepSchema } from './links';
import { ListingSchema } from './listings';
import {
  DisagreementSchema,
  FrontAnswerSchema,
  MeasurementSchema,
  SourceCountSchema,
  StoredCaptureSchema,
} from './measures';
import { NameFactsSchema, NameReadingSchema } from './names';
import { StoredChangeSchema } from './offers';
import { DomainViewSchema } from './pool';
import { choiceOf, countOf } from './query';
import { ShortlistEntrySchema } from './shortlist';
import { DiligencePointSchema, FoundPagesSchema, PAGE_ITEMS, ReasonsSchema } from './verdict';

export const MarkReviewSchema = z.object({
  verdict: z.enum(MARK_VERDICTS),
  note: z.string().trim().max(2000).default(''),
});

export const NoteSchema = z.object({ text: z.string().trim().min(1).max(10_000) });

/** A point of due diligence as the person answers it. */
export const TickSchema = z.object({
  item: z.enum(DILIGENCE_KEYS as [DiligenceItem, ...DiligenceItem[]]),
  state: z.enum(['fine', 'look', 'bad']),
  note: z.string().trim().max(2000).default(''),
});

const TABLE_ASK = {
  sort: z.string().max(40).nullable().default(null).describe('Key of a column; else as it comes'),
  order: choiceOf('Which way it is sorted', ['up', 'down']),
  filter: z.string().max(200).default('').describe('Words that a row must hold'),
  offset: countOf('Rows to pass over', 0),
  limit: z.coerce.number().int().min(1).max(1000).default(25).describe('Rows at most, to 1,000'),
  format: choiceOf('What is answered: a part as JSON, or all of what was found', ['json', ...EXPORT_FORMATS]),
};

export const StoredNoteSchema = z
  .object({
    id: z.number(),
    at: z.number(),
    text: z.string(),
    /** Who wrote it: the name that somebody signed in by, or `you`. */
    who: z.string(),
  })
  .meta({ id: 'Note' });
export type StoredNote = z.infer<typeof StoredNoteSchema>;

/** A trademark that is like a name. */
export const MarkMatchSchema = z.object({
  register: z.string(),
  number: z.string(),
  mark: z.string(),
  owner: z.string(),
  /** Nice classes, as the register writes them. */
  classes: z.string(),
  status: z.string(),
  /** 0 to 1: how like the name it is, and why. */
  score: z.number(),
  why: z.string(),
});

/** What a person decided. */
export const StoredMarkReviewSchema = z.object({
  at: z.number(),
  verdict: z.enum(MARK_VERDICTS),
  note: z.string(),
  /** Who decided it. */
  who: z.string(),
});

export const StoredSightingSchema = z.object({
  sourceId: z.number(),
  sourceKind: z.string(),
  sourceName: z.string(),
  at: z.number(),
  line: z.number().nullable(),
  said: z.record(z.string(), z.unknown()),
});

/** Something that a person changed. */
export const DoneActSchema = z.object({
  id: z.number(),
  at: z.number(),
  kind: z.enum(['brief', 'sieve', 'shortlist', 'marks', 'watch', 'crawl', 'settings', 'holding']),
  words: z.string(),
  undoneAt: z.number().nullable(),
  who: z.string(),
});

export const domainsCalls = {
  'GET /domains/{name}/reading': {
    summary: 'What a name says by itself: words, sayability, spelling, twin, subject, other endings',
    answer: NameReadingSchema.extend({ endings: z.array(SiblingSchema), twin: SiblingSchema.nullable() }),
  },
  'GET /domains/{name}/tables/{table}': {
    media: EXPORT_MEDIA,
    summary:
      'A table of evidence (referrers, anchors, addresses, captures, checks, history), sorted and searched; as a file all of what was found',
    query: TABLE_ASK,
    answer: TableViewSchema,
  },
  'GET /domains/{name}/captures/{at}': {
    summary: 'One capture that was read, with what it shows as plain blocks',
    answer: StoredCaptureSchema.extend({
      terms: z.array(z.tuple([z.string(), z.number()])),
      blocks: z.array(PageBlockSchema).nullable(),
    }),
  },
  'GET /domains/{name}/similar': {
    summary: 'Names of the pool that are like this one',
    answer: z.object({
      names: z.array(SimilarNameSchema),
    }),
  },
  'GET /domains/{name}/file': {
    media: ['text/html', 'application/json'],
    summary: 'The dossier as a self-contained HTML file, or as JSON',
    query: { format: choiceOf('What is answered', ['html', 'json']) },
  },
  'GET /domains/{name}/notes': {
    summary: 'Notes on a domain',
    answer: z.object({
      notes: z.array(StoredNoteSchema),
    }),
  },
  'POST /domains/{name}/notes': {
    summary: 'Write a note',
    body: NoteSchema,
    status: 201,
    answer: z.object({
      note: StoredNoteSchema,
    }),
  },
  'DELETE /domains/{name}/notes/{id}': {
    summary: 'Take a note away',
    answer: z.object({
      notes: z.array(StoredNoteSchema),
    }),
  },
  'POST /domains/{name}/notes/{id}': {
    summary: 'Give a note back that was taken away',
    answer: z.object({
      notes: z.array(StoredNoteSchema),
    }),
  },
  'POST /domains/{name}/diligence': {
    summary: 'Answer a point of due diligence by hand',
    body: TickSchema,
    status: 201,
    answer: z.object({
      id: z.number(),
    }),
  },
  'POST /domains/{name}/diligence/ask': {
    summary: 'Ask a described service which pages show, list or mention a domain',
    body: z.object({ item: z.enum(PAGE_ITEMS) }),
    answer: FoundPagesSchema,
  },
  'DELETE /domains/{name}/diligence/{id}': {
    summary: 'Take an answer back',
    status: 204,
  },
  'POST /domains/{name}/marks': {
    summary: 'Keep what you decided about trademarks like the name',
    body: MarkReviewSchema,
    status: 201,
    answer: z.object({
      reviews: z.array(StoredMarkReviewSchema),
      act: z.number().nullable(),
    }),
  },
  'GET /domains/{name}': {
    summary: 'The dossier of one domain',
    answer: DomainViewSchema.extend({
      anchors: z.array(
        z.object({
          kind: z.enum(ANCHOR_KINDS),
          anchor: z.string(),
          domains: z.number(),
          links: z.number(),
        }),
      ),
      spam: z
        .object({
          at: z.number(),
          card: SpamCardSchema,
        })
        .nullable(),
      reasons: ReasonsSchema,
      measurement: MeasurementSchema.nullable(),
      shortlist: z.array(ShortlistEntrySchema),
      tags: z.array(z.string()),
      life: LifeSchema,
      diligence: z.array(DiligencePointSchema),
      notes: z.array(StoredNoteSchema),
      history: z.array(HistoryEntrySchema),
      counts: z.array(SourceCountSchema),
      countRule: z.string(),
      disagreement: DisagreementSchema.nullable(),
      weighing: z
        .object({
          value: z.number(),
          referring: z.number(),
          pages: z.number(),
          siteWide: z.number(),
          taken: z.record(z.enum(DISCOUNTS), z.number()),
          networks: z.array(LinkNetworkSchema),
          lookedAt: z.number().nullable(),
        })
        .nullable(),
      referrers: z.array(ReferrerSchema),
      profile: z.object({
        strength: z.array(StrengthStepSchema),
        endings: z.array(ReferrerGroupSchema),
        countries: z.array(ReferrerGroupSchema),
        languages: z.array(ReferrerGroupSchema),
        spans: z.array(LinkSpanSchema),
      }),
      looked: z.number(),
      gone: z.number(),
      forwarding: z
        .object({
          to: z.string(),
          isNow: z.boolean(),
          strengthWith: z.number().nullable(),
          strength: z.number().nullable(),
        })
        .nullable(),
      front: FrontAnswerSchema.nullable(),
      frontAt: z.number().nullable(),
      past: PastSchema.extend({
        eras: z.array(EraSchema.extend({ words: z.array(EraWordSchema) })),
        at: z.number().nullable(),
        read: z.number(),
        isPartial: z.boolean(),
      }).nullable(),
      readCaptures: z.array(
        StoredCaptureSchema.omit({ terms: true }).extend({ isKept: z.boolean(), words: z.array(z.string()) }),
      ),
      oldAddresses: z.array(
        z.object({
          url: z.string(),
          domains: z.number(),
          links: z.number(),
        }),
      ),
      subjectWhy: z
        .object({
          title: z.string().nullable(),
          area: z.string().nullable(),
          confidence: z.number(),
          from: z.string(),
          words: z.array(SubjectWordSchema),
          runnerUp: z
            .object({
              title: z.string(),
              confidence: z.number(),
            })
            .nullable(),
        })
        .nullable(),
      marksFound: z.object({
        at: z.number().nullable(),
        matches: z.array(MarkMatchSchema.extend({ at: z.number() })),
        reviews: z.array(StoredMarkReviewSchema),
      }),
      points: z.object({
        fittedOn: z.string(),
      }),
      inPool: z.boolean(),
      /** Who gave the mark that it has; null: it has none, or that was not kept. */
      judgedBy: z.string().nullable(),
      nameFacts: NameFactsSchema.extend({ display: z.string() }),
      phaseConfidence: z.number().nullable(),
      record: RegistrationRecordSchema.extend({ at: z.number().nullable(), source: z.string().nullable() }),
      trustPath: z.array(z.string()).nullable(),
      listings: z.array(
        ListingSchema.extend({
          homeMinor: z.number().nullable(),
          isOpen: z.boolean(),
          sourceId: z.number(),
          sourceName: z.string(),
          firstAt: z.number(),
          seenAt: z.number(),
          endedAt: z.number().nullable(),
        }),
      ),
      ways: z.array(WeighedWaySchema),
      waysCurrency: z.string(),
      policy: LifePolicySchema,
      phaseSince: z.number().nullable(),
      contradictions: z.array(z.string()),
      askAt: z.number().nullable(),
      events: z.array(StoredEventSchema),
      place: QuestionPlaceSchema.nullable(),
      listingChanges: z.array(StoredChangeSchema),
      checks: z.array(StoredCheckSchema),
      sightings: z.array(StoredSightingSchema),
      statements: z.array(StatementSchema),
    }),
  },
} satisfies Calls;
