import { z } from 'zod';

const MoveTo = z
  .string()
  .max(2000)
  .refine((text) => /^https?:\/\/[^\s"]+$/.test(text) && URL.canParse(text), 'an http address without spaces');

export const RuleChangesSchema = z.object({
  rules: z
    .array(
      z.object({
        from: z
          .string()
          .regex(/^\/[^\s"\\]*$/, 'a path begins with a slash')
          .max(2000),
        to: MoveTo.nullable().optional(),
      }),
    )
    .max(5000),
});
