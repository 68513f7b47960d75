import { z } from 'zod';
import type { LinkNetwork } from './effective';

export const LinkNetworkSchema = z.object({
  sites: z.array(z.string()),
  signs: z.array(z.string()),
}) satisfies z.ZodType<LinkNetwork>;
