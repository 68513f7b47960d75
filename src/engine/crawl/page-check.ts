import { setTimeout as sleep } from 'node:timers/promises';
import { normalizeAddress } from '../../core/crawl/address';
import { decodeHtml } from '../../core/crawl/decode';
import { linkContext, type PageLink, readPage } from '../../core/crawl/links';
import type { LinkVerdict, PageHead } from '../../core/crawl/page-look';
import { registrableDomain } from '../../core/names/domain';
import { Refusal } from '../../core/refusal';
import type { Settings } from '../../core/settings/settings';
import { NetError } from '../../net/errors';
import { contentType, HttpClient } from '../../net/http';
import { resolversOf } from '../../store/base/config';
import { type Store, write } from '../../store/base/database';
import { handSource, putDeadTargets, putPageLook } from '../../store/crawl/pages';
import { putDomain } from '../../store/domains/domains';
import { Checker, inParallel } from '../lookups/checker';
import type { JobContext } from '../runner/context';
import { HTML_TYPES } from './page-reader';

export interface PageCheckOptions {
  /** First asking: of a link that is slower more is known by the second. */
  firstMs: number;
  secondMs: number;
  /** Pause between the two. */
  pauseMs: number;
}

const LINKS_AT_ONCE = 64;
const MAX_LINKS = 500;
const OPTIONS: PageCheckOptions = { firstMs: 6000, secondMs: 15_000, pauseMs: 4000 };
const PAGE_MS = 20_000;
/** Registries are waited for so long; a verdict that comes later is kept and shown all the same. */
const PATIENCE_MS = 4000;

/** A page could not be looked at; the message is for people. */
export class PageCheckError extends Refusal {
  constructor(message: string, options: ErrorOptions = {}) {
    super('page-unread', message, options);
  }
}

type Context = Pick<JobContext, 'store' | 'settings' | 'signal' | 'changed'>;

/** What is told while it goes on. */
export interface PageCheckListener {
  head(head: PageHead, links: LinkVerdict[]): void;
  link(index: number, link: LinkVerdict): void;
  progress(asked: number, total: number, message: string): void;
}

/**
 * Reads one page and asks every outside link whether it still works, one at a time a host. What gave no answer, or one that would make
 * it dead, is asked a second time, apart, before anything is called gone. Dead pages on living domains are kept as dead targets; dead
 * domains go to the pool.
 *
 * @throws PageCheckError when the page itself cannot be read.
 */
export async function checkPage(
  context: Context,
  text: string,
  listener: PageCheckListener,
  options: Partial<PageCheckOptions> = {},
): Promise<LinkVerdict[]> {
  const check = new PageCheck(context, listener, { ...OPTIONS, ...options });
  try {
    return await check.run(text);
  } finally {
    await check.close();
  }
}

/** Reads a page for its links alone. @throws PageCheckError */
export async function linksOf(
  context: Pick<JobContext, 'store' | 'settings' | 'signal'>,
  text: string,
): Promise<{ contact: string | null; links: string[] }> {
  const http = clientFor(context, PAGE_MS);
  try {
    const { page } = await fetchPage(http, text, context.signal);
    return { contact: page.contact, links: [...new Set(page.links.map(({ address }) => address.url))] };
  } finally {
    await http.close();
  }
}

function clientFor({ store, settings }: { store: Store; settings: Settings }, timeoutMs: number): HttpClient {
  return new HttpClient({
    userAgent: settings.userAgent,
    connector: store.config.connector,
    allowedPrivate: settings.allowedPrivate,
    resolvers: resolversOf(settings),
    timeoutMs,
    connectionsPerHost: 2,
  });
}

class PageCheck {
  private readonly http: HttpClient;
  private readonly checker: Checker;
  private links: LinkVerdict[] = [];
  /** By domain: what the servers of its ending say, asked once. */
  private readonly domains = new Map<string, Promise<'gone' | 'there' | 'unknown'>>();
  private asked = 0;
  private message = 'asking every link';

  constructor(
    private readonly context: Context,
    private readonly listener: PageCheckListener,
    private readonly options: PageCheckOptions,
  ) {
    this.http = clientFor(context, options.firstMs);
    this.checker = new Checker(context, -Date.now(), () => undefined, 'record', 'raised');
  }

  async close(): Promise<void> {
    this.checker.close(true);
    await this.http.close();
  }

  async run(text: string): Promise<LinkVerdict[]> {
    const { store, signal } = this.context;
    const { url, page } = await fetchPage(this.http, text, signal);
    const site = normalizeAddress(url)?.site ?? '';
    this.links = outsideLinks(page.links, site, page.visible);
    const inside = page.links.filter((link) => link.address.site === site).length;
    const head = { url, title: page.title, contact: page.contact, readers: page.readers, inside };
    this.listener.head(head, this.links);
    this.report();
    await this.askAll(this.http, [...this.links.keys()], false);
    const source = handSource(store);
    const keep = () => this.context.changed(putPageLook(store, source, head, this.links), source);
    keep();
    const again = [...this.links.keys()].filter((index) => this.isOpen(this.links[index]));
    if (again.length > 0) {
      this.message = `asking ${again.length} a second time`;
      this.report();
      await sleep(this.options.pauseMs, undefined, { signal });
      const patient = clientFor(this.context, this.options.secondMs);
      try {
        await this.askAll(patient, again, true);
      } finally {
        await patient.close();
      }
      keep();
    }
    putDeadTargets(store, this.links);
    this.message = 'waiting for the last answers of registries';
    this.report();
    await this.checker.drainedSoon(PATIENCE_MS);
    this.message = closingWords(this.links);
    this.report();
    return this.links;
  }

  /** Whether a second asking may say more. */
  private isOpen({ state, gone }: LinkVerdict): boolean {
    return state === 'unsure' || state === 'waiting' || (state === 'dead' && gone === 'page');
  }

  private async askAll(http: HttpClient, indexes: readonly number[], isSecond: boolean): Promise<void> {
    const byHost = new Map<string, number[]>();
    for (const index of indexes) {
      const { host } = new URL(this.links[index].url);
      byHost.set(host, [...(byHost.get(host) ?? []), index]);
    }
    await inParallel([...byHost.values()], LINKS_AT_ONCE, async (group) => {
      for (const index of group) {
        const before = this.links[index];
        const answer = await this.askOne(http, before, isSecond);
        this.links[index] = { ...before, ...answer, asked: before.asked + 1 };
        if (!isSecond) this.asked++;
        this.listener.link(index, this.links[index]);
        this.report();
      }
    });
  }

  private async askOne(http: HttpClient, link: LinkVerdict, isSecond: boolean): Promise<Answer> {
    const { signal } = this.context;
    try {
      const { status, headers } = await http.get(link.url, { signal, wantsBody: () => false });
      return answerOf(link, status, headers.location, isSecond);
    } catch (error) {
      if (!(error instanceof NetError) || signal.aborted) throw error;
      const { code, message } = error;
      const unsure: Answer = { state: 'unsure', gone: null, status: null, detail: message };
      if (code === 'private-address' || link.domain === null) return unsure;
      // the servers of the ending know whether the domain is gone or only asleep
      const says = await this.domainSays(link.domain);
      if (says === 'gone')
        return { state: 'dead', gone: 'domain', status: null, detail: 'the servers of its TLD know no such name' };
      const times = isSecond ? ', twice' : '; it is asked again';
      return {
        ...unsure,
        detail: `${message.replace(/\.$/, '')}${says === 'there' ? '; the name is in DNS' : ''}${times}`,
      };
    }
  }

  private domainSays(name: string): Promise<'gone' | 'there' | 'unknown'> {
    let says = this.domains.get(name);
    if (!says) {
      says = this.askDomain(name);
      this.domains.set(name, says);
    }
    return says;
  }

  private async askDomain(name: string): Promise<'gone' | 'there' | 'unknown'> {
    const { store } = this.context;
    const domain = registrableDomain(name);
    if (!domain) return 'unknown';
    const { id } = write(store, () => putDomain(store, domain, false, store.now()));
    const outcome = await this.checker.ask({ id, ...domain });
    if (outcome === 'nxdomain' || outcome === 'no-delegation') return 'gone';
    return outcome === 'delegated' ? 'there' : 'unknown';
  }

  private report(): void {
    this.listener.progress(this.asked, this.links.length, this.message);
  }
}

type Answer = Pick<LinkVerdict, 'state' | 'gone' | 'status' | 'detail'>;

function answerOf(
  { url, status: before }: LinkVerdict,
  status: number,
  location: string | undefined,
  isSecond: boolean,
): Answer {
  const plain = { gone: null, status, detail: `the server answered ${status}` };
  if (status >= 300 && status < 400)
    return { ...plain, state: 'redirected', detail: `to ${normalizeAddress(location ?? '', url)?.url ?? 'nowhere'}` };
  if (status === 404 || status === 410) {
    if (isSecond && (before === 404 || before === 410))
      return { ...plain, state: 'dead', gone: 'page', detail: `the server answered ${status}, twice` };
    return {
      ...plain,
      state: 'unsure',
      detail: `the server answered ${status}${isSecond ? ' only once' : '; it is asked again'}`,
    };
  }
  if (status === 401 || status === 403 || status === 429)
    return { ...plain, state: 'refused', detail: `the server answered ${status} to us` };
  if (status < 400) return { ...plain, state: 'working' };
  return {
    ...plain,
    state: 'unsure',
    detail: `the server answered ${status}${isSecond ? ', twice' : '; it is asked again'}`,
  };
}

function outsideLinks(links: readonly PageLink[], site: string, visible: string): LinkVerdict[] {
  const outside = new Map<string, PageLink>();
  for (const link of links)
    if (link.address.site !== site && !outside.has(link.address.url) && outside.size < MAX_LINKS)
      outside.set(link.address.url, link);
  return [...outside.values()].map((link) => ({
    url: link.address.url,
    anchor: link.anchor,
    nofollow: link.nofollow,
    ...linkContext(visible, link),
    domain: registrableDomain(link.address.site)?.name ?? null,
    state: 'waiting',
    gone: null,
    status: null,
    detail: '',
    asked: 0,
  }));
}

function closingWords(links: readonly LinkVerdict[]): string {
  const dead = links.filter(({ state }) => state === 'dead').length;
  const unsure = links.filter(({ state }) => state === 'unsure').length;
  return `${links.length} links, ${dead} dead${unsure > 0 ? `, ${unsure} that could not be told` : ''}`;
}

async function fetchPage(http: HttpClient, text: string, signal: AbortSignal) {
  let address = normalizeAddress(/^[a-z]+:\/\//i.test(text.trim()) ? text : `http://${text.trim()}`);
  if (!address) throw new PageCheckError(`"${text.slice(0, 80)}" is no web address.`);
  try {
    for (let hop = 0; hop < 6; hop++) {
      const answer = await http.get(address.url, { signal });
      if (answer.status >= 300 && answer.status < 400) {
        const target = normalizeAddress(answer.headers.location ?? '', address.url);
        if (!target) throw new PageCheckError('The page redirects to nowhere.');
        address = target;
        continue;
      }
      if (answer.status !== 200) throw new PageCheckError(`The page's server answered ${answer.status}.`);
      const { type, charset } = contentType(answer.headers['content-type']);
      if (!HTML_TYPES.has(type)) throw new PageCheckError(`This is ${type}, not a page with links.`);
      return { url: address.url, page: readPage(decodeHtml(answer.body, charset).text, address.url) };
    }
  } catch (error) {
    if (error instanceof NetError) throw new PageCheckError(`${error.message}.`, { cause: error });
    throw error;
  }
  throw new PageCheckError('The page redirects without end.');
}
