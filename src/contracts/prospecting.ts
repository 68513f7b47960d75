import { z } from 'zod';
import { EXPORT_FORMATS } from '../core/formats/exports';
import type { Letter } from '../core/prospecting/letter';
import { PROSPECT_STATES } from '../core/prospecting/prospects';
import type { Calls } from './call';
import { DeadTargetSchema } from './crawl';
import { EXPORT_MEDIA } from './exports';
import { KeptProspectSchema, OwnSourceSchema, ProspectSchema } from './portfolio';
import { choiceOf, textOf } from './query';

const ProspectKey = { target: z.string().min(1).max(4000) };
const Address = z.url({ protocol: /^https?$/ }).max(4000);

export const ProspectsSchema = z.object({
  ...ProspectKey,
  domain: z.string().max(253),
  /** Which of the pages that link to it; left out: all. */
  pages: z.array(z.string().max(4000)).max(2000).optional(),
  standIn: Address.nullable().optional(),
});

const ProspectFields = {
  state: z.enum(PROSPECT_STATES),
  contact: z.string().trim().max(500).nullable(),
  note: z.string().max(2000),
};

const Moment = z.number().int().nullable();

export const ProspectChangeSchema = z.object({
  ...ProspectKey,
  page: z.string().max(4000).optional(),
  ...z.object(ProspectFields).partial().shape,
  standIn: Address.nullable().optional(),
  isDropped: z.boolean().optional(),
  /** The row as it was, to take a change back. */
  before: z.object({ ...ProspectFields, writtenAt: Moment, answeredAt: Moment }).optional(),
});

export const ProspectLookSchema = z.object({ ...ProspectKey, page: Address });

export const LetterSchema = z.object({
  subject: z.string(),
  text: z.string(),
}) satisfies z.ZodType<Letter>;

export const prospectingCalls = {
  'GET /targets': {
    media: EXPORT_MEDIA,
    summary: 'Dead pages on living domains; as a file with every linking page',
    query: { format: choiceOf('What is answered', ['json', ...EXPORT_FORMATS]) },
    answer: z.object({
      targets: z.array(DeadTargetSchema),
    }),
  },
  'GET /own-pages': {
    summary: 'Where own pages are known from',
    answer: z.object({
      sources: z.array(OwnSourceSchema),
    }),
  },
  'POST /own-pages': {
    summary: 'Take own pages: a sitemap, a table with url and title, or addresses; or with site what a crawl has read',
    file: true,
    query: {
      name: textOf('What the list is called', 'a list'),
      site: z.string().nullable().default(null).describe('A site that was crawled, instead of a list'),
    },
    status: 201,
    answer: z.object({
      taken: z.number(),
      setAside: z.number(),
    }),
  },
  'GET /prospects': {
    summary: 'The work list: pages that link to dead targets, with what is next and a letter to each',
    answer: z.object({
      tally: z.object({
        toWrite: z.number(),
        written: z.number(),
        answered: z.number().nullable(),
        changed: z.number().nullable(),
      }),
      rows: z.array(
        ProspectSchema.extend({
          next: z.object({
            words: z.string(),
            isDue: z.boolean(),
          }),
          letter: LetterSchema.nullable(),
          mail: z.string().nullable(),
        }),
      ),
    }),
  },
  'POST /prospects': {
    status: 201,
    summary: 'Put pages that link to a target on the list, and choose the own page that stands in',
    body: ProspectsSchema,
    answer: z.object({
      added: z.array(z.string()),
    }),
  },
  'PATCH /prospects': {
    summary: 'Change where a page stands, its contact or note; or the page that stands in',
    body: ProspectChangeSchema,
    answer: z.object({
      /** How it stood, which may be sent to undo; null: it was an undoing. */
      before: z.union([KeptProspectSchema, z.object({ standIn: z.string().nullable() })]).nullable(),
    }),
  },
  'POST /prospects/look': {
    summary: 'Fetch a page of the list again: does it still link to what is dead?',
    body: ProspectLookSchema,
    answer: z.object({
      linksStill: z.boolean(),
      linksToOwn: z.boolean(),
      contact: z.string().nullable(),
    }),
  },
} satisfies Calls;
