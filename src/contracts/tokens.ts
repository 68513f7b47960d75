import { z } from 'zod';
import { TOKEN_SCOPES } from '../core/settings/token-scopes';
import type { Calls } from './call';

const TokenSchema = z.object({
  id: z.number(),
  name: z.string(),
  scope: z.enum(TOKEN_SCOPES),
  /** ms since 1970 UTC. */
  madeAt: z.number(),
  usedAt: z.number().nullable(),
});

export const tokensCalls = {
  'GET /tokens': {
    summary: 'Tokens of scripts that hold',
    needs: 'owner',
    answer: z.object({ tokens: z.array(TokenSchema) }),
  },
  'POST /tokens': {
    summary: 'Make a token for a script; it is told this once',
    needs: 'owner',
    body: z.object({
      name: z.string().trim().min(1, 'Say which script it is for.').max(100),
      scope: z.enum(TOKEN_SCOPES),
    }),
    status: 201,
    answer: TokenSchema.extend({ token: z.string() }),
  },
  'DELETE /tokens/{id}': {
    summary: 'Take a token back, for good',
    needs: 'owner',
    answer: TokenSchema,
  },
} satisfies Calls;
