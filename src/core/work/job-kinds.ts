export const JOB_KINDS = [
  'list', 'venue', 'crawl', 'links', 'check', 'measure', 'trial', 'search', 'zones', 'undo', 'watch', 'cut', 'inspect', 'rescore',
  'ideas', 'backup', 'page', 'finds', 'figures', 'warc',
] as const; // biome-ignore format: a list
