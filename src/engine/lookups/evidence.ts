import type { DnsOutcome, Evidence } from '../../core/lifecycle/phase';
import type { RecordAnswer } from '../../net/rdap';
import type { RegistrarAnswer } from '../../net/registrar';
import type { CheckEntry } from '../../store/lifecycle/verdicts';

export const proofWords = (name: string) => `its server knows ${name}, which exists`;

/** What of an answer is kept as evidence, whoever gave it. */
export function entryOf(answer: { server: string; outcome: string; detail: string; elapsedMs: number }) {
  const { server, outcome, detail, elapsedMs } = answer;
  return { server, outcome, detail, elapsedMs };
}

/** What all who were asked said, as a verdict is made of it. */
export function evidenceOf(
  said: CheckEntry[],
  answer: RecordAnswer | null,
  registrar: RegistrarAnswer | null,
  proof: { name: string; at: number } | null,
): Evidence {
  const evidence: Evidence = {};
  for (const { step, outcome, words, proof: shown } of said)
    if (step === 'dns') evidence.dns = outcome as DnsOutcome;
    else if (step !== 'registrar')
      evidence.record = {
        outcome: outcome as NonNullable<Evidence['record']>['outcome'],
        record: answer?.record ?? null,
        words: answer?.words ?? words ?? null,
        isUnasked: answer?.isDropped ?? false,
        proof: proof ? proofWords(proof.name) : (shown ?? null),
      };
  if (registrar) {
    const { outcome, priceMinor, currency } = registrar;
    const price = priceMinor === null ? null : `${(priceMinor / 100).toFixed(2)} ${currency ?? ''}`.trimEnd();
    evidence.registrar = { outcome, price };
  }
  return evidence;
}
