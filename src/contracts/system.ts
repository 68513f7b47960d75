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
      database: z.object({ state: z.string(), message: z.string().optional() }),
      standins: z.object({
        state: z.string(),
      }),
    }),
  },
  'GET /openapi.json': {
    summary: 'This description',
    answer: z.record(z.string(), z.unknown()),
  },
  'GET /settings': {
    summary: 'Settings',
    answer: z.object({
      userAgent: z.string(),
      crawlDelayMs: z.number(),
      crawlMemoryMb: z.number(),
      diskFloorMb: z.number(),
      allowedPrivate: z.array(z.string()),
      resolvers: z.array(z.string()),
      rdapBootstrap: z.string(),
      registryIntervalMs: z.number(),
      paces: z.record(z.string(), z.number()),
      asksEndings: z.boolean(),
      registrar: z.string(),
      policies: z.array(
        z.object({
          ending: z.string(),
          autoRenewDays: z.tuple([z.number(), z.number()]),
          redemptionDays: z.tuple([z.number(), z.number()]),
          pendingDeleteDays: z.tuple([z.number(), z.number()]),
          dropHours: z.tuple([z.number(), z.number()]),
          isExpiryMoved: z.boolean(),
          reference: z.string(),
          dropWeekdays: z.array(z.number()).optional(),
          basis: z.enum(['documented', 'recalled', 'assumed']).optional(),
          marginDays: z.number().optional(),
        }),
      ),
      timeZone: z.string(),
      reminderMinutes: z.number(),
      currency: z.string(),
      rates: z.record(z.string(), z.number()),
      searchEngine: z.string(),
      digestMinute: z.number().nullable(),
      digestEvents: z.boolean(),
      digestFrom: z.string(),
      digestTo: z.string(),
      smtpUrl: z.string(),
      countRule: z.string(),
      countFactor: z.number(),
      measureBudget: z.number(),
      measureGate: z.object({
        leastReferring: z.number(),
        mostSpamRisk: z.number(),
      }),
      markRegister: z.string(),
      isDryRun: z.boolean(),
      desks: z.array(
        z.object({
          venue: z.string(),
          address: z.string(),
          key: z.string(),
          currency: z.string(),
        }),
      ),
      registrarDesk: z.string(),
      dayLimitMinor: z.number().nullable(),
      registrationPrices: z.record(z.string(), z.number()),
      chances: z.object({
        buyNow: z.number(),
        falling: z.number(),
        free: z.number(),
        backorder: z.number(),
      }),
      rangeFactor: z.number(),
      archiveTimeMap: z.string(),
    }),
  },
  'PATCH /settings': {
    summary: 'Change some settings',
    body: changeOf(Settings),
    answer: z.object({
      act: z.number().nullable(),
      userAgent: z.string(),
      crawlDelayMs: z.number(),
      crawlMemoryMb: z.number(),
      diskFloorMb: z.number(),
      allowedPrivate: z.array(z.string()),
      resolvers: z.array(z.string()),
      rdapBootstrap: z.string(),
      registryIntervalMs: z.number(),
      paces: z.record(z.string(), z.number()),
      asksEndings: z.boolean(),
      registrar: z.string(),
      policies: z.array(
        z.object({
          ending: z.string(),
          autoRenewDays: z.tuple([z.number(), z.number()]),
          redemptionDays: z.tuple([z.number(), z.number()]),
          pendingDeleteDays: z.tuple([z.number(), z.number()]),
          dropHours: z.tuple([z.number(), z.number()]),
          isExpiryMoved: z.boolean(),
          reference: z.string(),
          dropWeekdays: z.array(z.number()).optional(),
          basis: z.enum(['documented', 'recalled', 'assumed']).optional(),
          marginDays: z.number().optional(),
        }),
      ),
      timeZone: z.string(),
      reminderMinutes: z.number(),
      currency: z.string(),
      rates: z.record(z.string(), z.number()),
      searchEngine: z.string(),
      digestMinute: z.number().nullable(),
      digestEvents: z.boolean(),
      digestFrom: z.string(),
      digestTo: z.string(),
      smtpUrl: z.string(),
      countRule: z.string(),
      countFactor: z.number(),
      measureBudget: z.number(),
      measureGate: z.object({
        leastReferring: z.number(),
        mostSpamRisk: z.number(),
      }),
      markRegister: z.string(),
      isDryRun: z.boolean(),
      desks: z.array(
        z.object({
          venue: z.string(),
          address: z.string(),
          key: z.string(),
          currency: z.string(),
        }),
      ),
      registrarDesk: z.string(),
      dayLimitMinor: z.number().nullable(),
      registrationPrices: z.record(z.string(), z.number()),
      chances: z.object({
        buyNow: z.number(),
        falling: z.number(),
        free: z.number(),
        backorder: z.number(),
      }),
      rangeFactor: z.number(),
      archiveTimeMap: z.string(),
    }),
  },
  'GET /events': {
    media: ['text/event-stream'],
    summary: 'Progress of jobs and changes of the pool, as server-sent events',
  },
  'POST /clock': {
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
    summary: 'Copy the data folder while the product runs',
    status: 202,
    answer: z.object({
      job: JobViewSchema,
    }),
  },
  'POST /backups/{name}/restore': {
    summary: 'Put a copy in place of what is there now, which is kept as a copy itself',
    answer: z.object({
      restored: z.string(),
      kept: z.string(),
    }),
  },
} satisfies Calls;
