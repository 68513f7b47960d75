export const SOURCE_KINDS = ['list', 'venue', 'crawl', 'links', 'page', 'referrers', 'zones', 'cut'] as const;

/** folder: every new file is a list. address: every new version is a list. venue: a feed that is read again. */
export const WATCH_KINDS = ['folder', 'address', 'venue'] as const;
