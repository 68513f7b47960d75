import { z } from 'zod';
import type { Confirmed, KnownVerdict } from '../core/lifecycle/confirmed';
import type { FunnelCell } from '../core/lifecycle/funnel';
import type { RegistrationRecord } from '../core/lifecycle/phase';
import { PHASES } from '../core/lifecycle/phases';
import type { LifePolicy } from '../core/lifecycle/policies';

export const FunnelCellSchema = z.object({
  waits: z.enum(['record', 'registrar', 'dns']).nullable(),
  by: z.enum(['registrar', 'none', 'known', 'source', 'dns', 'whois', 'rdap', 'queue', 'unasked']),
  phase: z.enum(PHASES),
  count: z.number(),
}) satisfies z.ZodType<FunnelCell>;

export const RegistrationRecordSchema = z.object({
  statuses: z.array(z.string()),
  registeredAt: z.number().nullable(),
  expiresAt: z.number().nullable(),
  changedAt: z.number().nullable(),
  deletesAt: z.number().nullable().optional(),
  freeAt: z.number().nullable().optional(),
  registrar: z.string().nullable(),
  registrant: z.string().optional(),
  nameServers: z.array(z.string()),
}) satisfies z.ZodType<RegistrationRecord>;

export const LifePolicySchema = z
  .object({
    ending: z.string(),
    autoRenewDays: z.tuple([z.number(), z.number()]),
    redemptionDays: z.tuple([z.number(), z.number()]),
    pendingDeleteDays: z.tuple([z.number(), z.number()]),
    dropHours: z.tuple([z.number(), z.number()]),
    dropWeekdays: z.array(z.number()).optional(),
    isExpiryMoved: z.boolean(),
    basis: z.enum(['documented', 'recalled', 'assumed']).optional(),
    marginDays: z.number().optional(),
    reference: z.string(),
  })
  .meta({ id: 'LifePolicy' }) satisfies z.ZodType<LifePolicy>;

export const KnownVerdictSchema = z.object({
  phase: z.string(),
  at: z.number().nullable(),
  reason: z.string().nullable(),
  source: z.string().nullable(),
  contradictions: z.array(z.string()),
}) satisfies z.ZodType<KnownVerdict>;

export const ConfirmedSchema = z.object({
  before: KnownVerdictSchema,
  after: KnownVerdictSchema,
  isChanged: z.boolean(),
  events: z.array(
    z.object({
      id: z.number(),
      kind: z.string(),
      words: z.string(),
    }),
  ),
  isLate: z.boolean(),
}) satisfies z.ZodType<Confirmed>;
