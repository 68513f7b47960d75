import { z } from 'zod';
import { CAPTURE_KINDS } from './capture';
import type { EraWord } from './era-words';
import { LIFE_LANES, type Life, type LifeSpan } from './life';
import type { PageBlock } from './outline';
import type { Drop, Era, Past } from './past';

export const LifeSpanSchema = z.object({
  lane: z.enum(LIFE_LANES),
  look: z.enum([
    'language',
    'drop',
    'closed',
    'solid',
    'light',
    'ticks',
    'hollow',
    'broken',
    'unread',
    'line',
    'dashed',
    'point',
  ]),
  from: z.number(),
  to: z.number(),
  label: z.string(),
  detail: z.string(),
}) satisfies z.ZodType<LifeSpan>;

export const LifeSchema = z.object({
  from: z.number(),
  to: z.number(),
  spans: z.array(LifeSpanSchema),
}) satisfies z.ZodType<Life>;

export const EraWordSchema = z.object({
  word: z.string(),
  times: z.number(),
}) satisfies z.ZodType<EraWord>;

export const EraSchema = z.object({
  from: z.number(),
  to: z.number(),
  captures: z.number(),
  read: z.number(),
  subject: z.string().nullable(),
  language: z.string().nullable(),
  kind: z.enum(CAPTURE_KINDS),
  title: z.string(),
  redirectTo: z.string().nullable(),
}) satisfies z.ZodType<Era>;

export const DropSchema = z.object({
  from: z.number(),
  to: z.number(),
  why: z.string(),
}) satisfies z.ZodType<Drop>;

export const PastSchema = z
  .object({
    eras: z.array(EraSchema),
    gaps: z.array(
      z.object({
        from: z.number(),
        to: z.number(),
      }),
    ),
    contentYears: z.number(),
    drops: z.array(DropSchema),
    drift: z.number().nullable(),
    languageSwitches: z.number(),
    subjectSwitches: z.number(),
    language: z.string().nullable(),
    subject: z.string().nullable(),
  })
  .meta({ id: 'Past' }) satisfies z.ZodType<Past>;

export const PageBlockSchema = z.object({
  kind: z.enum(['text', 'item', 'link', 'heading', 'cell', 'image', 'form', 'frame']),
  level: z.number(),
  text: z.string(),
}) satisfies z.ZodType<PageBlock>;
