import { z } from 'zod';
import { type IdeaPattern, JOINTS, type Slot } from './pattern';

const SlotSchema = z.object({
  title: z.string(),
  words: z.array(z.string()),
  isOptional: z.boolean(),
}) satisfies z.ZodType<Slot>;

/** A pattern as it is kept and shown: what a run was made of, whatever may be asked for today. */
export const StoredIdeaPatternSchema = z.object({
  slots: z.array(SlotSchema),
  isAnyOrder: z.boolean(),
  withTwins: z.boolean(),
  joints: z.array(z.enum(JOINTS)),
  endings: z.array(z.string()),
  mostLetters: z.number(),
}) satisfies z.ZodType<IdeaPattern>;
