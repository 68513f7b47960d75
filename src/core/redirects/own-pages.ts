import { readTitled } from '../formats/titled-table';
import type { OwnPage } from './match';

const MOST_PAGES = 50_000;

/**
 * Pages of one's own from a file: a sitemap (sitemaps.org protocol 0.9), a table with columns for address and title, or addresses, one a
 * line.
 *
 * @returns problem where it is none of these; indexes: addresses of further sitemaps that it names.
 */
export function readOwnPages(text: string): {
  pages: OwnPage[];
  indexes: string[];
  aside: number;
  problem: string | null;
} {
  const head = text.slice(0, 2000).trimStart();
  if (/^<\?xml|^<(?:urlset|sitemapindex)/.test(head)) return fromSitemap(text);
  const first = head.split(/\r?\n/, 1)[0] ?? '';
  if (/\b(?:url|address|page|link)\b/i.test(first) && !/https?:\/\//.test(first)) return fromTable(text);
  return fromLines(text);
}

function fromSitemap(text: string): ReturnType<typeof readOwnPages> {
  const places = [...text.matchAll(/<loc>\s*(?:<!\[CDATA\[)?\s*([^<\]]+?)\s*(?:\]\]>)?\s*<\/loc>/g)].map(([, place]) =>
    unescaped(place),
  );
  if (/<sitemapindex/.test(text.slice(0, 4000)))
    return { pages: [], indexes: places.filter(isAddress), aside: 0, problem: null };
  const pages = places.filter(isAddress).slice(0, MOST_PAGES).map(bare);
  return {
    pages,
    indexes: [],
    aside: places.length - pages.length,
    problem: pages.length === 0 ? 'The sitemap names no page.' : null,
  };
}

const ENTITIES: Record<string, string> = { amp: '&', lt: '<', gt: '>', quot: '"', apos: "'" };
const unescaped = (text: string) => text.replace(/&(amp|lt|gt|quot|apos);/g, (_, entity: string) => ENTITIES[entity]);

function fromTable(text: string): ReturnType<typeof readOwnPages> {
  const columns = {
    url: /^(url|address|page|link|loc)$/,
    title: /^(title|name|heading)$/,
    text: /^(text|description|words|summary)$/,
  };
  const { rows, aside, missing } = readTitled(text, columns, ['url'], (value) => {
    const url = value('url');
    return isAddress(url)
      ? { url, title: value('title').slice(0, 300), text: value('text').slice(0, 2000) }
      : `"${url.slice(0, 80)}" is no address`;
  });
  const problem = missing.length > 0 ? 'No line of titles names a column for the address.' : null;
  return {
    pages: rows.slice(0, MOST_PAGES).map(({ line: _, ...page }) => page),
    indexes: [],
    aside: aside.length,
    problem,
  };
}

function fromLines(text: string): ReturnType<typeof readOwnPages> {
  const lines = text
    .split(/\r?\n/)
    .map((line) => line.trim())
    .filter(Boolean);
  const pages = lines.filter(isAddress).slice(0, MOST_PAGES).map(bare);
  return {
    pages,
    indexes: [],
    aside: lines.length - pages.length,
    problem: pages.length === 0 ? 'No line is an address.' : null,
  };
}

const bare = (url: string): OwnPage => ({ url, title: '', text: '' });

function isAddress(text: string): boolean {
  return /^https?:\/\//i.test(text) && URL.canParse(text);
}
