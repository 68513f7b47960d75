import { selectAll, selectOne } from 'css-select';
import { parseDocument } from 'htmlparser2';
import type { ReadAnswer } from './read-answer';
import { AnswerFault } from './tree';

type Node = ReturnType<typeof parseDocument>['children'][number];
type Element = Extract<Node, { attribs: unknown }>;

const isElement = (node: Node): node is Element => 'attribs' in node;

/** Addresses are made whole by where the answer came from. */
const ADDRESSES = new Set(['href', 'src', 'action']);
const UNSEEN = new Set(['script', 'style', 'template', 'noscript']);

/**
 * Reads a page: entries by a CSS selector, fields by a selector within an entry with `@attribute` behind it for what an attribute says, or
 * that alone for the entry's own (`a.title@href`, `@href`, `.price`).
 *
 * @throws AnswerFault for a selector that is none.
 */
export function htmlAnswer(text: string, entries: string, base: string): ReadAnswer {
  const page = parseDocument(text);
  const found =
    entries === '' ? [page] : (chosen(entries, () => selectAll<Node, Element>(entries, page.children)) ?? []);
  return {
    count: found.length,
    text: (entry, at) => fieldOf(found[entry], at, base),
    whole: (at) => fieldOf(page, at, base),
    tree: null,
  };
}

function fieldOf(from: Element | ReturnType<typeof parseDocument>, at: string, base: string): string {
  const sign = at.lastIndexOf('@');
  // an @ inside brackets belongs to the selector
  const isAttribute = sign >= 0 && at.indexOf(']', sign) < 0;
  const selector = (isAttribute ? at.slice(0, sign) : at).trim();
  const attribute = isAttribute
    ? at
        .slice(sign + 1)
        .trim()
        .toLowerCase()
    : null;
  const target =
    selector === '' ? from : chosen(selector, () => selectOne<Node, Element>(selector, from.children as Node[]));
  if (!target) return '';
  if (attribute === null) return textOf(target.children as Node[]);
  const value = 'attribs' in target ? (target.attribs as Record<string, string>)[attribute] : undefined;
  if (value === undefined) return '';
  return ADDRESSES.has(attribute) && URL.canParse(value, base) ? new URL(value, base).href : value.trim();
}

function chosen<T>(selector: string, choose: () => T): T {
  try {
    return choose();
  } catch {
    throw new AnswerFault(`“${selector}” is no selector`);
  }
}

function textOf(nodes: readonly Node[]): string {
  const parts: string[] = [];
  const walk = (node: Node) => {
    if (node.type === 'text') parts.push((node as { data: string }).data);
    else if (isElement(node) && !UNSEEN.has(node.name)) {
      parts.push(' ');
      for (const child of node.children) walk(child as Node);
      parts.push(' ');
    }
  };
  for (const node of nodes) walk(node);
  return parts.join('').replace(/\s+/g, ' ').trim();
}

/** A kind of element that comes again and again, as what entries may be. */
export interface Repeated {
  selector: string;
  count: number;
  /** The text of the first ones, cut. */
  samples: string[];
  /** What stands within the first one: a selector for each text and address, and what it says. */
  parts: { at: string; text: string }[];
}

const MOST_REPEATED = 12;
const MOST_PARTS = 24;

/** Elements that come at least twice, those with most text in all first: what a list of results is among. */
export function repeatedElements(text: string, base: string): Repeated[] {
  const page = parseDocument(text);
  const kinds = new Map<string, { elements: Element[]; text: number }>();
  const walk = (node: Node, parent: string) => {
    if (!isElement(node) || UNSEEN.has(node.name)) return;
    const own = selectorOf(node);
    const selector = node.attribs.class ? own : parent === '' ? own : `${parent} > ${own}`;
    const kind = kinds.get(selector) ?? { elements: [], text: 0 };
    kind.elements.push(node);
    kinds.set(selector, kind);
    for (const child of node.children) walk(child as Node, own);
  };
  for (const node of page.children) walk(node, '');
  for (const kind of kinds.values())
    kind.text = kind.elements.slice(0, 50).reduce((sum, one) => sum + textOf(one.children as Node[]).length, 0);
  return [...kinds]
    .filter(([, { elements, text: length }]) => elements.length > 1 && length > 0)
    .sort(([, a], [, b]) => b.text - a.text || b.elements.length - a.elements.length)
    .slice(0, MOST_REPEATED)
    .map(([selector, { elements }]) => ({
      selector,
      count: elements.length,
      samples: elements.slice(0, 3).map((one) => textOf(one.children as Node[]).slice(0, 120)),
      parts: partsOf(elements[0], base),
    }));
}

function partsOf(entry: Element, base: string): Repeated['parts'] {
  const parts: Repeated['parts'] = [];
  const seen = new Set<string>();
  const add = (at: string) => {
    const text = seen.has(at) ? '' : fieldOf(entry, at, base);
    seen.add(at);
    if (text !== '' && parts.length < MOST_PARTS) parts.push({ at, text: text.slice(0, 160) });
  };
  add('');
  for (const name of Object.keys(entry.attribs)) if (name !== 'class') add(`@${name}`);
  const walk = (node: Node) => {
    if (!isElement(node) || UNSEEN.has(node.name)) return;
    const selector = selectorOf(node);
    add(selector);
    for (const name of ['href', 'title', 'datetime', 'content', 'data-domain', 'data-price'])
      if (node.attribs[name] !== undefined) add(`${selector}@${name}`);
    for (const child of node.children) walk(child as Node);
  };
  for (const child of entry.children) walk(child as Node);
  return parts;
}

/** `a.title`: by the name and the first class that is fit for a selector. */
function selectorOf({ name, attribs }: Element): string {
  const fit = (attribs.class ?? '').split(/\s+/).find((one) => /^[a-z_][\w-]*$/i.test(one));
  return fit === undefined ? name : `${name}.${fit}`;
}
