import type { SampledPage } from './forecast';

/** Words in addresses of pages that name many others, in the languages that such pages are met in most. */
const OF_LINKS = new Set(
  `all links linklist linkliste link resources resource sources source references reference biblio bibliography literature credits
  contributions contributors contrib thanks acknowledgements sponsors partners friends blogroll further directory webring members faq packages
  external acronyms sites quellen literatur verweise partner freunde mitglieder danke liens ressources bibliographie partenaires membres enlaces
  recursos bibliografia socios miembros collegamenti risorse bibliografie amici soci koppelingen bronnen leden vrienden`.split(
    /\s+/,
  ),
);
/** Of one level. */
const MOST_CHOSEN = 2;

/** New addresses that a page is taken to lead to where none did: also what leads nowhere names domains. */
const LEAST_FRESH = 0.2;

/** An address to read for a sample. */
export interface ToRead {
  url: string;
  /** Taken for its name: such pages name many others, and say nothing of the rest. */
  isChosen: boolean;
}

/** What a sample knows of the pages that lie as many links from a home page. */
export class LevelSample {
  private readonly read: { url: string; isChosen: boolean; fresh: string[] }[] = [];
  private readonly urls: string[] = [];

  add(urls: readonly string[]): void {
    this.urls.push(...urls);
  }

  /** @param fresh addresses inside that nothing read before it has. */
  has(page: ToRead, fresh: string[]): void {
    this.read.push({ ...page, fresh });
  }

  get unread(): number {
    return this.urls.length - this.read.length;
  }

  /** What reading more of it may show: how many pages each that was read stands for, times the new addresses that one led to. */
  get promise(): number {
    const read = this.read.length;
    if (read === 0) return Number.POSITIVE_INFINITY;
    const fresh = this.read.reduce((sum, page) => sum + page.fresh.length, 0);
    return (this.unread / read) * (fresh / read + LEAST_FRESH);
  }

  /** The next addresses to read: those that are called links, then of as many kinds as may be, and of the largest more. */
  take(most: number): ToRead[] {
    const known = new Set(this.read.map(({ url }) => url));
    const unread = this.urls.filter((url) => !known.has(url));
    const room = Math.min(most, MOST_CHOSEN - this.read.filter(({ isChosen }) => isChosen).length);
    const chosen = unread.filter(isOfLinks).slice(0, Math.max(0, room));
    const others = unread.filter((url) => !chosen.includes(url));
    return [
      ...chosen.map((url) => ({ url, isChosen: true })),
      ...spread(kindsOf(others), most - chosen.length).map((url) => ({ url, isChosen: false })),
    ];
  }

  /** Each page that was read, with its share of its kind; empty when none was. */
  sampled(): SampledPage[] {
    const chosen = new Set(this.read.flatMap(({ url, isChosen }) => (isChosen ? [url] : [])));
    const kinds = kindsOf(this.urls.filter((url) => !chosen.has(url))).map((kind) => new Set(kind));
    return this.read.map(({ url, fresh }) => {
      const kind = kinds.find((one) => one.has(url));
      const alike = this.read.filter((other) => kind?.has(other.url)).length;
      return { standsFor: kind ? kind.size / alike : 1, fresh };
    });
  }
}

/** The first level that nothing was read of; then the one that promises most. */
export function nextToRead(levels: readonly LevelSample[]): LevelSample | undefined {
  return levels
    .filter(({ unread }) => unread > 0)
    .reduce<LevelSample | undefined>(
      (best, level) => (best === undefined || level.promise > best.promise ? level : best),
      undefined,
    );
}

function isOfLinks(url: string): boolean {
  const last = new URL(url).pathname.split('/').filter(Boolean).at(-1) ?? '';
  return last
    .replace(/\.\w{1,5}$/, '')
    .toLowerCase()
    .split(/[^a-z]+/)
    .some((word) => OF_LINKS.has(word));
}

/** Of each kind one page, and of the largest more, from all over it, as long as there is room: what one page holds says little of the others. */
function spread(kinds: readonly string[][], most: number): string[] {
  const counts = kinds.slice(0, most).map(() => 1);
  for (let left = most - counts.length; left > 0; left--) {
    // where the next page stands for most
    let best = -1;
    for (let n = 0; n < counts.length; n++)
      if (counts[n] < kinds[n].length && (best < 0 || kinds[n].length / counts[n] > kinds[best].length / counts[best]))
        best = n;
    if (best < 0) break;
    counts[best]++;
  }
  return counts.flatMap((count, n) =>
    Array.from({ length: count }, (_, i) => kinds[n][Math.floor(((i + 0.5) * kinds[n].length) / count)]),
  );
}

/** Addresses by kind, the largest first, those that look like an index before others. Those alone of their kind are one kind together. */
function kindsOf(urls: readonly string[]): string[][] {
  const kinds = new Map<string, string[]>();
  for (const url of urls) {
    const kind = kindOf(url);
    const alike = kinds.get(kind);
    if (alike) alike.push(url);
    else kinds.set(kind, [url]);
  }
  const groups = [...kinds.values()].filter((group) => group.length > 1);
  const single = [...kinds.values()].filter((group) => group.length === 1).flat();
  if (single.length > 0) groups.push(single);
  return groups.sort((a, b) => b.length - a.length || Number(b[0].endsWith('/')) - Number(a[0].endsWith('/')));
}

/** Pages alike: the same first folder, as deep, with the same ending. */
function kindOf(url: string): string {
  const { pathname, search } = new URL(url);
  const segments = pathname.split('/').filter(Boolean);
  const first = /^\d+$/.test(segments[0] ?? '') ? '#' : segments.length > 1 ? segments[0] : '';
  const ending = pathname.endsWith('/') ? '/' : (/\.\w{1,5}$/.exec(pathname)?.[0] ?? '');
  return `${first} ${segments.length} ${ending} ${search === '' ? '' : '?'}${segments.length === 1 ? segments[0] : ''}`;
}
