import { connectionFor } from '../../core/connections/connection';
import { readPages } from '../../core/connections/meanings';
import { domainFilling, masked } from '../../core/connections/template';
import { AnswerFault } from '../../core/connections/tree';
import { Refusal } from '../../core/refusal';
import {
  answering,
  type FoundPages,
  PAGE_QUESTIONS,
  type PageQuestion,
  searchWords,
} from '../../core/verdict/page-questions';
import { ConnectionClient } from '../../net/connection';
import { NetError } from '../../net/errors';
import type { Store } from '../../store/base/database';
import { readSettings } from '../../store/base/settings';
import { serviceHttp } from './listings';

const PAGES_WANTED = 20;

/**
 * Asks the service that is described for it which pages show, list or mention a domain.
 *
 * @throws Refusal when none is described, or it does not answer, with what it said.
 */
export async function askPages(
  store: Store,
  item: PageQuestion,
  name: string,
  signal: AbortSignal,
): Promise<FoundPages> {
  const settings = readSettings(store);
  const connection = connectionFor(settings.connections, PAGE_QUESTIONS[item]);
  if (!connection) throw new Refusal('makes-no-sense', 'No service is described that could be asked.');
  const http = serviceHttp(store, settings);
  const client = new ConnectionClient(http, connection);
  try {
    const values = { ...domainFilling(name, searchWords(item, name)), count: String(PAGES_WANTED) };
    const { answer } = await client.ask(values, signal);
    const { pages, total } = readPages(connection, answer);
    const named = pages.map(({ url, title }) => ({ url, title }));
    const kept = answering(item, name, named);
    // a total of which some are of another kind is no total of these
    const isWhole = kept.length === named.length;
    return {
      at: store.now(),
      who: connection.title,
      total: isWhole ? total : null,
      pages: kept.slice(0, PAGES_WANTED),
    };
  } catch (error) {
    if (!(error instanceof NetError || error instanceof AnswerFault)) throw error;
    throw new Refusal('job-refused', `${connection.title}: ${masked(error.message, client.secrets)}.`);
  } finally {
    await http.close();
  }
}
