import type { ConnectionUse } from '../connections/connection';
import { filled } from '../connections/template';
import { registrableDomain } from '../names/domain';

/** Points of due diligence that pages elsewhere answer, and what a described service is asked for them. */
export const PAGE_QUESTIONS = {
  searched: 'shown',
  listed: 'directories',
  mentioned: 'mentions',
} as const satisfies Record<string, ConnectionUse>;
export type PageQuestion = keyof typeof PAGE_QUESTIONS;

export const isPageQuestion = (item: string): item is PageQuestion => Object.hasOwn(PAGE_QUESTIONS, item);

/** What a service said of it. */
export interface FoundPages {
  /** When it was asked, ms since 1970 UTC. */
  at: number;
  who: string;
  /** How many it says that there are; null: it does not say. */
  total: number | null;
  /** Those that it named. */
  pages: { url: string; title: string }[];
}

/** The question as it is typed into a search. */
export function searchWords(item: PageQuestion, name: string): string {
  if (item === 'searched') return `site:${name}`;
  return item === 'listed' ? `"${name}" directory OR links -site:${name}` : `"${name}" -site:${name}`;
}

/** Where a person opens the question; null: no page of a search is set. @param searchPage its address with `{words}`; empty: none. */
export function questionLink(item: PageQuestion, name: string, searchPage: string): string | null {
  return searchPage === '' ? null : filled(searchPage, { words: searchWords(item, name) }, 'address');
}

/** Pages that answer the question: those of the domain itself where they are asked for, else those of others, each once. */
export function answering(item: PageQuestion, name: string, pages: FoundPages['pages']): FoundPages['pages'] {
  const seen = new Set<string>();
  return pages.filter(({ url }) => {
    const isOwn = registrableDomain(new URL(url).hostname)?.name === name;
    if (isOwn !== (item === 'searched') || seen.has(url)) return false;
    seen.add(url);
    return true;
  });
}

/** How many pages answer it: as many as were named, or as it says where none of another kind was among them. */
export function foundCount({ total, pages }: FoundPages): number {
  return Math.max(pages.length, total ?? 0);
}
