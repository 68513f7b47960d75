import { z } from 'zod';
import { normalizeAddress } from '../../core/crawl/address';
import { decodeHtml } from '../../core/crawl/decode';
import { foldText } from '../../core/crawl/html';
import { type ReadPage, readPage } from '../../core/crawl/links';
import { NetError } from '../../net/errors';
import { contentType, HttpClient } from '../../net/http';
import { SearchClient } from '../../net/search';
import { resolversOf } from '../../store/config';
import { putJobRow } from '../../store/jobs';
import { inParallel } from '../checker';
import { type JobContext, JobError, throwIfStopped } from '../context';
import { RobotsCache } from '../robots';

export const SearchParams = z.object({
  /** Address of an OpenSearch description. */
  engine: z.url(),
  phrases: z.array(z.string().trim().min(1)).min(1).max(200),
  perPhrase: z.number().int().min(1).max(100).default(20),
});

/** One result, and whether its whole site is about the subject. */
export interface SearchRow {
  phrase: string;
  url: string;
  title: string;
  site: string;
  /** site: its home page shows one of the phrases, so all of it is read. page: only the result is. */
  gate: 'site' | 'page';
  /** The phrase that the home page shows, or why it was not seen. */
  because: string;
  /** Readers that the page itself claims. */
  readers: number | null;
}

const SITES_AT_ONCE = 16;
const MAX_HOPS = 3;

/**
 * Searches for phrases, and lets a result's site pass as a seed only when its home page shows at least one of the phrases: an
 * all-purpose paper that once wrote about the subject is read for that page, not whole.
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
    const results = await gather(context, new SearchClient(http, params.engine), params);
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
      const shown = typeof seen === 'string' ? null : params.phrases.find((phrase) => showsPhrase(seen, phrase));
      const row: SearchRow = {
        ...result,
        gate: shown ? 'site' : 'page',
        because: shown
          ? `its home page says "${shown}"`
          : typeof seen === 'string'
            ? `its home page was not read: ${seen}`
            : 'its home page shows none of the phrases',
        readers: typeof page === 'string' ? null : page.readers,
      };
      putJobRow(store, job.id, seq, row);
      done++;
      context.progress({ done, total: results.length, unit: 'results', rate: 0, message: 'looking at home pages' });
    });
    const whole = new Set(results.map(({ site }) => site)).size;
    context.progress({
      done,
      total: results.length,
      unit: 'results',
      rate: 0,
      message: `${results.length} results from ${whole} sites`,
    });
  } finally {
    await http.close();
  }
}

async function gather(
  context: JobContext,
  client: SearchClient,
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

/** Whether a page's title or text has the words of a phrase, one after another, as whole words. */
export function showsPhrase(page: Pick<ReadPage, 'title' | 'visible'>, phrase: string): boolean {
  const words = (text: string) =>
    ` ${
      text
        .toLowerCase()
        .match(/[\p{L}\p{N}]+/gu)
        ?.join(' ') ?? ''
    } `;
  return words(`${page.title} ${foldText(page.visible)}`).includes(words(phrase));
}
