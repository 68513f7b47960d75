import { decodeHTML, decodeHTMLAttribute } from 'entities';

/** Attributes of one start tag, decoded; names in lower case. Of repeated names the first counts, as the standard says. */
export type Attributes = Record<string, string>;

export interface HtmlEvents {
  /** Names (lower case) whose start tags are told with their attributes; the others are passed over. */
  wanted: ReadonlySet<string>;
  open(name: string, attributes: Attributes): void;
  /** End tag of a wanted or raw-text element. */
  close(name: string): void;
  /** Character data from `start` to `end` of the source, entities as they stand. Not told for raw text. */
  text(start: number, end: number): void;
  /** A tag that parts words: everything but the inline elements. */
  gap(): void;
  /** Contents of a raw-text element (`title`, `script`, …). */
  raw(name: string, start: number, end: number, attributes: Attributes): void;
}

/** Elements whose contents hold no tags (HTML standard 13.2.5.2 to 13.2.5.5, scripting off). */
const RAW_TEXT = new Set(['script', 'style', 'title', 'textarea', 'xmp', 'iframe', 'noembed', 'noframes']);
const INLINE = new Set([
  'a', 'abbr', 'b', 'bdi', 'bdo', 'cite', 'code', 'data', 'dfn', 'em', 'font', 'i', 'kbd', 'mark', 'q', 's', 'samp',
  'small', 'span', 'strong', 'sub', 'sup', 'tt', 'time', 'u', 'var', 'wbr', 'img',
]); // biome-ignore format: a list

/** The commonest of the others, so that they are told apart without being cut out of the page. */
const BLOCKS = [
  'article', 'blockquote', 'body', 'br', 'button', 'dd', 'div', 'dl', 'dt', 'footer', 'form', 'h1', 'h2', 'h3', 'h4', 'head',
  'header', 'hr', 'html', 'input', 'label', 'li', 'link', 'main', 'meta', 'nav', 'ol', 'option', 'p', 'path', 'pre', 'section',
  'svg', 'table', 'tbody', 'td', 'th', 'thead', 'tr', 'ul',
]; // biome-ignore format: a list

const GT = 62;
const SLASH = 47;
const EQUALS = 61;
const DOUBLE = 34;
const SINGLE = 39;

/**
 * Walks HTML once and tells what a crawler reads of it. It is the HTML standard's tokenizer (13.2.5) without the tree: tags,
 * comments, quoted attributes and raw text are told apart exactly, and nothing is built that nobody asked for, which makes it
 * several times quicker than a general parser. A test compares what links are found with htmlparser2.
 */
export function scanHtml(html: string, events: HtmlEvents): void {
  const tags = tagsFor(events.wanted);
  const length = html.length;
  let at = 0;
  while (at < length) {
    const lt = html.indexOf('<', at);
    if (lt < 0 || lt === length - 1) {
      events.text(at, length);
      return;
    }
    const code = html.charCodeAt(lt + 1);
    if (isLetter(code)) {
      if (lt > at) events.text(at, lt);
      at = startTag(html, lt + 1, tags, events);
    } else if (code === SLASH) {
      const next = html.charCodeAt(lt + 2);
      if (lt > at) events.text(at, lt);
      if (isLetter(next)) {
        const end = nameEnd(html, lt + 2);
        const tag = tags.find(html, lt + 2, end);
        if (!tag.isInline) events.gap();
        if (tag.isWanted) events.close(tag.name);
        at = tagEnd(html, end);
      } else if (next === GT) at = lt + 3;
      else at = after(html, '>', lt + 2);
    } else if (code === 33 || code === 63) {
      if (lt > at) events.text(at, lt);
      at = html.startsWith('<!--', lt) ? commentEnd(html, lt + 4) : after(html, '>', lt + 2);
    } else {
      // a lone "<" is text
      events.text(at, lt + 1);
      at = lt + 1;
    }
  }
}

function startTag(html: string, from: number, tags: TagTable, events: HtmlEvents): number {
  const end = nameEnd(html, from);
  const { name, isInline, isRaw, isWanted } = tags.find(html, from, end);
  if (!isInline) events.gap();
  let attributes: Attributes = NONE;
  let at: number;
  if (isRaw || isWanted) {
    attributes = {};
    at = readAttributes(html, end, attributes);
    if (at < 0) return html.length; // the text ends inside the tag: it is dropped
    if (isWanted) events.open(name, attributes);
  } else at = html.charCodeAt(end) === GT ? end + 1 : tagEnd(html, end);
  if (!isRaw) return at;
  const close = rawEnd(html, at, name);
  events.raw(name, at, close, attributes);
  if (close >= html.length) return html.length;
  if (isWanted) events.close(name);
  return tagEnd(html, close + 2 + name.length);
}

interface Tag {
  name: string;
  isInline: boolean;
  isRaw: boolean;
  isWanted: boolean;
}
const OTHER: Tag = { name: '', isInline: false, isRaw: false, isWanted: false };

/**
 * Elements by name. The commonest are found by length, first and last letter and one comparison in place; a name that falls on
 * a taken place, or is written in capitals, is looked up the long way, with the same outcome.
 */
class TagTable {
  private readonly places: (Tag | undefined)[] = new Array(512).fill(undefined);
  private readonly byName = new Map<string, Tag>();

  constructor(wanted: ReadonlySet<string>) {
    for (const name of [...wanted, ...RAW_TEXT, ...INLINE, ...BLOCKS]) {
      if (this.byName.has(name)) continue;
      const tag = { name, isInline: INLINE.has(name), isRaw: RAW_TEXT.has(name), isWanted: wanted.has(name) };
      this.byName.set(name, tag);
      this.places[placeOf(name, 0, name.length)] ??= tag;
    }
  }

  find(html: string, from: number, end: number): Tag {
    const tag = this.places[placeOf(html, from, end)];
    if (tag !== undefined && tag.name.length === end - from && html.startsWith(tag.name, from)) return tag;
    return this.byName.get(lower(html, from, end)) ?? OTHER;
  }
}

function placeOf(html: string, from: number, end: number): number {
  return (html.charCodeAt(from) * 16 + html.charCodeAt(end - 1) * 5 + (end - from)) & 511;
}

const tables = new WeakMap<ReadonlySet<string>, TagTable>();
function tagsFor(wanted: ReadonlySet<string>): TagTable {
  let table = tables.get(wanted);
  if (!table) {
    table = new TagTable(wanted);
    tables.set(wanted, table);
  }
  return table;
}

const NONE: Attributes = {};

/** Where the contents of a raw-text element end: at its own end tag, in any case, or with the text. */
function rawEnd(html: string, from: number, name: string): number {
  for (let at = html.indexOf('</', from); at >= 0; at = html.indexOf('</', at + 2)) {
    const end = at + 2 + name.length;
    if (end <= html.length && lower(html, at + 2, end) === name && endsName(html.charCodeAt(end))) return at;
  }
  return html.length;
}

/** @returns where the tag ends, or -1 when the text does before it. */
function readAttributes(html: string, from: number, into: Attributes): number {
  const length = html.length;
  let at = from;
  for (;;) {
    while (at < length && (isSpace(html.charCodeAt(at)) || html.charCodeAt(at) === SLASH)) at++;
    if (at >= length) return -1;
    if (html.charCodeAt(at) === GT) return at + 1;
    const nameStart = at;
    at++; // even a "=" here belongs to the name
    while (at < length) {
      const code = html.charCodeAt(at);
      if (code <= GT && (code === EQUALS || code === GT || code === SLASH || isSpace(code))) break;
      at++;
    }
    const name = attributeName(html, nameStart, at);
    let value = '';
    let look = at;
    while (look < length && isSpace(html.charCodeAt(look))) look++;
    if (html.charCodeAt(look) === EQUALS) {
      at = look + 1;
      while (at < length && isSpace(html.charCodeAt(at))) at++;
      const quote = html.charCodeAt(at);
      if (quote === DOUBLE || quote === SINGLE) {
        const close = html.indexOf(quote === DOUBLE ? '"' : "'", at + 1);
        if (close < 0) return -1;
        value = html.slice(at + 1, close);
        at = close + 1;
      } else {
        const start = at;
        while (at < length && html.charCodeAt(at) !== GT && !isSpace(html.charCodeAt(at))) at++;
        value = html.slice(start, at);
      }
      if (value.includes('&')) value = decodeHTMLAttribute(value);
    }
    if (!(name in into)) into[name] = value;
  }
}

/** Name of an attribute; the commonest are not cut out of the page. */
function attributeName(html: string, from: number, to: number): string {
  const first = html.charCodeAt(from);
  if (to - from === 4 && first === 104 && html.startsWith('href', from)) return 'href';
  if (to - from === 5 && first === 99 && html.startsWith('class', from)) return 'class';
  if (to - from === 3 && first === 114 && html.startsWith('rel', from)) return 'rel';
  if (to - from === 3 && first === 115 && html.startsWith('src', from)) return 'src';
  return lower(html, from, to);
}

/** Passes over attributes: a ">" inside a quoted value does not end the tag. */
function tagEnd(html: string, from: number): number {
  const length = html.length;
  let at = from;
  while (at < length) {
    const code = html.charCodeAt(at);
    if (code === GT) return at + 1;
    at++;
    if (code !== EQUALS) continue;
    while (at < length && isSpace(html.charCodeAt(at))) at++;
    const quote = html.charCodeAt(at);
    if (quote === DOUBLE || quote === SINGLE) {
      const close = html.indexOf(quote === DOUBLE ? '"' : "'", at + 1);
      if (close < 0) return length;
      at = close + 1;
    }
  }
  return length;
}

/** `-->` and `--!>` end a comment, and so does `>` right after its start (13.2.5.43 and on). */
function commentEnd(html: string, from: number): number {
  if (html.charCodeAt(from) === GT) return from + 1;
  if (html.startsWith('->', from)) return from + 2;
  for (let at = html.indexOf('--', from); at >= 0; at = html.indexOf('--', at + 1)) {
    const code = html.charCodeAt(at + 2);
    if (code === GT) return at + 3;
    if (code === 33 && html.charCodeAt(at + 3) === GT) return at + 4;
  }
  return html.length;
}

function after(html: string, mark: string, from: number): number {
  const found = html.indexOf(mark, from);
  return found < 0 ? html.length : found + mark.length;
}

function nameEnd(html: string, from: number): number {
  let at = from;
  while (at < html.length && !endsName(html.charCodeAt(at))) at++;
  return at;
}

/** Lower-cases ASCII only where there is something to lower. */
function lower(html: string, from: number, to: number): string {
  const name = html.slice(from, to);
  for (let i = from; i < to; i++) {
    const code = html.charCodeAt(i);
    if (code >= 65 && code <= 90) return name.toLowerCase();
  }
  return name;
}

function isLetter(code: number): boolean {
  return (code >= 97 && code <= 122) || (code >= 65 && code <= 90);
}

function isSpace(code: number): boolean {
  return code === 32 || code === 10 || code === 9 || code === 13 || code === 12;
}

function endsName(code: number): boolean {
  if (code > GT) return false; // letters, nearly always
  return code === GT || code === SLASH || isSpace(code) || Number.isNaN(code);
}

/** White space and control characters folded to one blank, entities decoded. */
export function foldText(raw: string): string {
  const text = raw.includes('&') ? decodeHTML(raw) : raw;
  return isFolded(text) ? text : text.replace(/[\s\u0000-\u001f]+/g, ' ').trim();
}

/** Most anchors are; asking first is several times quicker than replacing nothing. */
function isFolded(text: string): boolean {
  let before = 32;
  for (let i = 0; i < text.length; i++) {
    const code = text.charCodeAt(i);
    if (code < 32 || code > 126 || (code === 32 && before === 32)) return false;
    before = code;
  }
  return text.length === 0 || before !== 32;
}
