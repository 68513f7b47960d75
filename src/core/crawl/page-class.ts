/**
 * What the frontier knows of a page before it is read: the shape of its address, a word that pages of many sites share, and
 * cues that it may be a list of links or old. Pages of one site and one class are expected to give alike.
 */
export interface PageClass {
  /** `host-independent` shape of the path: digits are `#`, slugs `*`, parameter names kept. */
  shape: string;
  /** First telling word of the path, or `home`. Shared between sites. */
  word: string;
  cue: Cue;
}

export const CUES = ['list', 'old', 'plain'] as const;
export type Cue = (typeof CUES)[number];

/** Words of link lists in the languages of the trade's usual seeds, as they stand in paths, titles and anchors. */
const LIST_WORDS = new Set([
  'link', 'links', 'weblinks', 'linkliste', 'liens', 'enlaces', 'collegamenti', 'lenker', 'lankar', 'friends', 'freunde',
  'amis', 'partners', 'partner', 'resources', 'resource', 'ressourcen', 'ressources', 'recursos', 'risorse', 'bookmarks',
  'directory', 'verzeichnis', 'sites', 'websites', 'blogroll', 'webring', 'neighbours', 'neighbors', 'reading',
  'references', 'suppliers', 'members', 'clubs', 'related', 'elsewhere', 'recommended', 'useful',
]); // biome-ignore format: a list
const MAX_SEGMENTS = 4;
const OLD_YEARS = 5;

/**
 * @param url normalised address.
 * @param anchor words of the link that led to it; empty when there were none.
 * @param year the present one: what "old" counts from.
 */
export function classifyAddress(url: string, anchor: string, year: number): PageClass {
  const start = url.indexOf('/', url.indexOf('//') + 2);
  const mark = url.indexOf('?', start);
  const path = mark < 0 ? url.slice(start) : url.slice(start, mark);
  const segments = path.split('/').filter(Boolean);
  const parts = segments.slice(0, MAX_SEGMENTS).map(shapeOf);
  if (segments.length > MAX_SEGMENTS) parts.push('…');
  let shape = `/${parts.join('/')}${path.endsWith('/') && parts.length > 0 ? '/' : ''}`;
  if (mark >= 0)
    shape += `?${url
      .slice(mark + 1)
      .split('&')
      .map((pair) => pair.split('=', 1)[0])
      .join('&')}`;
  const tokens = wordsIn(path);
  const words = anchor === '' || anchor.length > 80 ? tokens : tokens.concat(wordsIn(anchor));
  const isList = words.some((word) => LIST_WORDS.has(word));
  const cue: Cue = isList ? 'list' : isOld(path, year) ? 'old' : 'plain';
  // the cue is part of the class: of two pages alike in shape, the one called "links" is another kind
  return { shape: isList ? `${shape} links` : shape, word: tokens[0] ?? (segments.length === 0 ? 'home' : '*'), cue };
}

function shapeOf(segment: string): string {
  const dot = segment.lastIndexOf('.');
  const ending = dot > 0 && segment.length - dot <= 6 ? segment.slice(dot) : '';
  const name = ending ? segment.slice(0, dot) : segment;
  if (/^\d+$/.test(name)) return `#${ending}`;
  if (/\d/.test(name)) return `*#${ending}`;
  if (name.length > 18 || name.split(/[-_+]/).length > 2 || name.includes('%')) return `*${ending}`;
  return `${name.toLowerCase()}${ending}`;
}

function wordsIn(text: string): string[] {
  return (
    text
      .toLowerCase()
      .match(/[a-zäöüßéèçñåø]{3,}/g)
      ?.filter((word) => !ENDINGS.has(word)) ?? []
  );
}
const ENDINGS = new Set(['html', 'htm', 'php', 'asp', 'aspx', 'jsp', 'www', 'index']);

function isOld(path: string, year: number): boolean {
  const found = /(?:^|[/_-])(199\d|20\d\d)(?:[/_-]|\.|$)/.exec(path);
  return found !== null && Number(found[1]) <= year - OLD_YEARS;
}
