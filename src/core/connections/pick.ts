import { titleOf } from '../formats/list-titles';
import type { AnswerField, AnswerFormat, ConnectionUse, Description, FieldPlace } from './connection';
import { USE_SPECS } from './connection';
import { pointerOf, pointerParts, type Tree, textOf } from './tree';

/** A place in a tree that holds a text, for the screen that it is picked on. */
export interface Leaf {
  /** Parts of its JSON Pointer. */
  parts: string[];
  text: string;
}

/** A list of things in an answer, as what its entries may be. */
export interface Series {
  /** As Description.entries has it. */
  at: string;
  count: number;
}

const MOST_SHOWN = 400;
const MOST_DEEP = 12;
/** Elements of an array that are shown: the others are like them. */
const FIRST_FEW = 3;

/** The texts of a tree in its order, of arrays the first few elements. @returns also whether there is more than is shown. */
export function leavesOf(tree: Tree): { leaves: Leaf[]; isCut: boolean } {
  const leaves: Leaf[] = [];
  let isCut = false;
  const walk = (value: Tree, parts: string[]) => {
    if (leaves.length >= MOST_SHOWN || parts.length > MOST_DEEP) {
      isCut = true;
      return;
    }
    if (Array.isArray(value)) {
      for (const [n, one] of value.slice(0, FIRST_FEW).entries()) walk(one, [...parts, String(n)]);
      if (value.length > FIRST_FEW) isCut = true;
    } else if (value !== null && typeof value === 'object') {
      for (const [name, one] of Object.entries(value)) walk(one, [...parts, name]);
    } else leaves.push({ parts, text: textOf(value) });
  };
  walk(tree, []);
  return { leaves, isCut };
}

/**
 * Where a field stands when somebody points at a text: within the entries that are known, or within the outermost list that the text is part
 * of, which then holds the entries.
 *
 * @param parts of the JSON Pointer to the text.
 */
export function placeOfPick(
  tree: Tree,
  parts: readonly string[],
  entries: string,
): { entries: string; place: FieldPlace } {
  const known = pointerParts(entries.replace(/\/\*$/, ''));
  const isEach = entries.endsWith('/*');
  const isInside = known.every((part, n) => parts[n] === part);
  const list = isInside && known.length > 0 ? valueAt(tree, known) : null;
  if (list !== null && (Array.isArray(list) || isEach))
    return { entries, place: { in: 'entry', at: pointerOf(parts.slice(known.length + 1)) } };
  if (list !== null) return { entries, place: { in: 'entry', at: pointerOf(parts.slice(known.length)) } };
  // a list that is known keeps its place: what stands outside it stands once
  if (known.length > 0) return { entries, place: { in: 'answer', at: pointerOf(parts) } };
  for (let n = 0; n < parts.length; n++)
    if (Array.isArray(valueAt(tree, parts.slice(0, n))))
      return { entries: pointerOf(parts.slice(0, n)), place: { in: 'entry', at: pointerOf(parts.slice(n + 1)) } };
  return { entries: '', place: { in: 'entry', at: pointerOf(parts) } };
}

function valueAt(tree: Tree, parts: readonly string[]): Tree | null {
  let value: Tree = tree;
  for (const part of parts) {
    if (value === null || typeof value !== 'object') return null;
    const next: Tree | undefined = Array.isArray(value) ? value[Number(part)] : value[part];
    if (next === undefined) return null;
    value = next;
  }
  return value;
}

/** Lists in an answer, the longest first: arrays, and objects whose members are all alike and many. */
export function seriesIn(tree: Tree): Series[] {
  const found: Series[] = [];
  const walk = (value: Tree, parts: string[]) => {
    if (parts.length > MOST_DEEP || value === null || typeof value !== 'object') return;
    if (Array.isArray(value)) {
      if (value.length > 0) found.push({ at: pointerOf(parts), count: value.length });
      // what is inside the elements is no list of entries of its own: one of each would be left
      return;
    }
    const members = Object.values(value);
    const areObjects = members.every((one) => one !== null && typeof one === 'object' && !Array.isArray(one));
    const isNamed = Object.keys(value).every((name) => /\.[a-z]/i.test(name));
    if (members.length > 0 && areObjects && isNamed) {
      found.push({ at: `${pointerOf(parts)}/*`, count: members.length });
      return;
    }
    for (const [name, one] of Object.entries(value)) walk(one, [...parts, name]);
  };
  walk(tree, []);
  return found.sort((a, b) => b.count - a.count);
}

/** What services call the fields that are not columns of lists, most telling first. */
const NAMES: Partial<Record<AnswerField, RegExp>> = {
  availability: /^(availability|available|is_?available|avail|can_?register|purchasable)$/i,
  premium: /^(is_?premium|premium|premium_?(name|domain|type)?)$/i,
  renewal: /^(renewal(_?price|_?fee)?|renew(_?price)?|price_?renew(al)?)$/i,
  price: /^(price|purchase_?price|registration(_?price|_?fee)?|register_?price|amount|cost|fee|create)$/i,
  currency: /^(currency|currency_?code|cur|iso_?currency)$/i,
  domain: /^(domain(_?name)?|name|fqdn|host|ldh_?name|sld_?tld)$/i,
  url: /^(url|link|href|address|page|display_?link|loc|permalink|source_?url|website)$/i,
  title: /^(title|name|heading|headline)$/i,
  summary: /^(summary|snippet|description|excerpt|abstract|content|text)$/i,
  total: /^(total(_?(results|hits|count|matches))?|count|hits|number_?of_?results|estimated_?(total|matches)|total_?estimated_?matches)$/i,
  mark: /^(mark(_?(name|text))?|trade_?mark(_?name)?|word_?mark|verbal_?element|name|title|denomination)$/i,
  number: /^(number|(application|registration|serial|reg|app)_?(number|no|nr|id)|id|reference)$/i,
  owner: /^(owner(_?name)?|applicant(_?name)?|holder(_?name)?|proprietor|registrant)$/i,
  classes: /^(nice_?class(es)?|class(es)?|goods_?classes)$/i,
  status: /^(status|mark_?status|state)$/i,
  result: /^(result|((order|bid|purchase|registration)_?)?(status|state)|outcome|success|is_?(success|registered)|registered)$/i,
  reason: /^(reason|(status_?|error_?)?(message|text)|error|detail|description)$/i,
  'order-number': /^((order|bid|purchase|transaction|request)_?(id|number|no|ref(erence)?)|id|reference)$/i,
}; // biome-ignore format: a list of names

/**
 * What an answer most likely means for a use: where its entries stand, and its fields by their names. It is a proposal; a person sees and
 * changes it.
 */
export function proposed(tree: Tree, use: ConnectionUse): Pick<Description, 'entries' | 'fields'> {
  const [longest] = seriesIn(tree);
  const entries = longest?.at ?? '';
  const known = pointerParts(entries.replace(/\/\*$/, ''));
  const list = longest ? valueAt(tree, known) : null;
  const first = list === null ? tree : Array.isArray(list) ? list[0] : Object.values(list as Record<string, Tree>)[0];
  const inEntry = first === undefined ? [] : leavesOf(first).leaves;
  const outside = longest
    ? leavesOf(tree).leaves.filter(({ parts }) => !known.every((part, n) => parts[n] === part))
    : [];
  const fields: Description['fields'] = {};
  const taken = new Set<string>();
  for (const field of USE_SPECS[use].fields) {
    const isLeft = (leaf: Leaf) => !taken.has(pointerOf(leaf.parts));
    const nearest = (leaves: Leaf[]) =>
      [isCalled, isTitled, mayBeCalled]
        .map((isIt) => leaves.find((leaf) => isLeft(leaf) && namesOf(leaf.parts).some((name) => isIt(name, field))))
        .find(Boolean);
    const here = nearest(inEntry);
    const there = here ? undefined : nearest(outside);
    if (here) {
      fields[field] = { in: 'entry', at: pointerOf(here.parts) };
      taken.add(pointerOf(here.parts));
    } else if (there && !ONLY_IN_ENTRIES.has(field)) fields[field] = { in: 'answer', at: pointerOf(there.parts) };
  }
  // members that are named by a domain say of whom they speak
  if (entries.endsWith('/*') && !fields.domain) fields.domain = { in: 'entry', at: '#' };
  if (inEntry.length === 1 && inEntry[0].parts.length === 0) {
    const [wanted] = USE_SPECS[use].fields;
    if (wanted === 'domain' || wanted === 'url') fields[wanted] = { in: 'entry', at: '' };
  }
  return { entries, fields };
}

/** What a list of results repeats and so cannot stand once for all. */
const ONLY_IN_ENTRIES = new Set<AnswerField>(['url', 'title', 'summary', 'mark', 'number', 'owner', 'domain']);

/** What a leaf is called: by its last name, and by that together with the one before it, like `links_total`. */
function namesOf(parts: readonly string[]): string[] {
  const names = parts
    .filter((part) => !/^\d+$/.test(part) && part !== '#text')
    .map((name) =>
      name
        .replace(/^@/, '')
        .replace(/([a-z])([A-Z])/g, '$1_$2')
        .replaceAll('-', '_'),
    );
  return names.length > 1 ? [names[names.length - 1], names.slice(-2).join('_')] : names;
}

/** By the names that services give it. */
const isCalled = (name: string, field: AnswerField): boolean => NAMES[field]?.test(name) ?? false;

/** By names that mean much: what wraps an answer says by them how the question went, so they are taken where nothing tells more. */
const mayBeCalled = (name: string, field: AnswerField): boolean =>
  field === 'availability' && /^(domain_?)?status$/i.test(name);

/** As the title of a column would be understood, where no other field is called so. */
const isTitled = (name: string, field: AnswerField): boolean =>
  titleOf(name.replaceAll('_', ' ')).field === field &&
  !Object.entries(NAMES).some(([other, names]) => other !== field && !SHARED.has(other) && names.test(name));

/** Fields whose names are those of columns, too. */
const SHARED = new Set<string>([
  'availability',
  'status',
  'url',
  'title',
  'summary',
  'number',
  'mark',
  'total',
  'result',
  'reason',
  'order-number',
]);

/** The format that an answer is most likely written in. */
export function formatOf(text: string, contentType: string): AnswerFormat {
  const head = text
    .replace(/^\ufeff/, '')
    .trimStart()
    .slice(0, 400);
  if (/^[[{"]/.test(head) || /json/i.test(contentType)) return 'json';
  if (/<(feed|rss|rdf:RDF)\b/i.test(head)) return 'feed';
  if (/^<!doctype html|^<html\b/i.test(head) || /text\/html/i.test(contentType)) return 'html';
  if (head.startsWith('<')) return 'xml';
  return 'csv';
}
