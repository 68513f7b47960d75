import { z } from 'zod';
import { expectedDrop } from '../lifecycle/drop-window';
import { judgePhase, PHASES, type RegistrationRecord, type Verdict } from '../lifecycle/phase';
import { policyFor } from '../lifecycle/policies';
import { readRdap } from '../lifecycle/rdap-answer';
import { readRegistryDate } from '../lifecycle/registry-date';
import { asciiName } from '../lifecycle/sentences';
import { readWhois } from '../lifecycle/whois-text';
import { displayName, registrableDomain } from '../names/domain';
import { standsAsWord } from '../names/keyword';
import type { NameWords } from '../names/name-words';

/** What kinds need beside their line: tables that are read when they are first asked for. */
export interface JudgeTools {
  /** Words of English and languages asked for, ISO 639-1; of others where they suit a name much better. */
  nameWords(languages: readonly string[]): NameWords;
}

/** A kind of question that the judge command answers: how a line is read, and what comes of it. `clock` counts where no time is given. */
interface Kind<Input> {
  input: z.ZodType<Input>;
  judge(input: Input, clock: number, tools: JudgeTools): object;
}

const Domain = z.string().transform((text, context) => {
  const name = asciiName(text.trim());
  const found = registrableDomain(name);
  if (found) return found;
  // an ending that the list does not know yet
  if (/^[a-z0-9-]+(\.[a-z0-9-]+)+$/.test(name)) return { name, ending: name.slice(name.indexOf('.') + 1) };
  context.addIssue({ code: 'custom', message: `"${text.slice(0, 80)}" is no registrable domain` });
  return z.NEVER;
});
/** ISO 8601, UTC where no zone is given; null and missing mean that it is not known. */
const Time = z
  .string()
  .nullish()
  .transform((text, context) => {
    if (text === null || text === undefined || text === '') return null;
    const at = readRegistryDate(text, false);
    if (at !== null) return at;
    context.addIssue({ code: 'custom', message: `"${text.slice(0, 40)}" is no time of ISO 8601` });
    return z.NEVER;
  });
const Text = z.string().nullish();

const whois = kind(z.object({ domain: Domain, text: Text, now: Time }), ({ domain, text, now }, clock) => {
  const { outcome, record, words } = readWhois(text ?? '', domain.name);
  const at = now ?? clock;
  return verdictOf(judgePhase({ record: { outcome, record, words } }, at), record);
});

const rdap = kind(
  z.object({
    domain: Domain,
    status: z.coerce.number().nullish(),
    contentType: Text,
    body: Text,
    serverKnown: z.boolean().nullish(),
    now: Time,
  }),
  ({ domain, status, contentType, body, serverKnown, now }, clock) => {
    const received = { contentType: contentType ?? null, body: body ?? '', serverKnown: serverKnown ?? true };
    const { outcome, record, words } = readRdap({ status: status ?? 0, ...received }, domain.name);
    const at = now ?? clock;
    return verdictOf(judgePhase({ record: { outcome, record, words } }, at), record);
  },
);

const drop = kind(
  z.object({
    domain: Domain,
    phase: z.enum(PHASES).nullish(),
    expiresAt: Time,
    changedAt: Time,
    lastSeenBefore: Time,
    firstSeenIn: Time,
    now: Time,
  }),
  ({ domain, phase, expiresAt, changedAt, lastSeenBefore, firstSeenIn, now }, clock) => {
    const policy = policyFor(domain.ending);
    const record = { expiresAt, changedAt, registrar: null };
    const seen = { phase: phase ?? 'unknown', record, lastSeenBefore, firstSeenIn };
    const window = expectedDrop(seen, policy, null, now ?? clock);
    return {
      dropFrom: iso(window?.from ?? null),
      dropTo: iso(window?.to ?? null),
      policy: policy.ending,
      reasons: window?.reasons ?? [
        `a name that is ${phase ?? 'unknown'}, or of which no date is known, has no expected drop`,
      ],
    };
  },
);

const Label = z.string().transform((text, context) => {
  const label = displayName(text.trim().toLowerCase());
  if (/^[\p{L}\p{M}\p{N}-]{1,63}$/u.test(label)) return label;
  context.addIssue({ code: 'custom', message: `"${text.slice(0, 80)}" is no label of a domain` });
  return z.NEVER;
});
const Languages = z
  .array(z.string())
  .nullish()
  .transform((languages) => languages ?? []);

const words = kind(z.object({ label: Label, languages: Languages }), ({ label, languages }, _clock, tools) => {
  const { split } = tools.nameWords(languages).read(label);
  return { words: split.words, confidence: split.confidence, runnerUp: split.runnerUp };
});

const keyword = kind(
  z.object({ label: Label, keyword: z.string().min(1), languages: Languages }),
  ({ label, keyword: wanted, languages }, _clock, tools) => {
    const known = tools.nameWords(languages);
    return { isWord: standsAsWord(known.read(label).split.words, wanted, known) };
  },
);

/** Kinds by the word that stands behind `npm run -s judge --`. */
export const KINDS: Record<string, Kind<never>> = { whois, rdap, drop, words, keyword };

function kind<Input>(
  input: z.ZodType<Input>,
  judge: (input: Input, clock: number, tools: JudgeTools) => object,
): Kind<never> {
  return { input, judge } as unknown as Kind<never>;
}

/** The answer to one line of a kind: what is judged of it, or what is wrong with it. */
export function judgeLine(
  { input, judge }: Kind<never>,
  text: string,
  line: number,
  clock: number,
  tools: JudgeTools,
): object {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch (error) {
    return { error: `no JSON: ${(error as Error).message}`, line };
  }
  const parsed = input.safeParse(value);
  if (parsed.success) return judge(parsed.data, clock, tools);
  const [issue] = parsed.error.issues;
  return { error: `${issue.path.join('.') || 'the line'}: ${issue.message}`, line };
}

function verdictOf({ phase, confidence, reason }: Verdict, record: RegistrationRecord | null): object {
  return {
    phase,
    confidence,
    reason,
    registeredAt: iso(record?.registeredAt ?? null),
    expiresAt: iso(record?.expiresAt ?? null),
    registrar: record?.registrar ?? null,
  };
}

function iso(at: number | null): string | null {
  return at === null ? null : new Date(at).toISOString();
}
