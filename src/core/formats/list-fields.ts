/** What a column of a list can mean to us. */
export const LIST_FIELDS = [
  'domain',
  'tld',
  'phase',
  'drop-date',
  'closing',
  'price',
  'currency',
  'bids',
  'kind',
  'venue',
  'reserve',
  'listing-url',
  'registered',
  'expires',
  'first-seen',
  'registrar',
  'backlinks',
  'referring-domains',
  'traffic',
  'keywords',
  'position',
  'cpc',
  'score',
  'language',
  'country',
  'ignore',
] as const;
export type ListField = (typeof LIST_FIELDS)[number];

/** Tables of text of any kind (also those that workbooks are turned into), or a JSON object a line. */
export const LIST_FORMATS = ['table', 'json-lines'] as const;
export type ListFormat = (typeof LIST_FORMATS)[number];

/** How a domain is offered. */
export const LISTING_KINDS = ['auction', 'expired-auction', 'buy-now', 'offer', 'falling', 'backorder'] as const;
export type ListingKind = (typeof LISTING_KINDS)[number];
