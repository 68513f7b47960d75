/** What a column of a list can mean to us. */
export const LIST_FIELDS = [
  'domain',
  'phase',
  'drop-date',
  'closing',
  'price',
  'currency',
  'bids',
  'kind',
  'venue',
  'registered',
  'backlinks',
  'referring-domains',
  'ignore',
] as const;
export type ListField = (typeof LIST_FIELDS)[number];

/** How a domain is offered. */
export const LISTING_KINDS = ['auction', 'expired-auction', 'buy-now', 'offer', 'falling', 'backorder'] as const;
export type ListingKind = (typeof LISTING_KINDS)[number];
