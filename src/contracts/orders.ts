import { z } from 'zod';
import { ORDER_KINDS } from '../core/orders/order';
import { MostMinor } from './parts';

export const OrderSchema = z.object({
  name: z.string().max(253),
  briefId: z.number().int(),
  venue: z.string().min(1).max(120),
  kind: z.enum(ORDER_KINDS),
  /** The most that is paid, in minor units of the venue's currency. */
  amountMinor: MostMinor,
  /** Of a venue that cannot be reached; else the venue says it. */
  currency: z
    .string()
    .regex(/^[A-Z]{3}$/)
    .optional(),
  /** Not to be sent before, ms since 1970 UTC. */
  sendAt: z.number().nullable().optional(),
  /** Chosen by the sender, for instance a UUID: an order that comes again under it is the same order. */
  clientKey: z.string().min(8).max(100).optional(),
});

export const OutcomeSchema = z.object({
  outcome: z.enum(['won', 'lost', 'withdrawn']),
  /** What it went for, where that is known, in minor units of the order's currency. */
  priceMinor: z.number().int().min(0).max(1e12).nullable().default(null),
});
