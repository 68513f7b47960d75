import type { Connection } from '../../core/connections/connection';
import { type FieldReader, readerFor } from '../../core/connections/meanings';
import { masked } from '../../core/connections/template';
import { AnswerFault } from '../../core/connections/tree';
import type { Settings } from '../../core/settings/settings';
import { ConnectionClient } from '../../net/connection';
import { NetError } from '../../net/errors';
import { HttpClient } from '../../net/http';
import { resolversOf } from '../../store/base/config';
import type { Store } from '../../store/base/database';
import { JobError } from '../runner/context';

const ANSWER_MS = 60_000;

/** An HTTP client for services that are described: what they hand out may take its time. */
export function serviceHttp(store: Store, settings: Settings): HttpClient {
  const { userAgent, allowedPrivate } = settings;
  const { connector } = store.config;
  return new HttpClient({
    userAgent,
    connector,
    allowedPrivate,
    timeoutMs: ANSWER_MS,
    ...(connector === null && { resolvers: resolversOf(settings) }),
  });
}

/** The parts of what a venue hands out, each to be read by its fields. @throws JobError with a message for people. */
export async function* listingParts(
  store: Store,
  settings: Settings,
  connection: Connection,
  signal: AbortSignal,
): AsyncGenerator<FieldReader> {
  const http = serviceHttp(store, settings);
  const client = new ConnectionClient(http, connection);
  try {
    for await (const { answer } of client.parts({ count: '1000' }, signal)) yield readerFor(connection, answer);
  } catch (error) {
    if (signal.aborted || !(error instanceof NetError || error instanceof AnswerFault)) throw error;
    const words = masked(error.message, client.secrets);
    throw new JobError(`${connection.title}: ${words}. What is known of it stays as it is.`);
  } finally {
    await http.close();
  }
}
