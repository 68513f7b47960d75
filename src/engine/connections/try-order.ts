import { readAnswer } from '../../core/connections/answer';
import { type Connection, FIELD_LABELS, missingField, originOf } from '../../core/connections/connection';
import { errorIn } from '../../core/connections/meanings';
import {
  type DescribedOrder,
  EXAMPLE_ORDER,
  type OrderReply,
  orderFilling,
  readOrderReply,
} from '../../core/connections/order-answer';
import { requestOf, requestText } from '../../core/connections/request';
import { masked, secretsOf } from '../../core/connections/template';
import { AnswerFault } from '../../core/connections/tree';
import { describedBy } from '../../core/connections/tried';
import { moment, money, plural } from '../../core/wording/format';
import type { RawPart } from '../../net/connection';
import { cut } from '../setup/heard-http';
import { type ConnectionTry, layOut } from './lay-out';

/** Of what is shown. */
export const KEPT_CHARACTERS = 3000;

/**
 * Shows what an order would send, and what an answer like the one that is given would mean. Nothing is sent: an order is no question.
 *
 * @param sample an answer as the service's documentation writes it; empty: none.
 */
export function showOrder(connection: Connection, sample: string, now: number): ConnectionTry {
  const order = exampleOrder(connection);
  const request = requestText(requestOf(connection, orderFilling(order)));
  const secrets = secretsOf(connection);
  const base = {
    at: now,
    asked: `What would be sent to ${order.kind === 'register' ? 'register' : `${order.kind} for`} ${order.domain} at ${money(order.amountMinor, order.currency)}? (${connection.title}; nothing is sent)`,
    setBy: describedBy(connection),
    came: cut(masked(request, secrets), KEPT_CHARACTERS),
    elapsedMs: 0,
  };
  const raw: RawPart = {
    address: originOf(connection),
    status: 200,
    headers: {},
    text: sample,
    contentType: '',
    elapsedMs: 0,
  };
  const laidOut = layOut(raw, connection, secrets);
  const unread = (field: string, words: string): ConnectionTry => ({
    tried: { ...base, outcome: 'unread', understood: [], problem: { field, words } },
    laidOut,
  });
  if (sample.trim() === '')
    return unread('question', 'Paste an answer as its documentation shows it, and press in it what is what.');
  const missing = missingField(connection);
  if (missing !== null)
    return unread('fields', `Say below where “${FIELD_LABELS[missing]}” stands, then look once more.`);
  try {
    const answer = readAnswer(sample, connection.format, connection.entries, raw.address);
    const error = errorIn(connection, answer);
    const said =
      error === null
        ? orderWords(readOrderReply(connection, answer, order, now), order.currency, now)
        : `refused: ${error}`;
    return {
      tried: { ...base, outcome: 'works', understood: [`Such an answer means: ${said}.`], problem: null },
      laidOut,
    };
  } catch (error) {
    if (!(error instanceof AnswerFault)) throw error;
    const problem = { field: error.field ?? 'format', words: asSentence(error.message) };
    return { tried: { ...base, outcome: 'nonsense', understood: [], problem }, laidOut };
  }
}

export const exampleOrder = ({ kinds, currency }: Connection): DescribedOrder => ({
  ...EXAMPLE_ORDER,
  domain: 'ashcottbees.org',
  kind: kinds[0] ?? 'bid',
  currency: currency || 'EUR',
});

/** Where an order stands, in words: `leading, 42.50 EUR, number 7731`. */
export function orderWords(
  { result, reason, priceMinor, number, closesAt, bids }: OrderReply,
  currency: string,
  now: number,
): string {
  return [
    result,
    priceMinor === null ? '' : money(priceMinor, currency),
    bids === null ? '' : plural(bids, 'bid'),
    closesAt === null ? '' : `closing ${moment(closesAt, now)}`,
    number === null ? '' : `number ${number}`,
    reason ?? '',
  ]
    .filter(Boolean)
    .join(', ');
}

/** A fault as a sentence. */
export const asSentence = (text: string) => `${text[0].toUpperCase()}${text.slice(1)}.`;
