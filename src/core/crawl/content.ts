/**
 * What a page is, judged by what it shows and not by its status: many sites answer 200 with a challenge, a consent wall or a
 * "not found" page, and a crawl that takes those for content finds nothing and does not say why.
 */
export const PAGE_KINDS = ['content', 'list', 'thin', 'challenge', 'consent', 'parked', 'not-found', 'copy'] as const;
export type PageKind = (typeof PAGE_KINDS)[number];

export interface ContentMark {
  /** Letters of the visible text, white space and digits left out; in long texts roughly. */
  letters: number;
  /** 53-bit hash of them in lower case: equal for the same text on another address, date or counter. */
  hash: number;
}

export interface PageSigns {
  title: string;
  /** Asked only where the words decide. */
  visible(): string;
  mark: ContentMark;
  linksInside: number;
  linksOutside: number;
  /** Mark of what the site answers to an address that cannot exist; null when it answers 404 as it should. */
  nonsenseHash: number | null;
  /** Where the page only sends its reader on; null: it does not. */
  forwardsTo: string | null;
  /** How many other addresses of the site gave this very text before. */
  sameText: number;
}

export interface PageVerdict {
  kind: PageKind;
  /** What decided, for people; empty for content. */
  reason: string;
}

/** Under this many letters a page is too small to be content by itself. */
const SMALL = 400;
/** So many different addresses with one and the same small text: the site shows everyone the same door. */
const SAME_DOOR = 3;
const LIST_LINKS = 12;

const CHALLENGE =
  /\b(captcha|(are|is|that) you (are )?(a |an )?(person|human|robot)|checking (your browser|that you)|verif(y|ying) (that )?you|enable (java)?scripts?( and cookies)?|unusual (traffic|requests)|security check|access denied|request (was )?blocked|one moment)\b/i;
const CONSENT =
  /\b(accept (all )?cookies|cookie (consent|settings|preferences)|before you continue|we (value|respect) your privacy|agree (and|to) (continue|proceed|the use)|consent to)\b/i;
const PARKED =
  /\b((this )?(domain|name|site) (is|may be) (parked|for sale)|buy this (domain|name)|parked (free|by|at)|under construction|coming soon)\b/i;
const NOT_FOUND =
  /\b(404|page (was )?not found|no such page|(does|could) not (exist|be found)|nothing (was )?found here)\b/i;

const NOT_THERE: PageVerdict = {
  kind: 'not-found',
  reason: 'the same page that the site shows for addresses that do not exist',
};

/** From here on only every eighth character of long parts is looked at: of paragraphs, not of links, counters and dates. */
const MARKED_LETTERS = 4000;
const LONG_PART = 64;
const STRIDE = 8;

/** Letters and hash of a text. */
export function markContent(text: string): ContentMark {
  return markParts(text, [0, text.length], []);
}

/**
 * Letters and hash of a text that lies in parts of a larger one.
 *
 * @param parts start and end of each part in turn; a start below 0 is the text `inserted[-1 - start]`.
 */
export function markParts(whole: string, parts: ArrayLike<number>, inserted: readonly string[]): ContentMark {
  let low = 0xdeadbeef | 0;
  let high = 0x41c6ce57;
  let letters = 0;
  for (let part = 0; part < parts.length; part += 2) {
    const start = parts[part];
    const text = start < 0 ? inserted[-1 - start] : whole;
    let i = Math.max(0, start);
    const end = start < 0 ? text.length : parts[part + 1];
    const step = letters >= MARKED_LETTERS && end - i >= LONG_PART ? STRIDE : 1;
    for (; i < end; i += step) {
      let code = text.charCodeAt(i);
      if (code <= 64) continue; // white space, digits, punctuation
      if (code <= 90) code += 32;
      letters += step;
      low = Math.imul(low ^ code, 2654435761);
      high = Math.imul(high ^ code, 1597334677);
    }
  }
  low ^= letters;
  // the finish of cyrb53 (public domain): mixes the halves and keeps 53 bits, so that a number holds it exactly
  low = Math.imul(low ^ (low >>> 16), 2246822507) ^ Math.imul(high ^ (high >>> 13), 3266489909);
  high = Math.imul(high ^ (high >>> 16), 2246822507) ^ Math.imul(low ^ (low >>> 13), 3266489909);
  return { letters, hash: 4294967296 * (2097151 & high) + (low >>> 0) };
}

/** Judges a page that was answered with 200. */
export function judgeContent(signs: PageSigns): PageVerdict {
  const { mark, visible, title, sameText, nonsenseHash, forwardsTo } = signs;
  const isSmall = mark.letters < SMALL;
  const isNonsense = nonsenseHash !== null && mark.hash === nonsenseHash;
  if (isSmall && forwardsTo !== null) return { kind: 'thin', reason: `only forwards to ${forwardsTo}` };
  if (isSmall) {
    const text = `${title} ${visible().slice(0, 4000)}`.replace(/\s+/g, ' ');
    const challenge = CHALLENGE.exec(text);
    if (challenge) return { kind: 'challenge', reason: `a short page that says "${challenge[0].trim()}"` };
    const consent = CONSENT.exec(text);
    if (consent) return { kind: 'consent', reason: `a short page that says "${consent[0].trim()}"` };
    const parked = PARKED.exec(text);
    if (parked) return { kind: 'parked', reason: `a short page that says "${parked[0].trim()}"` };
    if (isNonsense) return NOT_THERE;
    const notFound = NOT_FOUND.exec(text);
    if (notFound) return { kind: 'not-found', reason: `answers 200 and says "${notFound[0].trim()}"` };
    if (sameText >= SAME_DOOR)
      return { kind: 'challenge', reason: `the same ${mark.letters} letters on ${sameText + 1} addresses` };
  } else if (isNonsense) return NOT_THERE;
  else if (sameText > 0) return { kind: 'copy', reason: 'the same text as another address of the site' };
  if (signs.linksOutside >= LIST_LINKS) return { kind: 'list', reason: '' };
  if (isSmall && signs.linksInside + signs.linksOutside < 3)
    return { kind: 'thin', reason: `${mark.letters} letters and ${signs.linksInside + signs.linksOutside} links` };
  return { kind: 'content', reason: '' };
}

/** Kinds whose links are not a vote: a search engine would not keep these pages. */
export function isIndexableKind(kind: PageKind): boolean {
  return kind === 'content' || kind === 'list' || kind === 'thin';
}
