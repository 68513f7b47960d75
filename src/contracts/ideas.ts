import { z } from 'zod';
import { JOINTS } from '../core/ideas/pattern';
import { Endings } from './parts';

const IdeaWord = z.string().regex(/^[a-z0-9]{1,40}$/, 'a word of a name has letters a to z and digits');

const IdeaPatternSchema = z.object({
  slots: z
    .array(
      z.object({
        title: z.string().max(60),
        words: z.array(IdeaWord).max(20_000),
        isOptional: z.boolean().default(false),
      }),
    )
    .min(1, 'a pattern has at least one slot')
    .max(6),
  isAnyOrder: z.boolean().default(false),
  withTwins: z.boolean().default(false),
  joints: z.array(z.enum(JOINTS)).min(1, 'say how words are put together').default(['joined']),
  endings: Endings.refine((endings) => endings.length > 0, 'name at least one ending'),
  mostLetters: z.number().int().min(2).max(63).default(20),
});

export const IdeasSchema = z.object({ briefId: z.number().int(), pattern: IdeaPatternSchema });
