import { parsePrice } from '../formats/amounts';
import { plainText } from '../formats/plain-text';
import type { RegistrarOutcome } from '../lifecycle/phase';
import { DOMAIN, EPP, FEE, type Fee, type Greeting } from './commands';
import { all, along, type Element, first, readXml } from './xml';

const KEPT = 200;

/** A message that is none of EPP, or answers something else. Its message is for people. */
export class EppFault extends Error {}

/** Reads what a server begins with. @throws EppFault when it is no greeting. */
export function readGreeting(message: string): Greeting {
  const greeting = first(rootOf(message), EPP, 'greeting');
  if (!greeting) throw new EppFault('it does not begin with a greeting of EPP');
  const menu = first(greeting, EPP, 'svcMenu');
  return {
    server: plainText(first(greeting, EPP, 'svID')?.text ?? '', 80),
    objects: all(menu, EPP, 'objURI').map(({ text }) => text),
    extensions: all(first(menu, EPP, 'svcExtension'), EPP, 'extURI').map(({ text }) => text),
  };
}

export interface Response {
  /** RFC 5730, 3: 1000 to 1999 it is done, 2000 and above it is not. Of several results the first that says no. */
  code: number;
  /** The words of the server, with its reasons. */
  words: string;
  /** Which command it answers; null: it does not say. */
  answers: string | null;
  data: Element | undefined;
  extension: Element | undefined;
}

/** Reads the answer to a command. @throws EppFault when it is none. */
export function readResponse(message: string): Response {
  const response = first(rootOf(message), EPP, 'response');
  const results = all(response, EPP, 'result');
  const codes = results.map((result) => Number(result.attributes.code));
  if (codes.length === 0 || codes.some((code) => !Number.isInteger(code) || code < 1000 || code > 2999))
    throw new EppFault('it gave an answer without a result of EPP');
  const at = Math.max(
    0,
    codes.findIndex((code) => code >= 2000),
  );
  return {
    code: codes[at],
    words: wordsOf(results[at]),
    answers: along(response, EPP, 'trID', 'clTRID')?.text || null,
    data: first(response, EPP, 'resData'),
    extension: first(response, EPP, 'extension'),
  };
}

function wordsOf(result: Element): string {
  const reasons = all(result, EPP, 'extValue').map((value) => first(value, EPP, 'reason')?.text ?? '');
  const words = [first(result, EPP, 'msg')?.text ?? '', ...reasons].filter(Boolean).join(': ');
  return plainText(words, KEPT) || `code ${result.attributes.code}`;
}

function rootOf(message: string): Element {
  let root: Element;
  try {
    root = readXml(message);
  } catch (error) {
    throw new EppFault(`it gave an answer that is no XML: ${plainText((error as Error).message, 80)}`);
  }
  if (root.namespace !== EPP || root.name !== 'epp') throw new EppFault('it gave an answer that is none of EPP');
  return root;
}

/** What a check says of a name. */
export interface Availability {
  outcome: Extract<RegistrarOutcome, 'available' | 'premium' | 'reserved' | 'taken'>;
  /** Of the first year; null: it is not said. */
  fee: Fee | null;
  /** The words with which it was refused; ''. none. */
  reason: string;
}

/** Words that hold a name back, where nobody has it. */
const HELD_BACK =
  /reserved|blocked|prohibited|forbidden|restricted|not allowed|invalid|policy|banned|withheld|collision/i;
/** Words of somebody having it, which win: "restricted, in use" is taken. */
const HELD = /in use|registered|exists|taken|unavailable because/i;

/**
 * Reads the answer to a check.
 *
 * @param name as A-labels. @throws EppFault when it says nothing of that name.
 */
export function readCheck({ data, extension }: Response, name: string): Availability {
  const entry = all(first(data, DOMAIN, 'chkData'), DOMAIN, 'cd').find(
    (one) => first(one, DOMAIN, 'name')?.text.toLowerCase() === name,
  );
  if (!entry) throw new EppFault(`it says nothing of ${name}`);
  const isAvailable = readBoolean(first(entry, DOMAIN, 'name')?.attributes.avail);
  const reason = plainText(first(entry, DOMAIN, 'reason')?.text ?? '', KEPT);
  const priced = all(first(extension, FEE, 'chkData'), FEE, 'cd').find(
    (one) => first(one, FEE, 'objID')?.text.toLowerCase() === name,
  );
  const fee = feeIn(first(priced, FEE, 'command'), first(first(extension, FEE, 'chkData'), FEE, 'currency')?.text);
  if (!isAvailable) {
    const isHeldBack = HELD_BACK.test(reason) && !HELD.test(reason);
    return { outcome: isHeldBack ? 'reserved' : 'taken', fee: null, reason };
  }
  const kind = first(priced, FEE, 'class')?.text.toLowerCase() ?? '';
  return { outcome: kind === '' || kind === 'standard' ? 'available' : 'premium', fee, reason };
}

/** XML Schema's boolean. @throws EppFault when it is none: a doubt is no "available". */
function readBoolean(text: string | undefined): boolean {
  if (text === '1' || text === 'true') return true;
  if (text === '0' || text === 'false') return false;
  throw new EppFault('it does not say whether the name is available');
}

/** All fees of a command together, less what is credited. */
function feeIn(element: Element | undefined, currency: string | undefined): Fee | null {
  if (!element || !currency || !/^[A-Z]{3}$/.test(currency)) return null;
  const fees = all(element, FEE, 'fee').map(({ text }) => parsePrice(text, '.')?.minor ?? null);
  // a credit is written as a negative amount (RFC 8748, 3.4.2)
  const credits = all(element, FEE, 'credit').map(({ text }) => parsePrice(text.replace('-', ''), '.')?.minor ?? null);
  if (fees.length === 0 || [...fees, ...credits].includes(null)) return null;
  const sum = (amounts: (number | null)[]) => amounts.reduce<number>((total, minor) => total + (minor ?? 0), 0);
  return { minor: Math.max(0, sum(fees) - sum(credits)), currency };
}

/** What is on record of a name. */
export interface DomainInfo {
  /** Login of the registrar that has it. */
  sponsor: string;
  statuses: string[];
  /** ms since 1970; null: it is not said to us. */
  createdAt: number | null;
  expiresAt: number | null;
}

/** Reads the answer to an info. @throws EppFault when it is about another name. */
export function readInfo({ data }: Response, name: string): DomainInfo {
  const info = first(data, DOMAIN, 'infData');
  const about = first(info, DOMAIN, 'name')?.text.toLowerCase();
  const sponsor = first(info, DOMAIN, 'clID')?.text ?? '';
  if (about !== name || sponsor === '') throw new EppFault(`it says nothing of ${name}`);
  return {
    sponsor,
    statuses: all(info, DOMAIN, 'status').map(({ attributes }) => attributes.s ?? ''),
    createdAt: momentIn(first(info, DOMAIN, 'crDate')),
    expiresAt: momentIn(first(info, DOMAIN, 'exDate')),
  };
}

/** What came of a registration. */
export interface Creation {
  /** What was charged; null: it is not said. */
  fee: Fee | null;
  expiresAt: number | null;
}

/** Reads the answer to a create that was done. @throws EppFault when it is about another name. */
export function readCreation({ data, extension }: Response, name: string): Creation {
  const created = first(data, DOMAIN, 'creData');
  if (first(created, DOMAIN, 'name')?.text.toLowerCase() !== name) throw new EppFault(`it says nothing of ${name}`);
  const charged = first(extension, FEE, 'creData');
  return {
    fee: feeIn(charged, first(charged, FEE, 'currency')?.text),
    expiresAt: momentIn(first(created, DOMAIN, 'exDate')),
  };
}

function momentIn(element: Element | undefined): number | null {
  const at = element ? Date.parse(element.text) : Number.NaN;
  return Number.isNaN(at) ? null : at;
}
