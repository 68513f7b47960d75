import { z } from 'zod';
import { DEADLINE_KINDS, DEADLINE_SCOPES, type Deadline } from '../core/deadlines/deadline';
import { NEWS_KINDS, NewsSchema } from '../core/news/news';
import type { Calls } from './call';
import { choiceOf, choicesOf, FEED_KEY } from './query';

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
      scope: choiceOf('Watched by hand or shortlisted; with near misses; or the whole pool', DEADLINE_SCOPES),
      kinds: choicesOf('Kinds of deadlines', DEADLINE_KINDS),
      hours: z.coerce.number().positive().default(1440).describe('How far ahead'),
    },
    answer: z.object({
      timeZone: z.string(),
      total: z.number(),
      deadlines: z.array(DeadlineSchema),
    }),
  },
  'GET /news': {
    summary: 'What happened since a moment: new names in sieves, changes, orders, deadlines that came near',
    query: {
      since: z.coerce.number().describe('ms since 1970 UTC; what happened after it'),
      kinds: choicesOf('Kinds of news', NEWS_KINDS),
    },
    answer: z.object({ now: z.number(), news: z.array(NewsSchema) }),
  },
  'GET /deadlines/calendar': {
    media: ['text/calendar'],
    access: 'feed',
    query: { key: FEED_KEY },
    summary: 'Deadlines of what is watched or shortlisted as an iCalendar feed (RFC 5545)',
  },
} satisfies Calls;
