import { z } from 'zod';
import { ACCOUNTS, type LedgerLine } from '../core/orders/ledger';
import { ORDER_KINDS, ORDER_STATES, REFUSED_FOR } from '../core/orders/order';
import { MaximumSchema, WaySchema } from './bids';
import type { Calls } from './call';
import { MostMinor } from './parts';
import { idOf, textOf } from './query';

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

export const LedgerLineSchema = z.object({
  account: z.enum(ACCOUNTS),
  amountMinor: z.number(),
}) satisfies z.ZodType<LedgerLine>;

export const LedgerRowSchema = LedgerLineSchema.extend({
  id: z.number(),
  posting: z.number(),
  at: z.number(),
  orderId: z.number().nullable(),
  words: z.string(),
});
export type LedgerRow = z.infer<typeof LedgerRowSchema>;

export const OrderLineSchema = z.object({
  id: z.number(),
  orderId: z.number(),
  at: z.number(),
  who: z.string(),
  state: z.enum(ORDER_STATES),
  words: z.string(),
  name: z.string(),
  venue: z.string(),
});
export type OrderLine = z.infer<typeof OrderLineSchema>;

/** An order as it is kept. Amounts in minor units of `currency`, fees of the brief's; times in ms since 1970 UTC. */
export const StoredOrderSchema = z
  .object({
    id: z.number(),
    /** Goes out with it: a venue takes it once. */
    key: z.string(),
    briefId: z.number(),
    domainId: z.number(),
    name: z.string(),
    venue: z.string(),
    url: z.string().nullable(),
    kind: z.enum(ORDER_KINDS),
    state: z.enum(ORDER_STATES),
    amountMinor: z.number(),
    currency: z.string(),
    /** Millionths of the brief's currency that one unit is worth, as when it was given. */
    ratePpm: z.number(),
    feesMinor: z.number(),
    priceMinor: z.number().nullable(),
    leastMinor: z.number().nullable(),
    counterMinor: z.number().nullable(),
    finalMinor: z.number().nullable(),
    bids: z.number().nullable(),
    reserve: z.string().nullable(),
    closesAt: z.number().nullable(),
    /** What the venue calls it by; null: it has not said. */
    venueNumber: z.string().nullable(),
    reason: z.string().nullable(),
    refusedFor: z.enum(REFUSED_FOR).nullable(),
    /** Not to be sent before; null: at once. */
    sendAt: z.number().nullable(),
    attempts: z.number(),
    nextAt: z.number().nullable(),
    createdAt: z.number(),
    sentAt: z.number().nullable(),
    answeredAt: z.number().nullable(),
    endedAt: z.number().nullable(),
  })
  .meta({ id: 'Order' });
export type StoredOrder = z.infer<typeof StoredOrderSchema>;

/** An order as screens show it: with its brief, and with what the name is worth to it, in the venue's currency. */
export const OrderViewSchema = StoredOrderSchema.extend({
  briefName: z.string(),
  briefCurrency: z.string(),
  worthLowMinor: z.number().nullable(),
  worthHighMinor: z.number().nullable(),
  /** What it costs in the brief's currency if it is won at its maximum, fees and all. */
  mostMinor: z.number(),
}).meta({ id: 'OrderShown' });
export type OrderView = z.infer<typeof OrderViewSchema>;

/** One way to have a domain, on the terms of this moment. */
export const WayToHaveSchema = WaySchema.extend({
  /** Whether the venue can be reached; else it is done by hand. */
  hasAccount: z.boolean(),
  /** The same, as it was called once. */
  hasDesk: z.boolean(),
  /** Whether an order there is only written down, whatever else is sent. */
  isDry: z.boolean(),
  /** From the account itself, just now; else as the listing was read, then. */
  isLive: z.boolean(),
  /** Millionths of the brief's currency that one unit is worth; null: no rate is set. */
  ratePpm: z.number().nullable(),
}).meta({ id: 'WayToHave' });
export type WayToHave = z.infer<typeof WayToHaveSchema>;

export const OrderTermsSchema = z.object({
  id: z.number(),
  name: z.string(),
  brief: z.object({
    id: z.number(),
    name: z.string(),
    currency: z.string(),
    feesMinor: z.number(),
  }),
  ways: z.array(WayToHaveSchema),
  orders: z.array(StoredOrderSchema),
  isOwned: z.boolean(),
  isDryRun: z.boolean(),
  limits: z.object({
    briefMinor: z.number().nullable(),
    dayMinor: z.number().nullable(),
  }),
  homeCurrency: z.string(),
  phase: z.string(),
  phaseAt: z.number().nullable(),
});
export type OrderTerms = z.infer<typeof OrderTermsSchema>;

export const ordersCalls = {
  'GET /orders': {
    summary: 'Orders that are open, those that ended last, and the log of every act',
    query: { brief: idOf('Number of the brief; else all') },
    answer: z.object({
      log: z.array(OrderLineSchema),
      open: z.array(OrderViewSchema),
      ended: z.array(OrderViewSchema),
    }),
  },
  'POST /orders': {
    needs: 'act',
    summary: 'Give an order: a bid, a purchase, an offer, a backorder or a registration; sent once',
    body: OrderSchema,
    status: 201,
    answer: z.object({
      order: OrderViewSchema,
    }),
  },
  'GET /orders/terms': {
    summary: 'All ways to have a domain, on the terms of this moment',
    query: { name: textOf('The domain', '', 300), brief: idOf('Number of the brief; else the current one') },
    answer: OrderTermsSchema.extend({
      warnings: z.array(z.string()),
      maximumBidMinor: z.number().nullable(),
      maximum: MaximumSchema.nullable(),
      mostMinor: z.number().nullable(),
    }),
  },
  'GET /orders/{id}': {
    summary: 'One order with its log',
    answer: z.object({
      order: OrderViewSchema,
      log: z.array(OrderLineSchema),
    }),
  },
  'POST /orders/{id}/withdraw': {
    needs: 'act',
    summary: 'Take an order back, where it is not binding',
    answer: z.object({
      order: StoredOrderSchema.nullable(),
    }),
  },
  'POST /orders/{id}/look': {
    needs: 'act',
    summary: 'Ask the venue at once where an order stands',
    answer: z.object({
      order: StoredOrderSchema,
    }),
  },
  'POST /orders/{id}/outcome': {
    needs: 'act',
    summary: 'What came of an order that was done by hand',
    body: OutcomeSchema,
    answer: z.object({
      order: StoredOrderSchema,
    }),
  },
  'GET /ledger': {
    summary: 'Accounts of a brief in double entry, and what its limits leave',
    query: { brief: idOf('Number of the brief; else the current one') },
    answer: z.object({
      balances: z.record(z.enum(ACCOUNTS), z.number()),
      left: z.object({
        briefMinor: z.number().nullable(),
        dayMinor: z.number().nullable(),
      }),
      lines: z.array(LedgerRowSchema),
    }),
  },
} satisfies Calls;
