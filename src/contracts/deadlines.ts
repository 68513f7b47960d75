import { z } from 'zod';
import { DEADLINE_KINDS, type Deadline } from '../core/deadlines/deadline';
import type { Calls } from './call';

export const DeadlineSchema = z
  .object({
    uid: z.string(),
    kind: z.enum(DEADLINE_KINDS),
    at: z.number(),
    until: z.number().nullable(),
    domainId: z.number(),
    name: z.string(),
    words: z.string(),
    origin: z.string(),
  })
  .meta({ id: 'Deadline' }) satisfies z.ZodType<Deadline>;

export const deadlinesCalls = {
  'GET /deadlines': {
    summary: 'Deadlines in order of time',
    query: {
      scope: 'mine (watched by hand or shortlisted), near (with near misses) or all',
      kinds: 'closing, price-step, answer, drop, expiry, renewal, re-check, by commas',
      hours: 'How far ahead',
    },
    answer: z.object({
      timeZone: z.string(),
      total: z.number(),
      deadlines: z.array(DeadlineSchema),
    }),
  },
  'GET /deadlines/calendar': {
    media: ['text/calendar'],
    summary: 'Deadlines of what is watched or shortlisted as an iCalendar feed (RFC 5545)',
  },
} satisfies Calls;
