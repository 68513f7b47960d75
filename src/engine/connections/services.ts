import { connectionFor, originOf } from '../../core/connections/connection';
import { readFoundMarks, readPages } from '../../core/connections/meanings';
import { domainFilling, masked } from '../../core/connections/template';
import { AnswerFault } from '../../core/connections/tree';
import { eppRegistrar, type Settings } from '../../core/settings/settings';
import { askDescribed, ConnectionClient } from '../../net/connection';
import { EppAccount } from '../../net/epp-account';
import { NetError } from '../../net/errors';
import type { HttpClient } from '../../net/http';
import { findMarks, type RegisteredMark } from '../../net/mark-register';
import { askRegistrar, type RegistrarAnswer } from '../../net/registrar';
import { SearchClient, type SearchResult } from '../../net/search';

/** Who is asked whether a name can be registered. */
export interface RegistrarService {
  /** An address of it, whose host its pace goes by. */
  server: string;
  ask(name: string, signal?: AbortSignal): Promise<RegistrarAnswer>;
  /** Ends what was begun with it. */
  close?(): Promise<void>;
}

/**
 * The registrar that is asked: the one that is described, else the one at an address of its own format, else the one that names are registered
 * at, where it speaks EPP; null: none.
 *
 * @param heard hears what is said by EPP.
 */
export function registrarOf(
  http: HttpClient,
  settings: Settings,
  { timeoutMs, heard }: { timeoutMs: number; heard?(text: string): void },
): RegistrarService | null {
  const described = connectionFor(settings.connections, 'registrar');
  if (described) {
    const client = new ConnectionClient(http, described);
    return {
      server: originOf(described),
      ask: (name, signal) => askDescribed(client, name, domainFilling(name), signal),
    };
  }
  const { registrar, allowedPrivate } = settings;
  if (registrar !== '')
    return { server: registrar, ask: (name, signal) => askRegistrar(http, registrar, name, signal) };
  const account = eppRegistrar(settings);
  if (account === null) return null;
  const epp = new EppAccount(account, { allowedPrivate, timeoutMs, heard });
  return {
    server: `epp://${epp.server}`,
    ask: (name, signal) => epp.availability(name, signal),
    close: () => epp.close(),
  };
}

/** A search for phrases. */
export interface SearchService {
  /** @throws NetError */
  search(phrase: string, count: number, signal?: AbortSignal): Promise<SearchResult[]>;
}

/** @param engine address of an OpenSearch description that is asked instead of what is set; null: what is set. */
export function searchOf(http: HttpClient, settings: Settings, engine: string | null = null): SearchService | null {
  const described = engine === null ? connectionFor(settings.connections, 'search') : null;
  if (described) {
    const client = new ConnectionClient(http, described);
    return {
      search: (phrase, count, signal) => orNetError(client, () => search(client, phrase, count, signal)),
    };
  }
  const description = engine ?? settings.searchEngine;
  return description === '' ? null : new SearchClient(http, description);
}

async function search(client: ConnectionClient, phrase: string, count: number, signal?: AbortSignal) {
  const found: SearchResult[] = [];
  for await (const { answer } of client.parts({ words: phrase, count: String(count) }, signal)) {
    const { pages } = readPages(client.connection, answer);
    found.push(...pages);
    if (found.length >= count || pages.length === 0) break;
  }
  return found.slice(0, count);
}

/** A register of trademarks. */
export interface MarkService {
  /** @throws NetError */
  find(words: string, signal?: AbortSignal): Promise<RegisteredMark[]>;
}

export function marksOf(http: HttpClient, settings: Settings): MarkService | null {
  const described = connectionFor(settings.connections, 'marks');
  if (described) {
    const client = new ConnectionClient(http, described);
    return {
      find: (words, signal) =>
        orNetError(client, async () => {
          const { answer } = await client.ask({ words, name: words.replaceAll(' ', '') }, signal);
          return readFoundMarks(described, answer).map((mark) => ({ ...mark, register: described.title }));
        }),
    };
  }
  const { markRegister } = settings;
  return markRegister === '' ? null : { find: (words, signal) => findMarks(http, markRegister, words, signal) };
}

/** Answers that are none, as the errors that those who ask know; nothing in them that is secret. */
async function orNetError<T>(client: ConnectionClient, ask: () => Promise<T>): Promise<T> {
  try {
    return await ask();
  } catch (error) {
    if (error instanceof AnswerFault)
      throw new NetError('bad-answer', `${client.server}: ${masked(error.message, client.secrets)}`);
    throw error;
  }
}
