import { z } from 'zod';
import type { Bin, Calibration, RangeRecord } from '../core/learning/calibration';
import type { WindowRecord } from '../core/learning/windows';
import { Settings } from '../core/settings/settings';
import { BriefSchema } from './briefs';
import type { Calls } from './call';
import { changeOf } from './parts';
import { CarriedOutcomeSchema } from './redirects';

export const BinSchema = z.object({
  from: z.number(),
  to: z.number(),
  count: z.number(),
  foretold: z.number(),
  came: z.number(),
}) satisfies z.ZodType<Bin>;

export const CalibrationSchema = z
  .object({
    count: z.number(),
    bins: z.array(BinSchema),
    brier: z.number(),
    baseBrier: z.number(),
  })
  .meta({ id: 'Calibration' }) satisfies z.ZodType<Calibration>;

export const RangeRecordSchema = z.object({
  count: z.number(),
  below: z.number(),
  within: z.number(),
  above: z.number(),
  factor: z.number().nullable(),
}) satisfies z.ZodType<RangeRecord>;

export const WindowRecordSchema = z.object({
  key: z.string(),
  count: z.number(),
  inside: z.number(),
  early: z.number(),
  late: z.number(),
  renewed: z.number(),
  widthMs: z.number(),
}) satisfies z.ZodType<WindowRecord>;

const SuggestionBase = z.object({
  key: z.string(),
  words: z.string(),
  /** What it rests on. */
  evidence: z.string(),
  /** What it would have changed, had it been so before. */
  effect: z.string(),
  now: z.string(),
  suggested: z.string(),
});

const SettingsChange = changeOf(Settings).pick({ chances: true, rangeFactor: true });
const BriefChange = changeOf(BriefSchema).pick({ limits: true, weights: true });

/** A setting that outcomes speak for changing, with what speaks for it, what changes it, and what takes that back. */
export const SuggestionSchema = z.discriminatedUnion('of', [
  SuggestionBase.extend({ of: z.literal('settings'), change: SettingsChange, back: SettingsChange }),
  SuggestionBase.extend({ of: z.literal('brief'), brief: z.number(), change: BriefChange, back: BriefChange }),
]);
export type Suggestion = z.infer<typeof SuggestionSchema>;

export const learningCalls = {
  'GET /learning': {
    summary: 'Outcomes held against what was estimated, and what follows for the settings',
    answer: z.object({
      wins: CalibrationSchema,
      winsByVenue: z.array(
        z.object({
          key: z.string(),
          calibration: CalibrationSchema,
        }),
      ),
      winsByPurpose: z.array(
        z.object({
          key: z.string(),
          calibration: CalibrationSchema,
        }),
      ),
      worth: RangeRecordSchema,
      worthByPurpose: z.array(
        z.object({
          key: z.string(),
          record: RangeRecordSchema,
        }),
      ),
      spam: CalibrationSchema,
      windows: z.array(WindowRecordSchema),
      windowsAll: WindowRecordSchema,
      redirects: z.array(
        z.object({
          name: z.string(),
          planned: z
            .object({
              moved: z.number(),
              relevant: z.number(),
            })
            .nullable(),
          came: CarriedOutcomeSchema.nullable(),
          from: z.number().nullable(),
          to: z.number().nullable(),
        }),
      ),
      suggestions: z.array(SuggestionSchema),
    }),
  },
} satisfies Calls;
