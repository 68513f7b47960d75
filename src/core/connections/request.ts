import type { Connection } from './connection';
import { base64, type Filling, filled } from './template';

/** A question as it goes out. Secrets are in it. */
export interface DescribedRequest {
  method: 'GET' | 'POST' | 'PUT';
  address: string;
  /** By names in small letters. */
  headers: Record<string, string>;
  /** null: a GET has none. */
  body: string | null;
}

const ACCEPTS: Record<Connection['format'], string> = {
  json: 'application/json',
  csv: 'text/csv, text/plain;q=0.8',
  xml: 'application/xml, text/xml',
  html: 'text/html',
  feed: 'application/atom+xml, application/rss+xml, application/xml;q=0.8',
};
const BODY_TYPES: Record<Connection['bodyType'], string> = {
  json: 'application/json',
  form: 'application/x-www-form-urlencoded',
  xml: 'application/xml',
};

/** What is asked, with its placeholders filled in. @param address another than the described one: of a next part. */
export function requestOf(connection: Connection, values: Filling, address?: string): DescribedRequest {
  const { method, headers, body, bodyType, login, key, user, password, format } = connection;
  const all = { ...values, key, user, password };
  const sent: Record<string, string> = { accept: ACCEPTS[format] };
  if (login === 'basic') sent.authorization = `Basic ${base64(`${user}:${password}`)}`;
  if (method !== 'GET') sent['content-type'] = BODY_TYPES[bodyType];
  for (const { name, value } of headers) sent[name.toLowerCase()] = filled(value, all, 'header');
  return {
    method,
    address: address ?? filled(connection.address, all, 'address'),
    headers: sent,
    body: method !== 'GET' ? filled(body, all, bodyType) : null,
  };
}

/** A question as a text, as HTTP writes it. Secrets are in it, too. */
export function requestText({ method, address, headers, body }: DescribedRequest): string {
  const lines = Object.entries(headers).map(([name, value]) => `${name}: ${value}`);
  return [`${method} ${address}`, ...lines, ...(body === null ? [] : ['', body])].join('\n');
}
