import { parseDate } from '../formats/values';
import type { RecordOutcome, RegistrationRecord } from './phase';
import {
  DAY_FIRST,
  englishMonth,
  FREE_STATUSES,
  fieldOf,
  NOT_FOUND_LINES,
  NOT_FOUND_NAMED,
  REFUSALS,
  type WhoisField,
} from './whois-tables';

export interface WhoisAnswer {
  outcome: RecordOutcome;
  record: RegistrationRecord | null;
  /** Host of the server to ask next: where the answer only refers, or where the registrar holds the rest of the record. */
  referral: string | null;
}

const MAX_CHARACTERS = 256 * 1024;

/**
 * Reads a WHOIS answer. Understands `Label: value`, `Label.....: value`, `[Label] value`, labels and values in columns, and a label
 * on its own line with indented values below, in several languages.
 *
 * @param name the domain that was asked for; an answer about another one is none. null: not compared.
 * @returns outcome `failed` when no shape fits: the text is then all there is.
 */
export function readWhois(text: string, name: string | null = null): WhoisAnswer {
  const body = text.slice(0, MAX_CHARACTERS);
  const lines = body.split(/\r\n|\r|\n/);
  const none = (outcome: RecordOutcome, referral: string | null = null): WhoisAnswer => ({
    outcome,
    record: null,
    referral,
  });
  const values = collect(lines);
  const first = (field: WhoisField): string | null => values.get(field)?.[0] ?? null;
  const isDayFirst = daysComeFirst(values, name);
  const date = (field: WhoisField) => dateOf(first(field), isDayFirst);
  const registeredAt = date('registered');
  const expiresAt = date('expires');
  const isDated = registeredAt !== null || expiresAt !== null;
  const referral = hostOf(first('referral'));
  const about = first('domain')?.toLowerCase().replace(/\.$/, '').split(/\s/)[0] ?? null;
  const isAboutIt = name === null || about === null || about === name;
  if (!isDated) {
    if (REFUSALS.test(fold(body))) return none('refused');
    const status = first('status');
    if (status !== null && FREE_STATUSES.test(fold(status).replace(/\.$/, ''))) return none('not-found');
    const isRecord =
      values.has('domain') && ['status', 'nameServer', 'registrar'].some((field) => values.has(field as WhoisField));
    if (!values.has('registrar') && lines.some(saysNotFound)) return none('not-found');
    if (!isRecord) return none('failed', referral);
  }
  if (!isAboutIt) return none('failed');
  const record: RegistrationRecord = {
    statuses: (values.get('status') ?? [])
      .flatMap((line) => line.replace(/\(?https?:\S+/g, '').split(','))
      .map((s) => s.trim())
      .filter(Boolean),
    registeredAt,
    expiresAt,
    changedAt: date('changed'),
    registrar: first('registrar')?.replace(/\s*\[tag = [^\]]*\]$/i, '') ?? null,
    registrant: first('registrant')?.slice(0, 200) ?? undefined,
    nameServers: (values.get('nameServer') ?? [])
      .flatMap((line) => line.split(/[\s,;]+/, 1))
      .map((server) => server.toLowerCase().replace(/\.$/, ''))
      .filter((server) => server.includes('.')),
  };
  return { outcome: 'found', record, referral };
}

/**
 * What a registry and a registrar say of one domain, together: the registry is believed where it says something, the registrar fills
 * what a thin registry leaves out.
 */
export function joinRecords(registry: RegistrationRecord, registrar: RegistrationRecord): RegistrationRecord {
  return {
    statuses: registry.statuses.length > 0 ? registry.statuses : registrar.statuses,
    registeredAt: registry.registeredAt ?? registrar.registeredAt,
    expiresAt: registry.expiresAt ?? registrar.expiresAt,
    changedAt: registry.changedAt ?? registrar.changedAt,
    registrar: registry.registrar ?? registrar.registrar,
    registrant: registry.registrant ?? registrar.registrant,
    nameServers: registry.nameServers.length > 0 ? registry.nameServers : registrar.nameServers,
  };
}

const fold = (text: string) =>
  text
    .toLowerCase()
    .normalize('NFD')
    .replace(/[\u0300-\u036f]/g, '')
    .normalize('NFC');

function saysNotFound(line: string): boolean {
  const said = fold(line).replace(/^[\s%#>*"'-]+/, '');
  return NOT_FOUND_LINES.test(said) || NOT_FOUND_NAMED.test(said);
}

/** Values by field, in their order. Comment lines say nothing of the domain. */
function collect(lines: string[]): Map<WhoisField, string[]> {
  const values = new Map<WhoisField, string[]>();
  const add = (field: WhoisField, value: string) => {
    const list = values.get(field);
    if (list) list.push(value);
    else values.set(field, [value]);
  };
  let block: WhoisField | null = null;
  for (const raw of lines) {
    if (/^\s*[%#>]/.test(raw)) continue;
    const line = raw.trim();
    if (line === '') {
      block = null;
      continue;
    }
    const pair = labelled(line);
    if (pair) {
      const [field, value] = pair;
      if (value !== '') add(field, value);
      block = value === '' ? field : null;
    } else if (block && /^\s+\S/.test(raw)) add(block, line);
    else if (!/^\s/.test(raw)) block = null;
  }
  return values;
}

const SHAPES = [
  /^(?:[a-z]\.\s*)?\[([^\]]{1,60})\]\s*(.*)$/i, // [Label] value, with or without a letter before
  /^([^:]{2,60}?)[.\s]*:(?:\s*)(.*)$/, // Label: value, Label......: value
  /^(\S[^:\t]{1,58}?)(?:\t+|\s{3,})(\S.*)$/, // Label      value
];

function labelled(line: string): [WhoisField, string] | null {
  for (const shape of SHAPES) {
    const found = shape.exec(line);
    const field = found && fieldOf(found[1]);
    if (found && field) return [field, found[2].trim()];
  }
  return null;
}

function hostOf(text: string | null): string | null {
  const host = text?.replace(/^r?whois:\/\//i, '').replace(/\/.*$/, '') ?? '';
  return /^[a-z0-9.-]+\.[a-z0-9-]+(:\d{1,5})?$|^[\d.]+:\d{1,5}$/i.test(host) ? host.toLowerCase() : null;
}

/** With slashes or dashes between numbers only, whether the day comes first: where one date shows it, or by the registry's habit. */
function daysComeFirst(values: Map<WhoisField, string[]>, name: string | null): boolean {
  for (const field of ['registered', 'expires', 'changed'] as const)
    for (const value of values.get(field) ?? []) {
      const found = /^(\d{1,2})[/-](\d{1,2})[/-]\d{4}/.exec(value);
      if (found && +found[1] > 12) return true;
      if (found && +found[2] > 12) return false;
    }
  return name !== null && DAY_FIRST.has(name.slice(name.lastIndexOf('.') + 1));
}

function dateOf(text: string | null, isDayFirst: boolean): number | null {
  if (text === null) return null;
  let value = text
    .normalize('NFC')
    .replace(/^(before|vor|avant)\s+/i, '')
    .replace(/\s*\((?:yyyy|dd|mm|utc|gmt|jst|cet)[^)]*\)/gi, '')
    .replace(/\s+(CET|CEST|JST|KST|EET|EEST|BST|WET|MSK)$/, '')
    .replace(/(:\d{2})\.\d+(?=Z|[+-]|$)/, '$1')
    .trim();
  const spaced = /^(\d{4})\.\s+(\d{1,2})\.\s+(\d{1,2})\.?$/.exec(value); // 2027. 05. 06.
  if (spaced) value = spaced.slice(1).join('-');
  value = value.replace(/\p{L}{3,}/gu, englishMonth).replace(/\s+de\s+/g, ' ');
  const numbers = /^(\d{1,2})[/-](\d{1,2})[/-](\d{4})(.*)$/.exec(value);
  if (numbers) {
    const [, a, b, year, rest] = numbers;
    const [day, month] = isDayFirst ? [a, b] : [b, a];
    value = `${day}.${month}.${year}${rest}`;
  }
  return parseDate(value) ?? parseDate(value.split(/\s/)[0]) ?? parseDate(value.split(/\s/).slice(0, 3).join(' '));
}
