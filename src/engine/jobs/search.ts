import { z } from 'zod';
import { normalizeAddress } from '../../core/crawl/address';
import { decodeHtml } from '../../core/crawl/decode';
import { foldText } from '../../core/crawl/html';
import { type ReadPage, readPage } from '../../core/crawl/links';
import { gateOf, type Seen } from '../../core/crawl/search-gate';
import type { SearchRow } from '../../core/crawl/search-gates';
import { NetError } from '../../net/errors';
import { contentType, HttpClient } from '../../net/http';
import { resolversOf } from '../../store/base/config';
import { putJobRow } from '../../store/base/jobs';
import { type SearchService, searchOf } from '../connections/services';
import { inParallel } from '../lookups/checker';
import { RobotsCache } from '../lookups/robots';
import { type JobContext, JobError, throwIfStopped } from '../runner/context';

export const SearchParams = z.object({
  /** Address of an OpenSearch description; null: the search that is set up. */
  engine: z.url().nullable().default(null),
  phrases: z.array(z.string().trim().min(1)).min(1).max(200),
  perPhrase: z.number().int().min(1).max(100).default(20),
  /** Subject words of the brief. */
  briefWords: z.array(z.string()).default([]),
});

const SITES_AT_ONCE = 16;
const MAX_HOPS = 3;

/**
 * Searches for phrases, and lets a result's site pass as a seed only when its home page is about what is wanted: an all-purpose paper that
 * once wrote about the subject is read for that page, not whole (search-gate.ts).
 */
export async function runSearch(context: JobContext): Promise<void> {
  const { store, job, settings, signal } = context;
  const params = SearchParams.parse(job.params);
  const http = new HttpClient({
    userAgent: settings.userAgent,
    connector: store.config.connector,
    allowedPrivate: settings.allowedPrivate,
    resolvers: resolversOf(settings),
    timeoutMs: 10_000,
  });
  try {
    const engine = searchOf(http, settings, params.engine);
    if (!engine) throw new JobError('There is no search to ask: set one up.');
    const results = await gather(context, engine, params);
    const robots = new RobotsCache(http, settings.userAgent);
    const homes = new Map<string, Promise<ReadPage | string>>();
    let done = 0;
    await inParallel([...results.entries()], SITES_AT_ONCE, async ([seq, result]) => {
      throwIfStopped(signal);
      const origin = new URL(result.url).origin;
      let home = homes.get(origin);
      if (!home) {
        home = look(http, robots, `${origin}/`, signal);
        homes.set(origin, home);
      }
      const page = await look(http, robots, result.url, signal);
      const seen = await home;
      const asSeen = (one: ReadPage | string): Seen =>
        typeof one === 'string' ? one : { title: one.title, text: foldText(one.visible) };
      const row: SearchRow = {
        ...result,
        ...gateOf(asSeen(seen), asSeen(page), { phrase: result.phrase, briefWords: params.briefWords }),
        readers: typeof page === 'string' ? null : page.readers,
      };
      putJobRow(store, job.id, seq, row);
      done++;
      context.progress({ done, total: results.length, unit: 'results', rate: 0, message: 'looking at home pages' });
    });
    const sites = new Set(results.map(({ site }) => site)).size;
    const empty = params.phrases.filter((phrase) => results.every((result) => result.phrase !== phrase));
    const without = empty.length > 0 ? `; nothing new for ${empty.map((phrase) => `"${phrase}"`).join(', ')}` : '';
    context.progress({
      done,
      total: results.length,
      unit: 'results',
      rate: 0,
      message: `${results.length} results from ${sites} sites${without}`,
    });
  } finally {
    await http.close();
  }
}

async function gather(
  context: JobContext,
  client: SearchService,
  { phrases, perPhrase }: z.infer<typeof SearchParams>,
): Promise<Pick<SearchRow, 'phrase' | 'url' | 'title' | 'site'>[]> {
  const byUrl = new Map<string, Pick<SearchRow, 'phrase' | 'url' | 'title' | 'site'>>();
  for (const phrase of phrases) {
    throwIfStopped(context.signal);
    try {
      for (const result of await client.search(phrase, perPhrase, context.signal)) {
        const address = normalizeAddress(result.url);
        if (address && !byUrl.has(address.url))
          byUrl.set(address.url, { phrase, url: address.url, title: result.title.slice(0, 300), site: address.site });
      }
    } catch (error) {
      if (error instanceof NetError && !context.signal.aborted) throw new JobError(`${error.message}.`);
      throw error;
    }
    context.progress({ done: 0, total: null, unit: 'results', rate: 0, message: `searched for "${phrase}"` });
  }
  return [...byUrl.values()];
}

/** A page as text, or why it could not be seen. */
async function look(
  http: HttpClient,
  robots: RobotsCache,
  url: string,
  signal: AbortSignal,
): Promise<ReadPage | string> {
  try {
    for (let at = url, hop = 0; hop <= MAX_HOPS; hop++) {
      if (!(await robots.ask(at, signal)).allowed) return 'robots.txt forbids it';
      const answer = await http.get(at, { signal });
      if (answer.status >= 300 && answer.status < 400 && answer.headers.location) {
        at = new URL(answer.headers.location, at).href;
        continue;
      }
      if (answer.status !== 200) return `the server answered ${answer.status}`;
      return readPage(decodeHtml(answer.body, contentType(answer.headers['content-type']).charset).text, at);
    }
    return 'redirects without end';
  } catch (error) {
    if (error instanceof NetError && !signal.aborted) return error.message;
    throw error;
  }
}
