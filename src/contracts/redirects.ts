import { z } from 'zod';
import type { CarriedOutcome } from '../core/redirects/access-log';
import type { Candidate, OldAddress, Proposal } from '../core/redirects/match';
import type { RedirectPattern, RedirectRule, RuleProblem } from '../core/redirects/rules';
import type { Calls } from './call';
import { OwnSourceSchema, RuleChangeSchema, TargetLinkSchema } from './portfolio';
import { choiceOf, textOf } from './query';

const MoveTo = z
  .string()
  .max(2000)
  .refine((text) => /^https?:\/\/[^\s"]+$/.test(text) && URL.canParse(text), 'an http address without spaces');

export const RuleChangesSchema = z.object({
  rules: z
    .array(
      z.object({
        from: z
          .string()
          .regex(/^\/[^\s"\\]*$/, 'a path begins with a slash')
          .max(2000),
        to: MoveTo.nullable().optional(),
      }),
    )
    .max(5000),
});

export const CarriedOutcomeSchema = z.object({
  came: z.number(),
  moved: z.number(),
  relevant: z.number(),
  missed: z.array(
    z.object({
      path: z.string(),
      requests: z.number(),
    }),
  ),
}) satisfies z.ZodType<CarriedOutcome>;

export const OldAddressSchema = z.object({
  path: z.string(),
  anchors: z.array(z.string()).readonly(),
  title: z.string().nullable(),
  subject: z.string().nullable().optional(),
  weight: z.number(),
  domains: z.number(),
}) satisfies z.ZodType<OldAddress>;

export const CandidateSchema = z.object({
  url: z.string(),
  confidence: z.number(),
  reasons: z.array(
    z.object({
      word: z.string(),
      where: z.enum(['subject', 'address', 'anchors', 'title']),
    }),
  ),
}) satisfies z.ZodType<Candidate>;

export const ProposalSchema = z.object({
  old: OldAddressSchema,
  candidates: z.array(CandidateSchema),
}) satisfies z.ZodType<Proposal>;

export const RedirectRuleSchema = z
  .object({
    from: z.string(),
    to: z.string().nullable(),
  })
  .meta({ id: 'RedirectRule' }) satisfies z.ZodType<RedirectRule>;

export const RedirectPatternSchema = z.object({
  fromPrefix: z.string(),
  toPrefix: z.string(),
  paths: z.array(z.string()),
}) satisfies z.ZodType<RedirectPattern>;

export const RuleProblemSchema = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('loop'),
    from: z.string(),
    by: z.array(z.string()),
  }),
  z.object({
    kind: z.literal('chain'),
    from: z.string(),
    to: z.string(),
  }),
  z.object({
    kind: z.literal('collision'),
    from: z.string(),
    to: z.array(z.string().nullable()),
  }),
  z.object({
    kind: z.literal('no address'),
    from: z.string(),
  }),
]) satisfies z.ZodType<RuleProblem>;

/** Files that decided rules are taken along as. */
export const REDIRECT_FILES = ['csv', 'nginx', 'apache-map', 'apache-queries', 'apache-host'] as const;

export const redirectsCalls = {
  'POST /domains/{name}/redirects/log': {
    status: 201,
    summary: 'Take the access log of the server that sends old addresses on',
    query: { name: textOf('Of the file; one of the same name is replaced', 'access.log', 200) },
    answer: z.object({
      lines: z.number(),
      setAside: z.number(),
      robots: z.number(),
      moved: z.number(),
      gone: z.number(),
    }),
  },
  'GET /domains/{name}/redirects': {
    summary: 'Where old addresses could move, what is decided, and what that carries',
    answer: z.object({
      proposals: z.array(ProposalSchema),
      rules: z.array(RedirectRuleSchema),
      patterns: z.array(RedirectPatternSchema),
      problems: z.array(RuleProblemSchema),
      carried: z.object({
        all: z.number(),
        moved: z.number(),
        relevant: z.number(),
      }),
      sources: z.array(OwnSourceSchema),
      mentions: z.array(
        TargetLinkSchema.omit({ nofollow: true, sourceId: true }).extend({
          isListed: z.boolean(),
          target: z.string(),
          readers: z.number().nullable(),
        }),
      ),
    }),
  },
  'PATCH /domains/{name}/redirects': {
    summary: 'Decide where old addresses move',
    body: RuleChangesSchema,
    answer: z.object({
      before: z.array(RuleChangeSchema),
      problems: z.array(RuleProblemSchema),
    }),
  },
  'GET /domains/{name}/redirects/file': {
    media: ['text/csv', 'text/plain'],
    summary: 'Decided rules as a file',
    query: { format: choiceOf('Which file', REDIRECT_FILES) },
  },
} satisfies Calls;
