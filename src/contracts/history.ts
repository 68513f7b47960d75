import { z } from 'zod';
import { CAPTURE_KINDS } from '../core/history/capture';
export const CaptureMarkSchema = z.object({
  kind: z.enum(CAPTURE_KINDS),
  language: z.string().nullable(),
  terms: z.object({}),
  redirectTo: z.string().nullable(),
  title: z.string().optional(),
  subject: z.string().nullable().optional(),
});

export const ReadCaptureSchema = CaptureMarkSchema.extend({
  at: z.number(),
  title: z.string(),
  subject: z.string().nullable(),
  isPassedOn: z.boolean().optional(),
});
