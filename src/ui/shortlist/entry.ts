import type { Maximum } from '../../core/bids/maximum';
import type { WeighedWay } from '../../core/bids/weighed-way';
import type { DomainView } from '../../core/pool/domain-view';
import type { FitView } from '../fit-bar';
import type { StageName } from './stages';

/** A shortlisted domain with what its screen tells of it. Amounts in minor units of the brief's currency. */
export interface Entry {
  domainId: number;
  briefId: number;
  stage: StageName;
  maximumBidMinor: number | null;
  worthLowMinor: number | null;
  worthHighMinor: number | null;
  note: string;
  addedAt: number;
  domain: DomainView;
  fit: FitView & { first: number };
  /** The most to pay, with the steps to it; null: its worth is not said. */
  maximum: Maximum | null;
  /** That, as far as the budget and the person's own maximum allow. */
  mostMinor: number | null;
  tags: string[];
  notes: { count: number; last: string | null; lastAt: number | null };
  /** Other briefs that have it on their shortlist. */
  alsoIn: string[];
  /** How it is to be had, the cheapest in all first, and which of them the plan takes, or would; null: no way is known. */
  ways: WeighedWay[];
  way: number | null;
  /** Where its last order stands. */
  order: string | null;
  /** The oldest of what it is judged by, ms; null: nothing was asked. */
  oldestAt: number | null;
}

export type EntryChange = Partial<Pick<Entry, 'stage' | 'maximumBidMinor' | 'note'>>;

export const ORDERS = ['added', 'fit', 'closing', 'maximum bid', 'stalest'] as const;
export type EntryOrder = (typeof ORDERS)[number];

const LAST = Number.POSITIVE_INFINITY;

/** Entries in an order; what is not known comes last. The order of adding decides between equals. */
export function sorted(entries: readonly Entry[], order: EntryOrder): Entry[] {
  const key = (entry: Entry): number => {
    switch (order) {
      case 'added':
        return entry.addedAt;
      case 'fit':
        // by what is sure: a name of which nothing is known does not stand above one that was measured
        return entry.fit.score === null ? LAST : -entry.fit.least;
      case 'closing':
        return entry.domain.closingAt ?? entry.domain.dropAt ?? LAST;
      case 'maximum bid':
        return entry.maximumBidMinor === null ? LAST : -entry.maximumBidMinor;
      case 'stalest':
        return entry.oldestAt ?? -1;
    }
  };
  const keyed = entries.map((entry) => [key(entry), entry] as const);
  return keyed
    .sort(([a, first], [b, second]) => (a === b ? 0 : a < b ? -1 : 1) || first.addedAt - second.addedAt)
    .map(([, entry]) => entry);
}
