import { z } from 'zod';
import { PROSPECT_STATES } from '../core/prospecting/prospects';

const ProspectKey = { target: z.string().min(1).max(4000) };
const Address = z.url({ protocol: /^https?$/ }).max(4000);

export const ProspectsSchema = z.object({
  ...ProspectKey,
  domain: z.string().max(253),
  /** Which of the pages that link to it; left out: all. */
  pages: z.array(z.string().max(4000)).max(2000).optional(),
  standIn: Address.nullable().optional(),
});

const ProspectFields = {
  state: z.enum(PROSPECT_STATES),
  contact: z.string().trim().max(500).nullable(),
  note: z.string().max(2000),
};

const Moment = z.number().int().nullable();

export const ProspectChangeSchema = z.object({
  ...ProspectKey,
  page: z.string().max(4000).optional(),
  ...z.object(ProspectFields).partial().shape,
  standIn: Address.nullable().optional(),
  isDropped: z.boolean().optional(),
  /** The row as it was, to take a change back. */
  before: z.object({ ...ProspectFields, writtenAt: Moment, answeredAt: Moment }).optional(),
});

export const ProspectLookSchema = z.object({ ...ProspectKey, page: Address });
