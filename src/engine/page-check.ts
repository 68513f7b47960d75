import { normalizeAddress } from '../core/crawl/address';
import { decodeHtml } from '../core/crawl/decode';
import { linkContext, type PageLink, readPage } from '../core/crawl/links';
import type { Phase } from '../core/lifecycle/phase';
import { registrableDomain } from '../core/names/domain';
import { NetError } from '../net/errors';
import { contentType, HttpClient } from '../net/http';
import type { Store } from '../store/database';
import { findDomain } from '../store/domains';
import { handSource, putDeadTargets, putPageLook } from '../store/pages';
import { Checker, inParallel } from './checker';
import type { JobContext } from './context';
import { HTML_TYPES } from './crawl/page-reader';

/** What became of one link of a page. */
export interface LinkVerdict {
  url: string;
  anchor: string;
  nofollow: boolean;
  before: string;
  after: string;
  domain: string | null;
  state: 'working' | 'redirected' | 'dead' | 'refused' | 'unsure';
  /** Of a dead link: whether the domain is gone, or only the page. */
  gone: 'page' | 'domain' | null;
  status: number | null;
  /** What the server said, or why there was no answer. */
  detail: string;
  phase: Phase | null;
}

export interface PageCheck {
  url: string;
  title: string;
  contact: string | null;
  readers: number | null;
  links: LinkVerdict[];
  /** Links inside the site, which are not looked at. */
  inside: number;
  elapsedMs: number;
}

const LINKS_AT_ONCE = 32;
const MAX_LINKS = 500;
const LINK_TIMEOUT_MS = 6000;
/** Registries are waited for so long; a verdict that comes later is kept and shown the next time. */
const PATIENCE_MS = 4000;

/** A page could not be looked at; the message is for people. */
export class PageCheckError extends Error {}

/**
 * Reads one page and asks every outside link whether it still works. Dead pages on living domains are kept as dead targets;
 * dead domains go to the pool. Takes seconds: links are asked all at once, one a host at a time.
 *
 * @throws PageCheckError when the page itself cannot be read.
 */
export async function checkPage(
  context: Pick<JobContext, 'store' | 'settings' | 'log' | 'signal' | 'changed'>,
  text: string,
): Promise<PageCheck> {
  const started = performance.now();
  const { store, settings, signal } = context;
  const http = new HttpClient({
    userAgent: settings.userAgent,
    connector: store.config.connector,
    allowedPrivate: settings.allowedPrivate,
    timeoutMs: LINK_TIMEOUT_MS,
    connectionsPerHost: 2,
  });
  try {
    const { url, page } = await fetchPage(http, text, signal);
    const site = normalizeAddress(url)?.site ?? '';
    const outside = new Map<string, PageLink>();
    for (const link of page.links)
      if (link.address.site !== site && !outside.has(link.address.url) && outside.size < MAX_LINKS)
        outside.set(link.address.url, link);
    const links = await askLinks(http, [...outside.values()], page.visible, signal);
    const source = handSource(store);
    const ids = putPageLook(
      store,
      source,
      { url, title: page.title, contact: page.contact, readers: page.readers },
      links,
    );
    context.changed(ids, source);
    await checkDomains(context, links);
    putDeadTargets(store, links);
    return {
      url,
      title: page.title,
      contact: page.contact,
      readers: page.readers,
      links,
      inside: page.links.filter((link) => link.address.site === site).length,
      elapsedMs: Math.round(performance.now() - started),
    };
  } finally {
    await http.close();
  }
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

async function askLinks(
  http: HttpClient,
  links: PageLink[],
  visible: string,
  signal: AbortSignal,
): Promise<LinkVerdict[]> {
  const verdicts: LinkVerdict[] = [];
  const byHost = new Map<string, PageLink[]>();
  for (const link of links) {
    const { host } = link.address;
    byHost.set(host, [...(byHost.get(host) ?? []), link]);
  }
  await inParallel([...byHost.values()], LINKS_AT_ONCE, async (group) => {
    for (const link of group) {
      const { anchor, nofollow } = link;
      const { url, site } = link.address;
      const base = {
        url,
        anchor,
        nofollow,
        ...linkContext(visible, link),
        domain: registrableDomain(site)?.name ?? null,
        phase: null,
      };
      verdicts.push({ ...base, ...(await askLink(http, url, signal)) });
    }
  });
  const order = new Map(links.map(({ address }, index) => [address.url, index]));
  return verdicts.sort((a, b) => (order.get(a.url) ?? 0) - (order.get(b.url) ?? 0));
}

async function askLink(
  http: HttpClient,
  url: string,
  signal: AbortSignal,
): Promise<Pick<LinkVerdict, 'state' | 'gone' | 'status' | 'detail'>> {
  try {
    const { status, headers } = await http.get(url, { signal, wantsBody: () => false });
    if (status >= 300 && status < 400) {
      const target = normalizeAddress(headers.location ?? '', url)?.url ?? 'nowhere';
      return { state: 'redirected', gone: null, status, detail: `to ${target}` };
    }
    if (status === 404 || status === 410 || status >= 500)
      return { state: 'dead', gone: 'page', status, detail: `the server answered ${status}` };
    if (status === 401 || status === 403 || status === 429)
      return { state: 'refused', gone: null, status, detail: `the server answered ${status} to us` };
    return { state: status < 400 ? 'working' : 'unsure', gone: null, status, detail: `the server answered ${status}` };
  } catch (error) {
    if (!(error instanceof NetError) || signal.aborted) throw error;
    if (error.code === 'name-not-found') return { state: 'dead', gone: 'domain', status: null, detail: error.message };
    if (error.code === 'private-address') return { state: 'unsure', gone: null, status: null, detail: error.message };
    // no server answers: DNS decides below whether the domain is gone or only asleep
    return { state: 'dead', gone: 'page', status: null, detail: error.message };
  }
}

/** DNS and registry for the domains of dead links, as far as they answer in time. */
async function checkDomains(
  context: Pick<JobContext, 'store' | 'settings' | 'log' | 'signal' | 'changed'>,
  links: LinkVerdict[],
): Promise<void> {
  const { store } = context;
  const names = [
    ...new Set(
      links.flatMap((link) => (link.state === 'dead' && link.status === null && link.domain ? link.domain : [])),
    ),
  ];
  const checker = new Checker(context, -Date.now(), () => undefined);
  const gone = new Set<string>();
  try {
    await inParallel(names, LINKS_AT_ONCE, async (name) => {
      const row = findDomain(store, name);
      if (!row) return;
      const outcome = await checker.ask(row);
      if (outcome === 'nxdomain' || outcome === 'no-delegation') gone.add(name);
    });
    await checker.drainedSoon(PATIENCE_MS);
  } finally {
    checker.close(true);
  }
  for (const link of links) {
    if (link.domain === null) continue;
    if (link.state === 'dead' && gone.has(link.domain)) {
      link.gone = 'domain';
      link.detail = 'the name is not in DNS';
    } else if (link.state === 'dead' && link.status === null && link.gone === 'page')
      link.detail = 'the name is in DNS, no server answers';
    link.phase = phaseOf(store, link.domain);
  }
}

function phaseOf(store: Store, name: string): Phase | null {
  const row = findDomain(store, name);
  return row && row.phase_at !== null ? row.phase : null;
}
