import { linkContext } from '../../core/crawl/links';
import { type CrawlParams, depthLimit } from '../../core/crawl/params';
import { linkingSite, registrableDomain } from '../../core/names/domain';
import { isFull, write } from '../../store/base/database';
import { noteAttempt, type QueuedPage, savePage, setAside } from '../../store/crawl/crawl';
import { putEdges } from '../../store/crawl/crawl-depths.sql';
import { addSample } from '../../store/crawl/crawl-report';
import { switchesOf } from '../../store/crawl/find-causes';
import { putTrap, type SiteState, saveProbe, setSiteState } from '../../store/crawl/sites';
import { freshPhase, putDomain } from '../../store/domains/domains';
import { type PageLink, putPageLinks } from '../../store/links/link-writer.sql';
import { countRows } from '../../store/sources/sources';
import type { JobContext } from '../runner/context';
import { FindTaker } from './find-taker';
import type { Frontier, FrontierChange } from './frontier';
import { LINKS_PER_PAGE, type OutsideLink, type PageResult } from './page-reader';
import type { Find } from './pipeline';

const FLUSH_MS = 25;
const FLUSH_PAGES = 64;
const MAX_KNOWN_DOMAINS = 300_000;
const NOT_REGISTRABLE = 'not registrable: an address, or a TLD no registry hands out';

interface Pending {
  result: PageResult;
  written(): void;
  failed(error: unknown): void;
}

/** What a written batch brought. */
interface Written {
  finds: Find[];
  found: number[];
  /** Pages that named a lapsed domain whose verdict is fresh, once for each. */
  known: QueuedPage[];
  change: FrontierChange;
}

/**
 * Writes what was read: a page in one transaction with its links, the domains it names and the addresses it adds. Results
 * that arrive close together share one. When the disk is full it waits and says so; nothing read is lost meanwhile.
 */
export class CrawlWriter {
  private pending: Pending[] = [];
  private timer: NodeJS.Timeout | null = null;
  private flushing: Promise<void> | null = null;
  /** Ids of domains that this crawl has named already; -1: set aside. Only saves asking. */
  private readonly known = new Map<string, number>();
  private readonly siteIds = new Map<string, number>();
  readonly finds: FindTaker;
  domains = 0;
  private writing = 0;

  /**
   * @param freshSince a verdict from after this is not asked for again, ms since 1970.
   * @param onFinds told of domains whose verdict is wanted, after they are on disk.
   * @param whenFull called when the disk is full; resolves when it is worth trying again. @throws when asked to stop.
   */
  constructor(
    private readonly context: JobContext,
    private readonly sourceId: number,
    private readonly frontier: Frontier,
    private readonly params: CrawlParams,
    private readonly freshSince: number,
    private readonly onFinds: (finds: Find[]) => void,
    private readonly whenFull: () => Promise<void>,
  ) {
    this.finds = new FindTaker(context.store, sourceId, { ...params, leaveOut: switchesOf(context.store, sourceId) });
  }

  /** Resolves when the result is on disk. @param isAlone no other request is under way whose result could share the write. */
  put(result: PageResult, isAlone: boolean): Promise<void> {
    return new Promise((written, failed) => {
      this.pending.push({ result, written, failed });
      if (isAlone || this.pending.length >= FLUSH_PAGES) void this.flush();
      else this.timer ??= setTimeout(() => void this.flush(), FLUSH_MS);
    });
  }

  /** Pages that are not on disk yet. */
  get waiting(): number {
    return this.pending.length + this.writing;
  }

  /** Writes what waits. */
  async flush(): Promise<void> {
    while (this.flushing) await this.flushing;
    if (this.timer) clearTimeout(this.timer);
    this.timer = null;
    const batch = this.pending;
    this.pending = [];
    if (batch.length === 0) return;
    this.writing = batch.length;
    this.flushing = this.writeBatch(batch).finally(() => {
      this.writing = 0;
      this.flushing = null;
    });
    await this.flushing;
  }

  /** Small writes beside the pages, with the same patience. */
  async putSite(site: string, state: SiteState, note: string | null): Promise<void> {
    await this.patiently(() => setSiteState(this.context.store, this.sourceId, site, state, note));
  }

  async putAttempt(pageId: number): Promise<void> {
    await this.patiently(() => noteAttempt(this.context.store, pageId));
  }

  async putProbe(site: string, mark: number | null): Promise<void> {
    await this.patiently(() => saveProbe(this.context.store, this.sourceId, site, mark));
  }

  sample(sample: { pages: number; finds: number }): void {
    const { store } = this.context;
    try {
      write(store, () =>
        addSample(store, this.sourceId, {
          at: store.now(),
          queued: this.frontier.size,
          domains: this.domains,
          ...sample,
        }),
      );
    } catch (error) {
      if (!isFull(error)) throw error;
    }
  }

  private async writeBatch(batch: Pending[]): Promise<void> {
    try {
      const written = await this.patiently(() => this.writeResults(batch.map(({ result }) => result)));
      this.frontier.apply(written.change);
      for (const { classId, viaClass } of written.known) this.frontier.noteFind(classId, viaClass);
      for (const { result } of batch) this.frontier.settled(result.page, result.outcome.state === 'done');
      this.domains += written.found.length;
      if (written.found.length > 0) this.context.changed(written.found, this.sourceId);
      if (written.finds.length > 0) this.onFinds(written.finds);
      for (const { written: tell } of batch) tell();
    } catch (error) {
      for (const { failed } of batch) failed(error);
    }
  }

  private async patiently<T>(act: () => T): Promise<T> {
    for (;;) {
      try {
        return write(this.context.store, act);
      } catch (error) {
        // what was undone may have been remembered
        this.frontier.load();
        this.known.clear();
        this.siteIds.clear();
        if (!isFull(error)) throw error;
        await this.whenFull();
      }
    }
  }

  private writeResults(results: PageResult[]): Written {
    const written: Written = { finds: [], found: [], known: [], change: this.frontier.beginChange() };
    const counts = { rows_read: 0, rows_taken: 0, rows_excluded: 0, domains_new: 0 };
    for (const result of results) {
      counts.rows_read++;
      this.writeResult(result, written, counts);
    }
    countRows(this.context.store, this.sourceId, counts);
    return written;
  }

  private writeResult(
    result: PageResult,
    written: Written,
    counts: { rows_taken: number; rows_excluded: number; domains_new: number },
  ): void {
    const { store } = this.context;
    const { page, outcome, known, inside, isRedirect, outside, refused } = result;
    const at = store.now();
    savePage(store, page.id, at, outcome);
    if (outcome.state === 'done') this.frontier.countRead(page);
    const place = {
      depth: isRedirect ? page.depth : page.depth + 1,
      hops: isRedirect ? page.hops + 1 : 0,
      viaClass: page.classId,
      isBeyond: !isRedirect && page.depth + 1 > this.depthOf(page.site),
    };
    const added = inside.map((link) => this.frontier.push(link.address, link.anchor, place, written.change));
    putEdges(store, this.sourceId, page.id, known.concat(added), isRedirect);
    for (const { url, refused: rule } of refused) putTrap(store, this.sourceId, page.site, rule, url);
    const links: PageLink[] = [];
    for (const link of outside) {
      const toId = this.domainOf(link, result, at, written, counts);
      if (toId >= 0) links.push({ toId, toUrl: link.url, anchor: link.anchor, nofollow: link.nofollow });
    }
    const fromId = links.length > 0 ? this.siteId(page.site, at) : -1;
    if (fromId < 0) return;
    const { unindexed } = outside[0];
    const firstSeq = page.id * LINKS_PER_PAGE;
    const { url: fromUrl } = page;
    const from = { sourceId: this.sourceId, firstSeq, fromId, fromUrl, unindexed, lastSeenAt: at };
    putPageLinks(store, { ...from, indexable: unindexed === null }, links);
  }

  /** How deep a site is read; set by the crawl. */
  depthOf: (site: string) => number = () => depthLimit(this.params);

  /** Id of an outside domain, added when it is new; -1 when it is none that can be registered. */
  private domainOf(
    link: OutsideLink,
    { page, visible }: PageResult,
    at: number,
    written: Written,
    counts: { rows_taken: number; rows_excluded: number; domains_new: number },
  ): number {
    const { store } = this.context;
    const known = this.known.get(link.site);
    if (known !== undefined) return known;
    if (this.known.size >= MAX_KNOWN_DOMAINS) this.known.clear();
    const domain = registrableDomain(link.site);
    if (!domain) {
      if (setAside(store, this.sourceId, link.site, NOT_REGISTRABLE)) counts.rows_excluded++;
      this.known.set(link.site, -1);
      return -1;
    }
    const said = () => ({
      url: page.url,
      site: page.site,
      anchor: link.anchor,
      target: link.url,
      depth: page.depth,
      ...linkContext(visible(), link),
      page: page.id,
    });
    const { id, isNew, fate } = this.finds.take(domain, at, null, said);
    this.known.set(link.site, id);
    if (isNew) counts.domains_new++;
    if (fate === 'out') counts.rows_excluded++;
    if (fate !== 'find') return id;
    counts.rows_taken++;
    written.found.push(id);
    const phase = freshPhase(store, id, this.freshSince);
    if (phase === null)
      written.finds.push({ id, ...domain, pageId: page.id, classId: page.classId, viaClass: page.viaClass });
    else if (phase === 'free' || phase === 'pending-delete' || phase === 'redemption') {
      this.frontier.writeFind(page.id, page.classId, page.viaClass);
      written.known.push(page);
    }
    return id;
  }

  /** Id of the site that links, under its domain or its bare address; -1 where it has neither, so that its links are nobody's vote. */
  private siteId(site: string, at: number): number {
    let id = this.siteIds.get(site);
    if (id === undefined) {
      const domain = linkingSite(site);
      id = domain ? putDomain(this.context.store, domain, false, at).id : -1;
      this.siteIds.set(site, id);
    }
    return id;
  }
}
