import type { z } from 'zod';
import type { Issue } from '../core/refusal';

/** What a schema found wrong, field by field. */
export const issuesOf = (error: z.ZodError): Issue[] =>
  error.issues.map(({ path, message }) => ({ at: path.join('.'), message }));
