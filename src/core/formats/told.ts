import { z } from 'zod';
import { DATE_ORDERS } from './dates';

/** How the values of a column are written, as its title and all of them together tell. */
export const ToldSchema = z.object({
  title: z.string(),
  order: z.enum(DATE_ORDERS).nullable(),
  /** What parts fractions. */
  mark: z.enum(['.', ',']).nullable(),
  /** Of prices that name none. */
  currency: z.string().nullable(),
  /** Minutes east of UTC of times that name no zone; null: UTC. */
  zone: z.number().nullable(),
  /** Times are what is left. */
  isLeft: z.boolean(),
  /** What a bare number of them stands for, ms; null: nothing. */
  unitMs: z.number().nullable(),
  /** Of a score: the highest there can be. */
  scale: z.number().nullable(),
});
export type Told = z.infer<typeof ToldSchema>;

export const UNTOLD: Told = {
  title: '',
  order: null,
  mark: null,
  currency: null,
  zone: null,
  isLeft: false,
  unitMs: null,
  scale: null,
};
