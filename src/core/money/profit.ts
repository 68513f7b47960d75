/** Kinds of what a domain cost and brought; what a kind is decides its sign. */
export const COST_KINDS = ['purchase', 'fees', 'renewal', 'other cost'] as const;
export const INCOME_KINDS = ['sale', 'income'] as const;
export type EntryKind = (typeof COST_KINDS)[number] | (typeof INCOME_KINDS)[number];

/** One sum, in whole minor units of one currency: what came in is positive, what went out negative. */
export interface MoneyEntry {
  /** Its number among those that were entered by hand; null: it comes of what was bought. */
  id: number | null;
  domain: string;
  brief: string | null;
  venue: string | null;
  at: number;
  kind: EntryKind;
  amountMinor: number;
  words: string;
  /** The order it comes from; null: it was entered. */
  orderId: number | null;
}

export const GROUPINGS = ['domain', 'brief', 'venue', 'year'] as const;
export type Grouping = (typeof GROUPINGS)[number];

/** Sums of a group. `costMinor` is what went out, as a positive number. */
export interface ProfitLine {
  key: string;
  costMinor: number;
  incomeMinor: number;
  resultMinor: number;
  entries: MoneyEntry[];
}

const NONE = 'none';

/** Costs, income and result by domain, brief, venue or year (UTC); the best result first, years in their order. */
export function profitBy(entries: readonly MoneyEntry[], grouping: Grouping): ProfitLine[] {
  const groups = new Map<string, ProfitLine>();
  for (const entry of entries) {
    const key = grouping === 'year' ? String(new Date(entry.at).getUTCFullYear()) : (entry[grouping] ?? NONE);
    const line = groups.get(key) ?? { key, costMinor: 0, incomeMinor: 0, resultMinor: 0, entries: [] };
    groups.set(key, line);
    if (entry.amountMinor < 0) line.costMinor -= entry.amountMinor;
    else line.incomeMinor += entry.amountMinor;
    line.resultMinor += entry.amountMinor;
    line.entries.push(entry);
  }
  const lines = [...groups.values()];
  if (grouping === 'year') return lines.sort((a, b) => a.key.localeCompare(b.key));
  return lines.sort((a, b) => b.resultMinor - a.resultMinor || a.key.localeCompare(b.key));
}

/** An amount as its kind has it: costs go out. */
export function signed(kind: EntryKind, minor: number): number {
  const amount = Math.abs(minor);
  return (COST_KINDS as readonly string[]).includes(kind) ? -amount : amount;
}
