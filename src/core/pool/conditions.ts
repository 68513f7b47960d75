import { FACT_NAMES, FACTS, type FactName, factSpec } from './facts';

/** Numbers and times: both ends included; null is open. Times in the fact's unit (FACTS). */
export interface RangeCondition {
  type: 'range';
  fact: FactName;
  min: number | null;
  max: number | null;
  /** Whether a domain whose value is unknown stays. */
  keepUnknown: boolean;
}

export interface ChoiceCondition {
  type: 'choice';
  fact: FactName;
  values: string[];
  /** Not one of them. */
  not: boolean;
}

export type TextMode = 'contains' | 'starts' | 'ends' | 'is';
export const TEXT_MODES: readonly TextMode[] = ['contains', 'starts', 'ends', 'is'];

/** Letters of the label before the ending; any of the needles. */
export interface TextCondition {
  type: 'text';
  fact: 'name';
  mode: TextMode;
  values: string[];
  not: boolean;
}

/** Named by one of these sources. */
export interface MemberCondition {
  type: 'member';
  fact: 'source';
  values: number[];
  not: boolean;
}

export type Condition = RangeCondition | ChoiceCondition | TextCondition | MemberCondition;

export interface Sort {
  fact: FactName;
  descending: boolean;
}

/** What a pool screen shows: kept in its address. */
export interface PoolView {
  conditions: Condition[];
  sort: Sort;
}

export const DEFAULT_SORT: Sort = { fact: 'strength', descending: true };
/** One bit each in a 32-bit mask, the sign bit left alone. */
export const MAX_CONDITIONS = 31;

/**
 * Conditions as text, one each, readable and short enough for an address:
 * `strength:20..60?` (unknown kept), `phase:free,redemption`, `ending:!edu,gov`, `name:contains=bee,hive`, `source:3`.
 */
export function formatCondition(condition: Condition): string {
  const { fact } = condition;
  switch (condition.type) {
    case 'range':
      return `${fact}:${condition.min ?? ''}..${condition.max ?? ''}${condition.keepUnknown ? '?' : ''}`;
    case 'choice':
      return `${fact}:${condition.not ? '!' : ''}${condition.values.map(escapeWord).join(',')}`;
    case 'text':
      return `${fact}:${condition.not ? '!' : ''}${condition.mode}=${condition.values.map(escapeWord).join(',')}`;
    case 'member':
      return `${fact}:${condition.not ? '!' : ''}${condition.values.join(',')}`;
  }
}

/** Reads what formatCondition wrote. @returns the condition, or what is wrong with the text, for the person who sees it. */
export function parseCondition(text: string): Condition | string {
  const colon = text.indexOf(':');
  const fact = text.slice(0, colon) as FactName;
  if (colon < 0 || !FACT_NAMES.includes(fact)) return `"${text.slice(0, 60)}" names no fact of the pool`;
  const body = text.slice(colon + 1);
  const not = body.startsWith('!');
  const rest = not ? body.slice(1) : body;
  switch (FACTS[fact].kind) {
    case 'number':
    case 'time':
      return parseRange(fact, body);
    case 'choice':
      return parseChoice(fact, rest, not);
    case 'member':
      return parseMember(rest, not);
    case 'text':
      return parseText(rest, not);
  }
}

function parseRange(fact: FactName, body: string): Condition | string {
  const found = /^(-?[\d.]*(?:e[+-]?\d+)?)\.\.(-?[\d.]*(?:e[+-]?\d+)?)(\?)?$/i.exec(body);
  if (!found) return `${FACTS[fact].label}: "${body.slice(0, 40)}" is no range; write it as 5..20, 5.. or ..20`;
  const min = found[1] === '' ? null : Number(found[1]);
  const max = found[2] === '' ? null : Number(found[2]);
  if ((min !== null && !Number.isFinite(min)) || (max !== null && !Number.isFinite(max)))
    return `${FACTS[fact].label}: "${body.slice(0, 40)}" holds something that is no number`;
  return { type: 'range', fact, min, max, keepUnknown: found[3] === '?' };
}

function parseChoice(fact: FactName, rest: string, not: boolean): Condition | string {
  const values = words(rest);
  if (typeof values === 'string') return values;
  const known = factSpec(fact).choices;
  const stray = known && values.find((value) => !known.includes(value));
  if (stray !== undefined) return `${FACTS[fact].label}: there is no "${stray.slice(0, 40)}"`;
  return { type: 'choice', fact, values, not };
}

function parseMember(rest: string, not: boolean): Condition | string {
  const values = rest.split(',').filter(Boolean).map(Number);
  if (values.some((value) => !Number.isSafeInteger(value) || value < 1))
    return 'Source: a source is named by its number';
  return { type: 'member', fact: 'source', values, not };
}

function parseText(rest: string, not: boolean): Condition | string {
  const equals = rest.indexOf('=');
  const mode = rest.slice(0, equals) as TextMode;
  if (equals < 0 || !TEXT_MODES.includes(mode)) return 'Name: say contains, starts, ends or is';
  const values = words(rest.slice(equals + 1));
  return typeof values === 'string' ? values : { type: 'text', fact: 'name', mode, values, not };
}

/** The exclamation mark stands for "not" here, so it is escaped too. */
function escapeWord(word: string): string {
  return encodeURIComponent(word).replaceAll('!', '%21');
}

function words(text: string): string[] | string {
  try {
    return text.split(',').filter(Boolean).map(decodeURIComponent);
  } catch {
    return `"${text.slice(0, 40)}" holds a broken escape`;
  }
}

/** A view as query parameters: `c` for each condition, `sort`. */
export function formatView(view: PoolView): URLSearchParams {
  const parameters = new URLSearchParams();
  for (const condition of view.conditions) parameters.append('c', formatCondition(condition));
  const { fact, descending } = view.sort;
  if (fact !== DEFAULT_SORT.fact || descending !== DEFAULT_SORT.descending)
    parameters.set('sort', `${fact}:${descending ? 'down' : 'up'}`);
  return parameters;
}

/** Reads a view from an address. What makes no sense is left out and said in `problems`. */
export function parseView(parameters: URLSearchParams): PoolView & { problems: string[] } {
  const problems: string[] = [];
  const conditions: Condition[] = [];
  for (const text of parameters.getAll('c')) {
    const condition = parseCondition(text);
    if (typeof condition === 'string') problems.push(condition);
    else if (conditions.length >= MAX_CONDITIONS)
      problems.push(`Only ${MAX_CONDITIONS} conditions fit; the rest is left out`);
    else conditions.push(condition);
  }
  let sort = DEFAULT_SORT;
  const asked = parameters.get('sort');
  if (asked) {
    const [fact, direction] = asked.split(':');
    if (FACT_NAMES.includes(fact as FactName) && fact !== 'source')
      sort = { fact: fact as FactName, descending: direction !== 'up' };
    else problems.push(`There is no sorting by "${fact.slice(0, 40)}"`);
  }
  return { conditions, sort, problems };
}
