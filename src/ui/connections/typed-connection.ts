import { z } from 'zod';
import type { ConnectionView } from '../../contracts/connections';
import { connectionsCalls } from '../../contracts/connections';
import {
  ANSWER_FIELDS,
  ANSWER_FORMATS,
  type AnswerField,
  AVAILABILITY,
  CONNECTION_USES,
  type ConnectionUse,
  type Description,
  type FieldPlace,
  type Paging,
  RESULTS,
} from '../../core/connections/connection';
import { ORDER_KINDS } from '../../core/orders/order';
import { linesOf, number, readBy, sentBy } from '../forms/typed';

const trimmed = z.string().trim();
const whole = number({ isWhole: true });

/** Where a field stands as it is typed: `/price` in each entry, `^/currency` once in the answer, `= auction` always so. */
export function placeOf(text: string): FieldPlace | null {
  const typed = text.trim();
  if (typed === '') return null;
  if (typed.startsWith('=')) return { in: 'fixed', at: typed.slice(1).trim() };
  if (typed.startsWith('^')) return { in: 'answer', at: typed.slice(1).trim() };
  // an entry that is a text itself
  return { in: 'entry', at: typed === '.' ? '' : typed };
}

/** A place as it is typed. */
export function placeText(place: FieldPlace | undefined): string {
  if (!place) return '';
  if (place.in === 'fixed') return `= ${place.at}`;
  if (place.in === 'answer') return `^${place.at}`;
  return place.at === '' ? '.' : place.at;
}

/** `X-Api-Key: {key}`, one a line. */
const headersOf = readBy((text) =>
  linesOf(text).map((line) => {
    const colon = line.indexOf(':');
    if (colon < 1) throw new Error(`“${line.slice(0, 40)}” is no header: write it like X-Api-Key: {key}.`);
    return { name: line.slice(0, colon).trim(), value: line.slice(colon + 1).trim() };
  }),
);

/** `/error/message`, or `/status = failed`, one a line. */
const errorsOf = z.string().transform((text) =>
  linesOf(text).map((line) => {
    const sign = line.indexOf(' = ');
    return sign < 0 ? { at: line, is: '' } : { at: line.slice(0, sign).trim(), is: line.slice(sign + 3).trim() };
  }),
);

const statusesOf = readBy((text) =>
  text
    .split(/[\s,;]+/)
    .filter(Boolean)
    .map((one) => {
      if (!/^4\d\d$/.test(one)) throw new Error(`“${one.slice(0, 20)}” is no status from 400 to 499.`);
      return Number(one);
    }),
);

const paging = z
  .object({ by: z.enum(['none', 'page', 'offset', 'cursor', 'link']), from: trimmed, step: trimmed, at: trimmed })
  .transform(({ by, from, step, at }): Paging => {
    if (by === 'page') return { by, from: Number(from) };
    if (by === 'offset') return { by, step: Number(step) };
    return by === 'none' ? { by } : { by, at };
  });

const WORDS = [...AVAILABILITY, ...RESULTS] as const;

const words = z
  .record(z.enum(WORDS), trimmed)
  .transform((given) => Object.fromEntries(WORDS.flatMap((one) => (given[one] ? [[one, given[one]]] : []))));

const kinds = z
  .record(z.enum(ORDER_KINDS), z.boolean())
  .transform((given) => ORDER_KINDS.filter((kind) => given[kind]));

const fields = z.record(z.string(), z.string()).transform((given): Description['fields'] =>
  Object.fromEntries(
    ANSWER_FIELDS.flatMap((field) => {
      const place = placeOf(given[field] ?? '');
      return place ? [[field, place]] : [];
    }),
  ),
);

/** What is typed into the fields of a connection, as the interface takes it. */
export const TypedConnection = sentBy(
  z.object({
    title: trimmed,
    use: z.enum(CONNECTION_USES),
    method: z.enum(['GET', 'POST', 'PUT']),
    address: trimmed,
    headers: headersOf,
    body: z.string(),
    bodyType: z.enum(['json', 'form', 'xml']),
    login: z.enum(['none', 'basic']),
    user: trimmed,
    key: trimmed,
    password: z.string(),
    format: z.enum(ANSWER_FORMATS),
    entries: trimmed,
    fields,
    words,
    venue: trimmed,
    kinds,
    currency: trimmed.toUpperCase(),
    isMinor: z.boolean(),
    paging,
    perMinute: whole,
    errors: errorsOf,
    nothing: statusesOf,
    isOn: z.boolean(),
    isDry: z.boolean(),
    question: trimmed,
    /** An answer that was pasted. */
    sample: z.string(),
  }),
  connectionsCalls['POST /connections'].body,
);
export type TypedIn = z.input<typeof TypedConnection>;
export type TypedOut = z.output<typeof TypedConnection>;

/** A connection as it stands in its fields; null: an empty one for a use. */
export function typedConnection(view: ConnectionView | null, use: ConnectionUse, question: string): TypedIn {
  const of = view?.description;
  const next = of?.paging ?? { by: 'none' as const };
  return {
    title: of?.title ?? '',
    use: of?.use ?? use,
    method: of?.method ?? 'GET',
    address: of?.address ?? '',
    headers: (of?.headers ?? []).map(({ name, value }) => `${name}: ${value}`).join('\n'),
    body: of?.body ?? '',
    bodyType: of?.bodyType ?? 'json',
    login: of?.login ?? 'none',
    user: view?.user ?? '',
    key: '',
    password: '',
    format: of?.format ?? 'json',
    entries: of?.entries ?? '',
    fields: Object.fromEntries(ANSWER_FIELDS.map((field: AnswerField) => [field, placeText(of?.fields[field])])),
    words: eachOf(WORDS, (one) => of?.words[one] ?? ''),
    venue: of?.venue ?? '',
    kinds: eachOf(ORDER_KINDS, (kind) => (of?.kinds ?? ['bid']).includes(kind)),
    currency: of?.currency ?? '',
    isMinor: of?.isMinor ?? false,
    paging: {
      by: next.by,
      from: next.by === 'page' ? String(next.from) : '1',
      step: next.by === 'offset' ? String(next.step) : '100',
      at: next.by === 'cursor' || next.by === 'link' ? next.at : '',
    },
    perMinute: String(of?.perMinute ?? 30),
    errors: (of?.errors ?? []).map(({ at, is }) => (is === '' ? at : `${at} = ${is}`)).join('\n'),
    nothing: (of?.nothing ?? []).join(', '),
    isOn: view?.isOn ?? true,
    isDry: view?.isDry ?? true,
    question,
    sample: '',
  };
}

function eachOf<K extends string, V>(keys: readonly K[], of: (key: K) => V): Record<K, V> {
  return Object.fromEntries(keys.map((key) => [key, of(key)])) as Record<K, V>;
}
