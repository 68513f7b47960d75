import { LISTING_KINDS } from '../formats/list-fields';
import {
  type ChoiceFact,
  FACT_NAMES,
  FACTS,
  type FactName,
  factSpec,
  type MemberFact,
  type NumberFact,
  SORT_FACTS,
  type TimeFact,
} from './facts';

/** Numbers and times: both ends included; null is open. Times in the fact's unit (FACTS). */
export interface RangeCondition {
  type: 'range';
  fact: NumberFact | TimeFact;
  min: number | null;
  max: number | null;
  /** Whether a domain whose value is unknown stays. */
  keepUnknown: boolean;
  /** Switched off: kept in its place, lets everything through. */
  off?: boolean;
}

export interface ChoiceCondition {
  type: 'choice';
  fact: ChoiceFact;
  values: string[];
  /** Not one of them. */
  not: boolean;
  keepUnknown: boolean;
  off?: boolean;
}

/** word, wordish: a word of the name's split, wordish also in the other number. pattern: RE2 syntax. */
export type TextMode = 'contains' | 'starts' | 'ends' | 'is' | 'word' | 'wordish' | 'pattern';
export const TEXT_MODES: readonly TextMode[] = ['contains', 'starts', 'ends', 'is', 'word', 'wordish', 'pattern'];

/** The label before the ending, as A-label; any of the values. */
export interface TextCondition {
  type: 'text';
  fact: 'name';
  mode: TextMode;
  values: string[];
  /** A long list of values that is kept under a number; `values` is empty then. */
  list?: number;
  not: boolean;
  off?: boolean;
}

/** In one of these sets: sources that named it, tags, shortlists of briefs, kept sieves that let it through lately. */
export interface MemberCondition {
  type: 'member';
  fact: MemberFact;
  values: number[];
  not: boolean;
  off?: boolean;
}

/** A time that lies after the person's last visit. */
export interface VisitCondition {
  type: 'visit';
  fact: TimeFact;
  not: boolean;
  off?: boolean;
}

export type Condition = RangeCondition | ChoiceCondition | TextCondition | MemberCondition | VisitCondition;

export type GroupMode = 'all' | 'any' | 'none';
export const GROUP_MODES: readonly GroupMode[] = ['all', 'any', 'none'];

/** What passes all, any or none of its parts. A group without parts that are on lets everything through. */
export interface Group {
  type: 'group';
  mode: GroupMode;
  parts: SievePart[];
  off?: boolean;
}
export type SievePart = Condition | Group;

export interface Sort {
  fact: FactName;
  descending: boolean;
}

/** What a pool screen shows: kept in its address. Rows pass all parts. */
export interface PoolView {
  parts: SievePart[];
  /** The first decides, the others where those before are equal. */
  sorts: Sort[];
  /** Shown columns in order with their widths in px; null: the usual ones. */
  columns: ColumnSet | null;
}
/** Columns that a view without any shows, by id. */
export const USUAL_COLUMNS = ['domain', 'phase', 'life', 'age', 'referrers', 'pair', 'spam', 'ask', 'closes'] as const;

export interface ColumnSet {
  /** `id` or `id:width`. */
  shown: { id: string; width: number | null }[];
  /** So many of the first stay when the others scroll sideways. */
  pinned: number;
}

const isOneOf = (fact: ChoiceFact, values: readonly string[]): ChoiceCondition => ({
  type: 'choice',
  fact,
  values: [...values],
  not: false,
  keepUnknown: false,
});
/** What can be had, or soon: what is available, lapses, or is offered. */
export const TO_BE_HAD: Group = {
  type: 'group',
  mode: 'any',
  parts: [isOneOf('phase', ['free', 'pending-delete', 'redemption']), isOneOf('listing', LISTING_KINDS)],
};

export const DEFAULT_SORT: Sort = { fact: 'strength', descending: true };
export const MAX_PARTS = 60;
export const MAX_DEPTH = 3;
export const MAX_SORTS = 4;
export const MAX_PATTERN = 1000;
/** Longer lists of values are kept under a number. */
export const MAX_VALUES = 200;
const VALUE_CHARS = 253;

/** Where a part stands: its place among the parts, and so on downwards: `2`, `2.0`. */
export function eachPart(
  parts: SievePart[],
  visit: (part: SievePart, path: string, depth: number) => void,
  above = '',
): void {
  parts.forEach((part, index) => {
    const path = above === '' ? String(index) : `${above}.${index}`;
    visit(part, path, path.split('.').length);
    if (part.type === 'group') eachPart(part.parts, visit, path);
  });
}

/** The part at a path; null where there is none. */
export function partAt(parts: SievePart[], path: string): SievePart | null {
  let list = parts;
  let found: SievePart | null = null;
  for (const step of path.split('.')) {
    found = list[Number(step)] ?? null;
    if (!found) return null;
    list = found.type === 'group' ? found.parts : [];
  }
  return found;
}

/** The same parts with one replaced; null takes it out. */
export function withPart(parts: SievePart[], path: string, next: SievePart | null): SievePart[] {
  const [first, ...rest] = path.split('.');
  return parts.flatMap((part, index) => {
    if (index !== Number(first)) return [part];
    if (rest.length === 0) return next ? [next] : [];
    return part.type === 'group' ? [{ ...part, parts: withPart(part.parts, rest.join('.'), next) }] : [part];
  });
}

/**
 * Parts as text, readable and short enough for an address: `strength:20..60?` (unknown kept), `phase:free,redemption`,
 * `ending:!edu,gov`, `name:word=bee,hive`, `name:is=@7` (list 7), `source:3`, `added:visit`; `~` in front of one that is off;
 * groups `any(…;…)`.
 */
export function formatPart(part: SievePart): string {
  const off = part.off ? '~' : '';
  if (part.type === 'group') return `${off}${part.mode}(${part.parts.map(formatPart).join(';')})`;
  return `${off}${part.fact}:${formatBody(part)}`;
}

function formatBody(part: Condition): string {
  const not = part.type !== 'range' && part.not ? '!' : '';
  switch (part.type) {
    case 'range':
      return `${part.min ?? ''}..${part.max ?? ''}${part.keepUnknown ? '?' : ''}`;
    case 'choice':
      return `${not}${part.values.map(escapeWord).join(',')}${part.keepUnknown ? '?' : ''}`;
    case 'text':
      return `${not}${part.mode}=${part.list ? `@${part.list}` : part.values.map(escapeWord).join(',')}`;
    case 'member':
      return `${not}${part.values.join(',')}`;
    case 'visit':
      return `${not}visit`;
  }
}

/** Marks of this notation that `encodeURIComponent` leaves alone. */
function escapeWord(word: string): string {
  return encodeURIComponent(word).replace(/[!()~'*]/g, (mark) => `%${mark.charCodeAt(0).toString(16).toUpperCase()}`);
}

/** Reads what formatPart wrote. @returns the part, or what is wrong with the text, for the person who sees it. */
export function parsePart(text: string, depth = 1): SievePart | string {
  const off = text.startsWith('~') ? { off: true } : {};
  const rest = off.off ? text.slice(1) : text;
  const group = /^(all|any|none)\((.*)\)$/s.exec(rest);
  if (!group) {
    const condition = parseCondition(rest);
    return typeof condition === 'string' ? condition : { ...condition, ...off };
  }
  if (depth >= MAX_DEPTH) return `Groups stand at most ${MAX_DEPTH - 1} deep in each other`;
  const parts: SievePart[] = [];
  for (const inner of innerParts(group[2])) {
    const part = parsePart(inner, depth + 1);
    if (typeof part === 'string') return part;
    parts.push(part);
  }
  return { type: 'group', mode: group[1] as GroupMode, parts, ...off };
}

/** Cuts at the semicolons that stand in no bracket. */
function innerParts(text: string): string[] {
  const parts: string[] = [];
  let open = 0;
  let from = 0;
  for (let at = 0; at < text.length; at++) {
    const mark = text[at];
    if (mark === '(') open++;
    else if (mark === ')') open--;
    else if (mark === ';' && open === 0) {
      parts.push(text.slice(from, at));
      from = at + 1;
    }
  }
  if (text !== '') parts.push(text.slice(from));
  return parts;
}

function parseCondition(text: string): Condition | string {
  const colon = text.indexOf(':');
  const fact = text.slice(0, colon) as FactName;
  if (colon < 0 || !FACT_NAMES.includes(fact)) return `"${text.slice(0, 60)}" names no fact of the pool`;
  const body = text.slice(colon + 1);
  const not = body.startsWith('!');
  const rest = not ? body.slice(1) : body;
  switch (FACTS[fact].kind) {
    case 'number':
    case 'time':
      if (rest === 'visit' && FACTS[fact].kind === 'time') return { type: 'visit', fact: fact as TimeFact, not };
      return parseRange(fact as NumberFact | TimeFact, body);
    case 'choice':
      return parseChoice(fact as ChoiceFact, rest, not);
    case 'member':
      return parseMember(fact as MemberFact, rest, not);
    case 'text':
      return parseText(rest, not);
  }
}

function parseRange(fact: NumberFact | TimeFact, body: string): Condition | string {
  const found = /^(-?[\d.]*(?:e[+-]?\d+)?)\.\.(-?[\d.]*(?:e[+-]?\d+)?)(\?)?$/i.exec(body);
  if (!found) return `${FACTS[fact].label}: "${body.slice(0, 40)}" is no range; write it as 5..20, 5.. or ..20`;
  const min = found[1] === '' ? null : Number(found[1]);
  const max = found[2] === '' ? null : Number(found[2]);
  if ((min !== null && !Number.isFinite(min)) || (max !== null && !Number.isFinite(max)))
    return `${FACTS[fact].label}: "${body.slice(0, 40)}" holds something that is no number`;
  return { type: 'range', fact, min, max, keepUnknown: found[3] === '?' };
}

function parseChoice(fact: ChoiceFact, rest: string, not: boolean): Condition | string {
  const keepUnknown = rest.endsWith('?');
  const values = words(keepUnknown ? rest.slice(0, -1) : rest);
  if (typeof values === 'string') return values;
  const known = factSpec(fact).choices;
  const stray = known && values.find((value) => !known.includes(value));
  if (stray !== undefined) return `${FACTS[fact].label}: there is no "${stray.slice(0, 40)}"`;
  return { type: 'choice', fact, values, not, keepUnknown };
}

function parseMember(fact: MemberFact, rest: string, not: boolean): Condition | string {
  const values = rest.split(',').filter(Boolean).map(Number);
  if (values.some((value) => !Number.isSafeInteger(value) || value < 1))
    return `${FACTS[fact].label}: each is named by its number`;
  return { type: 'member', fact, values, not };
}

function parseText(rest: string, not: boolean): Condition | string {
  const equals = rest.indexOf('=');
  const mode = rest.slice(0, equals) as TextMode;
  if (equals < 0 || !TEXT_MODES.includes(mode)) return `Name: say ${TEXT_MODES.join(', ')}`;
  const body = rest.slice(equals + 1);
  const list = /^@(\d{1,9})$/.exec(body);
  if (list) return { type: 'text', fact: 'name', mode, values: [], list: Number(list[1]), not };
  const values = words(body);
  return typeof values === 'string' ? values : { type: 'text', fact: 'name', mode, values, not };
}

function words(text: string): string[] | string {
  try {
    return text.split(',').filter(Boolean).map(decodeURIComponent);
  } catch {
    return `"${text.slice(0, 40)}" holds a broken escape`;
  }
}

/**
 * What is wrong with a condition as a whole: too long, empty between its ends, or nothing at all chosen. Such a condition is
 * kept and answered (nothing, or everything, gets through); the person is told beside it.
 *
 * @param patternProblem says what is wrong with a pattern; null: nothing.
 */
export function troubleWith(part: SievePart, patternProblem: (pattern: string) => string | null): string | null {
  if (part.type === 'range') {
    const { min, max } = part;
    if (min !== null && max !== null && min > max)
      return 'The lower end is above the upper, so nothing known gets through';
    return null;
  }
  if (part.type !== 'text') return null;
  const long = part.values.find((value) => value.length > (part.mode === 'pattern' ? MAX_PATTERN : VALUE_CHARS));
  if (long !== undefined)
    return part.mode === 'pattern'
      ? `A pattern has at most ${MAX_PATTERN} characters; this one has ${long.length.toLocaleString('en')}`
      : `"${long.slice(0, 30)}…" is longer than any name`;
  if (part.mode === 'pattern')
    for (const pattern of part.values) {
      const problem = patternProblem(pattern);
      if (problem) return `"${pattern.slice(0, 40)}" is no pattern: ${problem}`;
    }
  return null;
}

/** A view as query parameters: `c` for each part, `sort`, `columns`. */
export function formatView(view: PoolView): URLSearchParams {
  const parameters = new URLSearchParams();
  for (const part of view.parts) parameters.append('c', formatPart(part));
  const sorts = formatSorts(view.sorts);
  if (sorts !== formatSorts([DEFAULT_SORT])) parameters.set('sort', sorts);
  if (view.columns) {
    const shown = view.columns.shown.map(({ id, width }) => (width === null ? id : `${id}:${width}`)).join(',');
    parameters.set('columns', `${view.columns.pinned}|${shown}`);
  }
  return parameters;
}

export function formatSorts(sorts: Sort[]): string {
  return sorts.map(({ fact, descending }) => `${fact}:${descending ? 'down' : 'up'}`).join(',');
}

/** Reads a view from an address. What makes no sense is left out and said in `problems`. */
export function parseView(parameters: URLSearchParams): PoolView & { problems: string[] } {
  const problems: string[] = [];
  const parts: SievePart[] = [];
  let count = 0;
  for (const text of parameters.getAll('c')) {
    const part = parsePart(text);
    if (typeof part === 'string') {
      problems.push(part);
      continue;
    }
    eachPart([part], () => count++);
    if (count > MAX_PARTS) {
      problems.push(`Only ${MAX_PARTS} conditions fit; the rest is left out`);
      break;
    }
    parts.push(part);
  }
  return {
    parts,
    sorts: parseSorts(parameters.get('sort'), problems),
    columns: parseColumns(parameters.get('columns')),
    problems,
  };
}

function parseSorts(text: string | null, problems: string[]): Sort[] {
  const sorts: Sort[] = [];
  for (const one of (text ?? '').split(',').filter(Boolean).slice(0, MAX_SORTS)) {
    const [fact, direction] = one.split(':') as [FactName, string];
    if (SORT_FACTS.includes(fact)) sorts.push({ fact, descending: direction !== 'up' });
    else problems.push(`There is no sorting by "${one.slice(0, 40)}"`);
  }
  return sorts.length > 0 ? sorts : [DEFAULT_SORT];
}

const MAX_COLUMNS = 60;
const WIDTHS = [30, 800] as const;

function parseColumns(text: string | null): ColumnSet | null {
  const found = /^(\d{1,2})\|(.+)$/.exec(text ?? '');
  if (!found) return null;
  const shown = found[2]
    .split(',')
    .slice(0, MAX_COLUMNS)
    .flatMap((one) => {
      const [id, width] = one.split(':');
      if (!/^[a-zA-Z][a-zA-Z0-9]{0,29}$/.test(id)) return [];
      const px = Number(width);
      return [
        { id, width: width && Number.isFinite(px) ? Math.max(WIDTHS[0], Math.min(WIDTHS[1], Math.round(px))) : null },
      ];
    });
  return shown.length > 0 ? { shown, pinned: Number(found[1]) } : null;
}
