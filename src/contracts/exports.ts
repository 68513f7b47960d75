import { z } from 'zod';
import { EXPORT_FORMATS, EXPORT_TYPES } from '../core/formats/exports';
import type { Calls } from './call';
import { deadlinesCalls } from './deadlines';
import { choiceOf, idOf, repeatable } from './query';

/** Kinds of what is answered where a list leaves as a file. */
export const EXPORT_MEDIA = Object.values(EXPORT_TYPES).map((type) => type.split(';')[0]);

/** Lists that leave as files; each as its screen shows it, or has more of. */
export const EXPORTED_LISTS = [
  'pool',
  'shortlist',
  'sources',
  'batch',
  'plan',
  'orders',
  'ledger',
  'portfolio',
  'money',
  'outcomes',
  'ideas',
  'deadlines',
  'dead-pages',
  'prospects',
  'page-links',
] as const;

export const exportsCalls = {
  'GET /export': {
    media: EXPORT_MEDIA,
    summary: 'A list as a file: rows of a pool view, a shortlist, or another list by its name; streamed',
    query: {
      what: choiceOf('Which list', EXPORTED_LISTS),
      format: choiceOf('What is answered', EXPORT_FORMATS),
      id: idOf('Number of the batch, the run of ideas or the look at a page'),
      brief: idOf('Number of the brief; else the current one, and orders and ledger of all'),
      c: repeatable('A condition, as in the address of the pool'),
      sort: z.string().default('').describe('fact:up or fact:down, several by commas'),
      columns: z.string().default('').describe('Columns, as in the address of the pool'),
      shown: z.enum(['0', '1']).default('0').describe('1: only the columns that the view shows, in their order'),
      ...deadlinesCalls['GET /deadlines'].query,
    },
  },
  'POST /export': {
    needs: 'read',
    media: EXPORT_MEDIA,
    summary:
      'Rows of the selected domains, by a form with format, ids or a view with exceptions, and columns as in the pool’s address',
    form: z.object({ format: z.enum(EXPORT_FORMATS), which: z.string(), columns: z.string().optional() }),
  },
} satisfies Calls;
