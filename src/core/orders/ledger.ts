import type { Commitment } from './order';

/** Accounts of a brief. What leaves one comes into another: all of them together are always zero. */
export const ACCOUNTS = ['budget', 'held', 'spent', 'fees'] as const;
export type Account = (typeof ACCOUNTS)[number];

/** One line of a posting, in whole minor units; positive: comes into the account. */
export interface LedgerLine {
  account: Account;
  amountMinor: number;
}

export const NOTHING: Commitment = { heldMinor: 0, spentMinor: 0, feesMinor: 0 };

/**
 * Lines that bring a brief's accounts from one commitment to another (double entry: they sum to zero).
 *
 * @throws RangeError on amounts that are no safe whole numbers: money is never rounded here.
 */
export function postingOf(before: Commitment, after: Commitment): LedgerLine[] {
  const moved: [Account, number][] = [
    ['held', after.heldMinor - before.heldMinor],
    ['spent', after.spentMinor - before.spentMinor],
    ['fees', after.feesMinor - before.feesMinor],
  ];
  const lines: LedgerLine[] = [];
  let sum = 0;
  for (const [account, amountMinor] of moved) {
    if (!Number.isSafeInteger(amountMinor)) throw new RangeError(`${account}: ${amountMinor} is no amount`);
    if (amountMinor === 0) continue;
    lines.push({ account, amountMinor });
    sum += amountMinor;
  }
  if (sum !== 0) lines.push({ account: 'budget', amountMinor: -sum });
  return lines;
}

/** Balances of lines. */
export function balancesOf(lines: Iterable<LedgerLine>): Record<Account, number> {
  const balances: Record<Account, number> = { budget: 0, held: 0, spent: 0, fees: 0 };
  for (const { account, amountMinor } of lines) balances[account] += amountMinor;
  return balances;
}

const MILLION = 1_000_000n;

/**
 * Converts whole minor units by a rate in millionths, half up, without floats.
 *
 * @param ratePpm how many millionths of the other currency one unit is worth, over 0.
 */
export function converted(minor: number, ratePpm: number): number {
  const product = BigInt(minor) * BigInt(ratePpm);
  const half = product < 0n ? -MILLION / 2n : MILLION / 2n;
  return Number((product + half) / MILLION);
}
