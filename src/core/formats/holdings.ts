import { registrableDomain } from '../names/domain';
import type { CsvProblem } from './csv';
import { type ColumnTest, readTitled, type TitledInput, type Value } from './titled-table';

/** A domain that one owns already, as a list says it. */
export interface ListedHolding {
  line: number;
  name: string;
  ending: string;
  /** ms since 1970 UTC; null: not said. */
  boughtAt: number | null;
  costMinor: number;
  currency: string | null;
  renewsAt: number | null;
  renewalMinor: number | null;
  seller: string;
}

const COLUMNS = {
  name: { title: /^(domain|domainname|name)$/, field: 'domain' },
  bought: {
    title: /^(bought|boughton|purchased|purchasedate|date|registered|since|gekauft|gekauftam)$/,
    field: 'registered',
  },
  cost: { title: /^(cost|price|paid|purchaseprice)$/, field: 'price' },
  currency: { title: /^(currency|cur)$/, field: 'currency' },
  renews: { title: /^(renews|renewson|expires|expiry|expirydate|renewaldate)$/, field: 'expires' },
  renewal: /^(renewal|renewalprice|renewalcost|yearly)$/,
  seller: { title: /^(registrar|seller|from|venue|where)$/, field: 'registrar' },
} as const satisfies Record<string, ColumnTest>;

/** Reads a list of domains that one owns: domain, and when, for what and where it was bought, and its renewal, where they are there. */
export function readHoldings(given: TitledInput): {
  holdings: ListedHolding[];
  aside: CsvProblem[];
  problem: string | null;
} {
  const { rows, aside, missing } = readTitled(given, COLUMNS, ['name'], readHolding);
  const problem = missing.length > 0 ? 'No line of titles names a column for domain.' : null;
  return { holdings: rows, aside, problem };
}

function readHolding(value: Value<keyof typeof COLUMNS>): Omit<ListedHolding, 'line'> | string {
  const domain = registrableDomain(value('name'));
  if (!domain) return `"${value('name').slice(0, 80)}" is no registrable domain`;
  const dates: (number | null)[] = [];
  for (const column of ['bought', 'renews'] as const) {
    const at = value(column) === '' ? null : value.date(column);
    if (at === null && value(column) !== '') return `"${value(column).slice(0, 40)}" is no date`;
    dates.push(at);
  }
  const prices: ({ minor: number; currency: string | null } | null)[] = [];
  for (const column of ['cost', 'renewal'] as const) {
    const price = value(column) === '' ? null : value.price(column);
    if (!price && value(column) !== '') return `"${value(column).slice(0, 40)}" is no price`;
    prices.push(price ?? null);
  }
  return {
    ...domain,
    boughtAt: dates[0],
    costMinor: prices[0]?.minor ?? 0,
    currency: prices[0]?.currency ?? value.currency('currency'),
    renewsAt: dates[1],
    renewalMinor: prices[1]?.minor ?? null,
    seller: value('seller').slice(0, 120) || 'brought in',
  };
}
