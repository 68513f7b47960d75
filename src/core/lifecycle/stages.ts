import type { DropWindow } from './drop-window';
import type { Days, LifePolicy } from './policies';

const DAY = 86_400_000;

/** One stage on the way to the drop: when it begins and ends, each at the earliest and at the latest; ms since 1970 UTC. */
export interface StageSpan {
  stage: 'auto-renew' | 'redemption' | 'pending-delete' | 'drop';
  begins: [earliest: number, latest: number];
  ends: [earliest: number, latest: number];
}

/**
 * The stages before an expected drop, reckoned back from it by the policy. Stages that an ending does not have are left out.
 *
 * @param expiredAt when the registration ran out; null: not known, and the auto-renew period is left out.
 */
export function stageSpans({ from, to }: DropWindow, policy: LifePolicy, expiredAt: number | null): StageSpan[] {
  const spans: StageSpan[] = [{ stage: 'drop', begins: [from, from], ends: [to, to] }];
  let ends: [number, number] = [from, to];
  const before = (stage: StageSpan['stage'], [shortest, longest]: Days) => {
    if (longest === 0) return;
    const begins: [number, number] = [ends[0] - longest * DAY, ends[1] - shortest * DAY];
    spans.unshift({ stage, begins, ends });
    ends = begins;
  };
  before('pending-delete', policy.pendingDeleteDays);
  before('redemption', policy.redemptionDays);
  if (expiredAt !== null && policy.autoRenewDays[1] > 0)
    spans.unshift({ stage: 'auto-renew', begins: [expiredAt, expiredAt], ends });
  return spans;
}
