import type { PageBlock } from '../history/outline';

/** What a site showed at one time, as far as its front page tells. */
export interface SiteOutline {
  /** ms since 1970 UTC, of the capture. */
  at: number;
  title: string;
  /** Labels that led to its parts, in their order. */
  parts: string[];
  /** Headings with their level, 1 to 6, and how many words stand below each. */
  headings: { level: number; text: string; words: number }[];
}

const MOST_PARTS = 24;
const MOST_HEADINGS = 40;
/** Longer ones are sentences with a link in them. */
const LABEL_CHARS = 48;
/** A name of another site is no part of this one. */
const OTHER_SITE = /^(?:https?:\/\/)?[\w-]+(?:\.[\w-]+)+\/?$/;

/** The outline of a captured page: what led to its parts, and its headings with the length of what stands below them. */
export function siteOutline(at: number, title: string, blocks: readonly PageBlock[]): SiteOutline {
  const parts = new Set<string>();
  const headings: SiteOutline['headings'] = [];
  for (const { kind, level, text } of blocks) {
    if (kind === 'heading') {
      if (headings.length < MOST_HEADINGS) headings.push({ level, text, words: 0 });
    } else if (kind === 'link' || kind === 'item') {
      if (text.length <= LABEL_CHARS && parts.size < MOST_PARTS && !OTHER_SITE.test(text)) parts.add(text);
    }
    if (kind === 'text' || kind === 'item' || kind === 'cell') {
      const last = headings.at(-1);
      if (last) last.words += wordCount(text);
    }
  }
  return { at, title, parts: [...parts], headings };
}

const wordCount = (text: string) => text.split(/\s+/).filter(Boolean).length;
