import { type Connection, FIELD_LABELS, missingField, USE_SPECS } from '../../core/connections/connection';
import {
  entryOf,
  listColumns,
  listRows,
  readAvailability,
  readerFor,
  readFoundMarks,
  readPages,
} from '../../core/connections/meanings';
import { readOrderReply } from '../../core/connections/order-answer';
import { domainFilling, type Filling, masked } from '../../core/connections/template';
import { AnswerFault } from '../../core/connections/tree';
import { type ConnectionTried, describedBy } from '../../core/connections/tried';
import { ListRowReader } from '../../core/formats/list-row';
import { plainText } from '../../core/formats/plain-text';
import { registrableDomain } from '../../core/names/domain';
import { Refusal } from '../../core/refusal';
import { count, money, plural } from '../../core/wording/format';
import { ConnectionClient, Declined, type RawPart } from '../../net/connection';
import { NetError } from '../../net/errors';
import type { Store } from '../../store/base/database';
import { readSettings } from '../../store/base/settings';
import { outcomeOf } from '../setup/asking';
import { cut, HeardHttp } from '../setup/heard-http';
import { type ConnectionTry, layOut } from './lay-out';
import { asSentence, exampleOrder, KEPT_CHARACTERS, orderWords, showOrder } from './try-order';

const ANSWER_MS = 15_000;
const RESULTS = 10;

/**
 * Asks a described service one real question, and says what came and what of it was understood. Never throws for what the other side does;
 * nothing is kept.
 *
 * @param connection with its secrets. @param question a domain or words, as its use asks for; of listings nothing.
 * @throws Refusal when the question makes no sense.
 */
export async function tryConnection(
  store: Store,
  connection: Connection,
  question: string,
  signal: AbortSignal,
  timeoutMs = ANSWER_MS,
): Promise<ConnectionTry> {
  const { userAgent, allowedPrivate } = readSettings(store);
  if (USE_SPECS[connection.use].tries === 'answer') return showOrder(connection, question, store.now());
  const values = valuesOf(connection, question);
  const http = new HeardHttp({ userAgent, connector: store.config.connector, allowedPrivate, timeoutMs });
  const client = new ConnectionClient(http, connection);
  const started = performance.now();
  const base = { at: store.now(), asked: askedWords(connection, values), setBy: describedBy(connection) };
  const finish = (said: Pick<ConnectionTried, 'outcome' | 'understood' | 'problem'>): ConnectionTried => {
    const shown = (text: string) => masked(text, client.secrets);
    return {
      ...base,
      outcome: said.outcome,
      understood: said.understood.map(shown),
      problem: said.problem && { field: said.problem.field, words: shown(said.problem.words) },
      came: cut(shown(http.heard), KEPT_CHARACTERS),
      elapsedMs: Math.round(performance.now() - started),
    };
  };
  let raw: RawPart;
  try {
    raw = await client.raw(values, signal);
  } catch (error) {
    if (!(error instanceof NetError)) throw error;
    const field = /is a private address/.test(error.message) ? 'allowedPrivate' : 'address';
    const problem = { field, words: error.message };
    return { tried: finish({ outcome: outcomeOf(http), understood: [], problem }), laidOut: null };
  } finally {
    await http.close();
  }
  const laidOut = layOut(raw, connection, client.secrets);
  try {
    const answer = client.read(raw);
    const missing = missingField(connection);
    if (missing !== null) {
      const problem = {
        field: 'fields',
        words: `Say below where “${FIELD_LABELS[missing]}” stands, then ask once more.`,
      };
      return { tried: finish({ outcome: 'unread', understood: [], problem }), laidOut };
    }
    return {
      tried: finish({
        outcome: 'works',
        understood: understoodOf(connection, answer, values, store.now()),
        problem: null,
      }),
      laidOut,
    };
  } catch (error) {
    if (error instanceof Declined) {
      const isKey = error.status === 401 || error.status === 403;
      const problem = { field: isKey ? 'key' : error.status === 405 ? 'method' : 'address', words: error.message };
      return { tried: finish({ outcome: outcomeOf(http), understood: [], problem }), laidOut };
    }
    if (!(error instanceof AnswerFault)) throw error;
    const problem = { field: error.field ?? 'format', words: asSentence(error.message) };
    return { tried: finish({ outcome: 'nonsense', understood: [], problem }), laidOut };
  }
}

/** @throws Refusal when the question is none of its use. */
function valuesOf({ use }: Connection, question: string): Filling {
  const { tries } = USE_SPECS[use];
  const text = question.trim();
  const common = { count: String(RESULTS) };
  if (tries === null) return common;
  if (tries === 'words') {
    if (text === '') throw new Refusal('makes-no-sense', 'Say the words to ask for.');
    return { ...common, words: text, name: text.replaceAll(' ', '') };
  }
  if (tries === 'order') {
    if (text === '') throw new Refusal('makes-no-sense', 'Say the number or the domain of an order.');
    const domain = registrableDomain(text)?.name;
    return { ...(domain !== undefined && domainFilling(domain)), order: text, number: text };
  }
  const domain = registrableDomain(text);
  if (!domain) throw new Refusal('makes-no-sense', `“${text.slice(0, 80)}” is no domain that can be registered.`);
  return { ...common, ...domainFilling(domain.name) };
}

function askedWords({ use, title }: Connection, { domain, words, number }: Filling): string {
  const { asks, tries } = USE_SPECS[use];
  const about =
    tries === 'domain' ? `: ${domain}` : tries === 'words' ? `: “${words}”` : tries === 'order' ? `: ${number}` : '';
  return `${asks.replace('?', '')}${about}? (${title})`;
}

type Answer = ReturnType<ConnectionClient['read']>;

/** What an answer says, in sentences. @throws AnswerFault where it says nothing that is understood. */
function understoodOf(connection: Connection, answer: Answer, values: Filling, now: number): string[] {
  switch (connection.use) {
    case 'registrar': {
      const { domain = '' } = values;
      const { availability, priceMinor, renewalMinor, currency } = readAvailability(connection, answer, domain);
      const price = priceMinor === null ? [] : [`It costs ${money(priceMinor, currency)}.`];
      const renewal = renewalMinor === null ? [] : [`A further year costs ${money(renewalMinor, currency)}.`];
      return [`${domain} is ${availability}.`, ...price, ...renewal];
    }
    case 'marks': {
      const marks = readFoundMarks(connection, answer);
      const first = marks.slice(0, 3).map(({ mark, owner }) => (owner === '' ? mark : `${mark} of ${owner}`));
      return [`${plural(marks.length, 'trademark')}${first.length > 0 ? `, the first ${first.join('; ')}` : ''}.`];
    }
    case 'order-state': {
      const { domain = '', number = null } = values;
      const order = { ...exampleOrder(connection), domain, number };
      // asked after by its number, it says of which domain it is
      const { domain: named, ...fields } = connection.fields;
      const description =
        domain === '' ? { ...connection, fields } : { ...connection, fields: { ...fields, domain: named } };
      return [`The order: ${orderWords(readOrderReply(description, answer, order, now), order.currency, now)}.`];
    }
    case 'listings':
      return listWords(connection, answer, now);
    case 'figures': {
      const reader = readerFor(connection, answer);
      const { domain = '' } = values;
      const entry = entryOf(reader, domain);
      const columns = listColumns(connection).filter((field) => field !== 'domain' && field !== 'currency');
      const said = columns.flatMap((field) => {
        const text = reader.text(entry, field);
        return text === '' ? [] : `${field.replaceAll('-', ' ')} ${plainText(text, 40)}`;
      });
      if (said.length === 0) throw new AnswerFault('none of the figures stands where you say', 'fields');
      return [`${domain}: ${said.join(', ')}.`];
    }
    default: {
      const { pages, total, aside } = readPages(connection, answer);
      const first = pages.slice(0, 3).map(({ title, url }) => plainText(title || url, 80));
      if (pages.length === 0 && aside > 0)
        throw new AnswerFault('what stands where the address should be is none', 'fields');
      return [
        `${plural(pages.length, 'page')}${first.length > 0 ? `, the first ${first.join('; ')}` : ''}.`,
        ...(total === null ? [] : [`It says that there are ${count(total)} in all.`]),
        ...(aside > 0 ? [`${plural(aside, 'entry', 'entries')} without an address left out.`] : []),
      ];
    }
  }
}

function listWords(connection: Connection, answer: Answer, now: number): string[] {
  const reader = readerFor(connection, answer);
  const columns = listColumns(connection);
  const rows = listRows(reader, columns);
  const read = new ListRowReader(columns, [], now);
  const names: string[] = [];
  let aside = 0;
  let why = '';
  for (const row of rows) {
    const found = read.readAll(row);
    if (typeof found === 'string') {
      aside++;
      why ||= found;
    } else names.push(...found.map(({ domain }) => domain));
  }
  if (names.length === 0 && rows.length > 0)
    throw new AnswerFault(`none of ${rows.length} entries is understood: ${why}`, 'fields');
  const first = names.slice(0, 3).join(', ');
  return [
    `${plural(names.length, 'listing')} in its first part${first === '' ? '' : `: ${first}`}.`,
    ...(aside > 0 ? [`${plural(aside, 'entry', 'entries')} rejected: ${why}.`] : []),
  ];
}
