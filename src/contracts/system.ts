import { z } from 'zod';
import { REFUSALS, type RefusalCode } from '../core/refusal';
import { Settings } from '../core/settings/settings';
import type { Calls } from './call';
import { EngineHealthSchema } from './engine';
import { JobViewSchema } from './jobs';
import { changeOf } from './parts';

export const ClockSchema = z.object({
  forwardMs: z
    .number()
    .int()
    .min(1)
    .max(366 * 86_400_000),
});

/** Settings, also under the names that they once had. */
const SettingsShown = Settings.extend({
  desks: Settings.shape.accounts,
  registrarDesk: Settings.shape.registrarAccount,
});

/** Problem details (RFC 9457): `code` says for programs why, `issues` what is wrong with which field. */
export const ProblemSchema = z.object({
  type: z.string(),
  status: z.number(),
  title: z.string(),
  detail: z.string(),
  code: z.enum(Object.keys(REFUSALS) as [RefusalCode, ...RefusalCode[]]),
  advice: z.string().optional(),
  issues: z.array(z.object({ at: z.string(), message: z.string() })).optional(),
});

export const systemCalls = {
  'GET /health': {
    summary: 'State of web, engine, database and stand-ins',
    access: 'open',
    answer: z.object({
      healthy: z.boolean(),
      mode: z.enum(['real', 'demo']).nullable(),
      web: z.object({
        state: z.string(),
      }),
      engine: z.discriminatedUnion('state', [
        EngineHealthSchema,
        z.object({
          state: z.literal('down'),
          message: z.string(),
        }),
      ]),
      database: z.object({
        state: z.enum(['ready', 'damaged', 'down']),
        message: z.string().optional(),
        advice: z.string().optional(),
      }),
      disk: z.object({
        state: z.enum(['ready', 'full']),
        freeBytes: z.number().nullable(),
      }),
      standins: z.object({
        state: z.string(),
      }),
    }),
  },
  'GET /feeds/key': {
    summary: 'What opens feeds alone, for programs that send no cookie; null where none is asked for',
    answer: z.object({ key: z.string().nullable() }),
  },
  'GET /openapi.json': {
    summary: 'This description',
    answer: z.record(z.string(), z.unknown()),
  },
  'GET /settings': {
    summary: 'Settings',
    answer: SettingsShown,
  },
  'PATCH /settings': {
    needs: 'act',
    summary: 'Change some settings',
    body: changeOf(SettingsShown),
    answer: SettingsShown.extend({ act: z.number().nullable() }),
  },
  'GET /events': {
    media: ['text/event-stream'],
    summary: 'Progress of jobs and changes of the pool, as server-sent events',
  },
  'POST /clock': {
    needs: 'act',
    summary: 'Move the time of the demo forward',
    body: ClockSchema,
    answer: z.object({
      now: z.number(),
    }),
  },
  'GET /backups': {
    summary: 'Copies of the data folder',
    answer: z.object({
      backups: z.array(
        z.object({
          path: z.string(),
          databaseBytes: z.number(),
        }),
      ),
    }),
  },
  'POST /backups': {
    needs: 'act',
    summary: 'Copy the data folder while the product runs',
    status: 202,
    answer: z.object({
      job: JobViewSchema,
    }),
  },
  'POST /backups/{name}/restore': {
    needs: 'act',
    summary: 'Put a copy, or the `newest` that is whole, in place of what is there now, which is kept as a copy itself',
    answer: z.object({
      restored: z.string(),
      kept: z.string(),
    }),
  },
} satisfies Calls;
