import { z } from 'zod';
import { expectedDrop } from '../lifecycle/drop-window';
import { judgePhase, PHASES, type RegistrationRecord, type Verdict } from '../lifecycle/phase';
import { policyFor } from '../lifecycle/policies';
import { readRdap } from '../lifecycle/rdap-answer';
import { readWhois } from '../lifecycle/whois-text';
import { displayName } from '../names/domain';
import { standsAsWord } from '../names/keyword';
import { Domain, iso, type JudgeTools, type Kind, kind, Text, Time } from './fields';
import { list } from './lists';
import { past } from './pasts';
import { referrers, spam } from './profiles';
import { nameSubject, subject } from './subjects';

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
    return { isWord: standsAsWord(known.read(label).split.words, wanted) };
  },
);

/** Kinds by the word that stands behind `npm run -s judge --`. */
export const KINDS: Record<string, Kind<never>> = {
  whois,
  rdap,
  drop,
  words,
  keyword,
  subject,
  'name-subject': nameSubject,
  past,
  referrers,
  spam,
  list,
};

/** The answer to one line of a kind: what is judged of it, or what is wrong with it. Of files it is a promise, which a file that is none breaks. */
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
