import { z } from 'zod';
import { Settings } from '../core/settings/settings';
import { ABILITIES, TRIED } from '../core/setup/abilities';
import { PURPOSE_NAMES } from '../core/setup/purposes';
import { TriedSchema, TriesSchema } from '../core/setup/tried';
import type { Calls } from './call';
import { CsvProblemSchema } from './formats';
import { JobViewSchema } from './jobs';
import { changeOf } from './parts';

export const SetupSchema = z.object({
  purposes: z.array(z.enum(PURPOSE_NAMES)),
  /** How each ability stands, those that are needed most first. */
  abilities: z.array(
    z.object({
      ability: z.enum(ABILITIES),
      state: z.enum(['works', 'fails', 'untried', 'unset']),
      words: z.string(),
      at: z.number().nullable(),
    }),
  ),
  tries: TriesSchema,
});
export type Setup = z.infer<typeof SetupSchema>;

export const setupCalls = {
  'GET /setup': {
    summary: 'What works with outside services, why not, and what it takes',
    answer: SetupSchema,
  },
  'POST /setup/try': {
    needs: 'act',
    summary: 'Ask an outside service one real question, by settings that need not be kept',
    body: z.object({
      ability: z.enum(TRIED),
      /** In the place of those that are kept. */
      settings: changeOf(Settings).default({}),
      /** A domain, or words to look for; of mail nothing. */
      question: z.string().max(300).default(''),
    }),
    answer: TriedSchema,
  },
  'POST /setup/warc': {
    needs: 'gather',
    summary: 'Read which captures the files of web archives hold that Settings name',
    status: 202,
    answer: z.object({ job: JobViewSchema }),
  },
  'POST /rates': {
    needs: 'act',
    summary:
      'Take a table of rates of currencies: CSV or another table, or the XML in which central banks publish them',
    file: true,
    status: 201,
    answer: z.object({
      taken: z.number(),
      /** Of which day, ms since 1970 UTC; null: the table does not say. */
      at: z.number().nullable(),
      /** The currency that the table counts in; null: the user’s own. */
      base: z.string().nullable(),
      aside: z.array(CsvProblemSchema),
      act: z.number().nullable(),
    }),
  },
} satisfies Calls;
