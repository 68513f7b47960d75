export const SOURCE_KINDS = ['list', 'venue', 'crawl', 'links', 'page', 'referrers', 'zones', 'cut'] as const;

/** folder: every new file is a list. address: every new version is. mail: every list that arrives. venue: a feed that is read again. */
export const WATCH_KINDS = ['folder', 'address', 'mail', 'venue'] as const;
