import { fold } from './fold';
import type { RecordOutcome, RegistrationRecord } from './phase';
import { readRegistryDate } from './registry-date';
import { asciiName, type Said, whatIsSaid } from './sentences';
import { isFreeStatus, phaseOfStatus } from './status-words';
import { DAY_FIRST, fieldOf, foldLabel, OTHER_OBJECTS, type WhoisField } from './whois-tables';

export interface WhoisAnswer {
  outcome: RecordOutcome;
  record: RegistrationRecord | null;
  /** Host of the server to ask next: where the answer only refers, or where the registrar holds the rest of the record. */
  referral: string | null;
  /** The words that decided, where it was no record; null: there are none. */
  words: string | null;
  /** Fields whose values could not be read, as they stand. */
  unread: string[];
}

const MAX_CHARACTERS = 256 * 1024;

/**
 * Reads a WHOIS answer. Understands `Label: value`, `Label.....: value`, `[Label] value`, labels and values in columns, and a label
 * on its own line with values below, in several languages. A record is read before any sentence is: what says "not found" beside one
 * speaks of something else.
 *
 * @param name the domain that was asked for, A-label form; an answer about another one is none. null: not compared.
 * @returns outcome `failed` when no shape fits: the text is then all there is.
 */
export function readWhois(text: string, name: string | null = null): WhoisAnswer {
  const lines = text.slice(0, MAX_CHARACTERS).split(/\r\n|\r|\n/);
  const { values, isOfAnother, hasRecord } = collect(lines, name);
  const first = (field: WhoisField): string | null => values.get(field)?.[0] ?? null;
  const unread: string[] = [];
  const isDayFirst = daysComeFirst(values, name);
  const date = (...fields: WhoisField[]): number | null => {
    for (const field of fields)
      for (const value of values.get(field) ?? []) {
        const at = readRegistryDate(value, isDayFirst);
        if (at !== null) return at;
        if (/\d{2}/.test(value)) unread.push(`${field}: ${value.slice(0, 60)}`);
      }
    return null;
  };
  const statuses = (values.get('status') ?? [])
    .flatMap((line) => line.replace(/\(?https?:\S+/g, '').split(/,(?!\s*(?:to be|pending|before|and|or)\b)/i))
    .map((status) => status.trim())
    .filter(Boolean);
  const record: RegistrationRecord = {
    statuses,
    registeredAt: date('registered'),
    expiresAt: date('expires', 'registrarExpires') ?? bracketedDate(values, isDayFirst),
    changedAt: date('changed'),
    deletesAt: date('deletesAt'),
    freeAt: date('freeAt'),
    registrar:
      first('registrar')
        ?.replace(/\s*\[tag = [^\]]*\]$/i, '')
        .replace(/\s*\(https?:[^)]*\)$/i, '')
        .slice(0, 200) ?? null,
    registrant: first('registrant')?.slice(0, 200) ?? undefined,
    nameServers: serversOf(values.get('nameServer') ?? []),
  };
  const referral = hostOf(first('referral'));
  const none = (outcome: RecordOutcome, words: string | null = null): WhoisAnswer => ({
    outcome,
    record: null,
    referral,
    words,
    unread,
  });
  const isDated = record.registeredAt !== null || record.expiresAt !== null;
  const isAboutIt = !isOfAnother;
  const found = (): WhoisAnswer => ({ outcome: 'found', record, referral, words: null, unread });
  if (isDated && isAboutIt) return found();
  const said = saidIn(lines, name);
  // beside a record of whatever name, a sentence that names none may speak of anything
  const says = (what: Said) =>
    said.find((one) => one.said === what && (one.isNamed || what === 'refused' || (isAboutIt && !hasRecord)));
  const refusal = says('refused');
  if (refusal) return none('refused', refusal.words);
  const isRecord = values.has('domain') && (record.registrar !== null || record.nameServers.length > 0);
  if (isRecord && isAboutIt) return found();
  // what it is said to be, where it is said to be anything
  const status = isAboutIt ? (statuses.find((one) => !isFreeStatus(one)) ?? null) : null;
  const phase = status === null ? null : phaseOfStatus(status);
  const withheld = says('withheld');
  if (phase === 'not-registrable' || phase === 'withheld-alone' || withheld)
    return none('withheld', withheld?.words ?? status);
  const premium = says('premium');
  if (premium || phase === 'premium') return none('premium', premium?.words ?? status);
  if (phase === 'unclear') return none('failed');
  // the name with some state, and nothing more: there is a registration, whatever else is said
  if (status !== null) return values.has('domain') ? found() : none('failed');
  const lapsing = says('lapsing');
  if (lapsing) return { ...found(), record: { ...record, statuses: [lapsing.words] }, words: lapsing.words };
  const isFree = isAboutIt && statuses.length > 0 && !hasRecord;
  const notFound = isFree ? { words: `status: ${statuses[0]}` } : says('not-found');
  if (notFound && !lines.some(isLapsing)) return none('not-found', notFound.words);
  return none('failed');
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
    deletesAt: registry.deletesAt ?? registrar.deletesAt,
    freeAt: registry.freeAt ?? registrar.freeAt,
    registrar: registry.registrar ?? registrar.registrar,
    registrant: registry.registrant ?? registrar.registrant,
    nameServers: registry.nameServers.length > 0 ? registry.nameServers : registrar.nameServers,
  };
}

/** A line of its own that says where a name stands, of a shape that was not understood: then it is not free, whatever else is said. */
function isLapsing(line: string): boolean {
  const words = line.trim();
  const phase = words.length <= 40 && /^[\p{L}\s*()-]+$/u.test(words) ? phaseOfStatus(words) : null;
  return phase === 'redemption' || phase === 'pending-delete' || phase === 'auto-renew';
}

/** Sentences that say something, each once; of long legal text only what speaks of the name. */
function saidIn(lines: string[], name: string | null): { said: Said; words: string; isNamed: boolean }[] {
  return lines
    .flatMap((line) => line.split(/(?<=[.!?])\s+(?=\S)/))
    .flatMap((sentence) => whatIsSaid(sentence, name) ?? whatIsSaidBehind(sentence, name) ?? [])
    .filter(({ words, isNamed }) => isNamed || words.length <= 200);
}

/** `Message: No match`, `Error 404 - Not found`: what is said behind a label of the server's own. */
function whatIsSaidBehind(sentence: string, name: string | null) {
  const found =
    /^[\s%#>*-]*(?:message|result|response|error|info|notice|remark|remarks|answer|ergebnis|resultado|réponse)(?:\s+\d{1,4})?\s*[:=-]\s*(\S.*)$/i.exec(
      sentence,
    );
  return found ? whatIsSaid(found[1], name) : null;
}

interface Collected {
  values: Map<WhoisField, string[]>;
  /** The answer names domains, and none of them is the one that was asked. */
  isOfAnother: boolean;
  /** There is a record in the answer, of this name or of another. */
  hasRecord: boolean;
}

const RECORD_FIELDS: ReadonlySet<WhoisField> = new Set([
  'registered',
  'expires',
  'registrarExpires',
  'registrar',
  'registrant',
  'nameServer',
]);
const EMPTY_VALUE =
  /^(n\/?a|none|null|nil|-+|—|\.|not (available|applicable|set|specified|provided|disclosed)|undefined|unknown|no data( found)?|empty|<blank>)$/i;
/** Empty values that say something where they stand as a state. */
const STATES: ReadonlySet<WhoisField> = new Set(['status', 'domain']);

/** Values by field, in their order, of the first object that is about the name. Comment lines say nothing of the domain. */
function collect(lines: string[], name: string | null): Collected {
  const sections: Map<WhoisField, string[]>[] = [new Map()];
  let values = sections[0];
  let block: WhoisField | null = null;
  let isAfterGap = true;
  let isOther = false;
  let hasRecord = false;
  const add = (field: WhoisField, value: string) => {
    if (field === 'none' || value === '' || (EMPTY_VALUE.test(value) && !STATES.has(field))) return;
    if (RECORD_FIELDS.has(field) || (field === 'status' && !isFreeStatus(value))) hasRecord = true;
    if (isOther) return;
    if (
      field === 'domain' &&
      values.has('domain') &&
      !values.get('domain')?.some((known) => isSameName(known, value))
    ) {
      values = new Map();
      sections.push(values);
    }
    const list = values.get(field);
    if (list) list.push(value);
    else values.set(field, [value]);
  };
  for (const raw of lines) {
    if (/^\s*[%#>]/.test(raw)) continue;
    const line = raw.trim().replace(/^\*+\s*/, '');
    if (line === '') {
      isAfterGap = true;
      // values that stand apart from their title
      if (block !== null && values.has(block)) block = null;
      continue;
    }
    const pair = labelled(line);
    if (isAfterGap) isOther = pair !== null && OTHER_OBJECTS.has(foldLabel(pair[0]));
    isAfterGap = false;
    const field = pair && fieldOf(pair[0]);
    const isIndented = /^\s+\S/.test(raw);
    if (
      pair &&
      field === null &&
      block !== null &&
      /^(name|organi[sz]ation|nom|nombre|nome)$/.test(foldLabel(pair[0]))
    ) {
      if (!values.has(block) || block !== 'registrar') add(block, pair[1]);
    } else if (pair && field !== null) {
      add(field, pair[1]);
      block = pair[1] === '' ? field : null;
    } else if (block !== null && pair === null) {
      add(block, line);
    } else if (block !== null && pair !== null && isIndented) {
      if (block === 'nameServer' && /\./.test(pair[0])) add(block, line);
    } else block = null;
  }
  const own = sections.find((section) => section.get('domain')?.some((value) => isNamed(value, name)));
  const isOfAnother = name !== null && own === undefined && sections.some((section) => section.has('domain'));
  return { values: own ?? sections[0], isOfAnother, hasRecord };
}

const isSameName = (one: string, other: string) => asciiName(one.split(/\s/)[0]) === asciiName(other.split(/\s/)[0]);

/** Whether a value of the field `domain` is the name: `PELLGATE.COM`, `pellgate.de (pellgate.de)`, `xn--… / höni.de`. */
function isNamed(value: string, name: string | null): boolean {
  return name === null || value.split(/[\s/()|,]+/).some((part) => part !== '' && asciiName(part) === name);
}

const SHAPES = [
  /^(?:[a-z]\.?\s*)?\[([^\]]{1,60})\]\s*(.*)$/i, // [Label] value, with or without a letter before
  /^([^:：]{2,60}?)[.\s]*[:：](?:\s*)(.*)$/, // Label: value, Label......: value
  /^(\S[^:\t]{1,58}?)(?:\t+|\s{3,}|\.{3,}\s*)(\S.*)$/, // Label      value
  /^(\p{L}[\p{L} ]{3,40}?)\s+((?:[a-z]{3,9}\s+)?\d.*)$/iu, // Record expires on 2027-05-06
];

function labelled(line: string): [label: string, value: string] | null {
  let first: [string, string] | null = null;
  for (const shape of SHAPES) {
    const found = shape.exec(line);
    if (!found) continue;
    const pair: [string, string] = [found[1], found[2].trim()];
    if (fieldOf(found[1]) !== null) return pair;
    if (shape !== SHAPES[3]) first ??= pair;
  }
  return first;
}

function hostOf(text: string | null): string | null {
  const host = text?.replace(/^r?whois:\/\//i, '').replace(/\/.*$/, '') ?? '';
  return /^[a-z0-9.-]+\.[a-z0-9-]+(:\d{1,5})?$|^[\d.]+:\d{1,5}$/i.test(host) ? host.toLowerCase() : null;
}

function serversOf(lines: string[]): string[] {
  const servers = lines
    .flatMap((line) => line.split(/[\s,;]+/, 1))
    .map((server) => server.toLowerCase().replace(/\.$/, ''))
    .filter((server) => /^[a-z0-9_-]+(\.[a-z0-9_-]+)+$/.test(server) && !/^[\d.]+$/.test(server));
  return [...new Set(servers)];
}

/** `[State] Connected (2027/05/31)`: a state with the day until which it holds. */
function bracketedDate(values: Map<WhoisField, string[]>, isDayFirst: boolean): number | null {
  for (const status of values.get('status') ?? []) {
    const found = /^(?:connected|registered|active)\s*\((\d[^)]{7,})\)$/i.exec(fold(status));
    if (found) return readRegistryDate(found[1], isDayFirst);
  }
  return null;
}

/** With marks between numbers only, whether the day comes first: where one date shows it, or by the registry's habit. */
function daysComeFirst(values: Map<WhoisField, string[]>, name: string | null): boolean {
  for (const field of ['registered', 'expires', 'changed', 'freeAt', 'deletesAt', 'registrarExpires'] as const)
    for (const value of values.get(field) ?? []) {
      const found = /^(\d{1,2})[/-](\d{1,2})[/-]\d{4}/.exec(value);
      if (found && +found[1] > 12) return true;
      if (found && +found[2] > 12) return false;
    }
  return name !== null && DAY_FIRST.has(name.slice(name.lastIndexOf('.') + 1));
}
