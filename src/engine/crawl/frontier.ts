import { AddressMemory, type CrawlAddress } from '../../core/crawl/address';
import { CREDIT, FindModel, worthReading } from '../../core/crawl/find-model';
import { classifyAddress } from '../../core/crawl/page-class';
import type { CrawlParams } from '../../core/crawl/params';
import type { Store } from '../../store/base/database';
import {
  classesOf,
  countFind,
  countInClass,
  putClass,
  type QueuedPage,
  queuePage,
  waitingByClass,
  waitingPages,
} from '../../store/crawl/crawl';

const CHUNK = 64;
/** Addresses remembered with their ids before the memory starts afresh; the database knows them all. */
const MAX_KNOWN = 200_000;
/** Shapes of address that one site may have; what comes later shares one class. */
const MAX_SHAPES = 400;

/** Changes to the counts that become true when the transaction that made them is on disk. */
export interface FrontierChange {
  /** Pages that joined the queue, by class. */
  waiting: Map<number, number>;
}

/**
 * The pages that wait. They lie in the database; here are the counts of each class of pages, what each is expected to give,
 * and the next few of those being read. So a frontier of millions costs little memory, and a crawl resumes by counting.
 */
export class Frontier {
  model = new FindModel();
  private waiting = new Map<number, number>();
  private bySite = new Map<string, Set<number>>();
  private classIds = new Map<string, number>();
  private buffers = new Map<number, QueuedPage[]>();
  /** Pages handed out whose outcome is not on disk yet, with their classes. */
  private readonly taken = new Map<number, number>();
  /** Addresses as pages write them; page ids are noted there. */
  readonly addresses = new AddressMemory();
  /** Page ids of addresses that the memory does not hold. */
  private known = new Map<string, number>();
  private worth = 0;
  private weighAgainAt = 0;
  private readonly reading = new Set<string>();
  private readonly year: number;

  constructor(
    private readonly store: Store,
    private readonly sourceId: number,
    private readonly order: CrawlParams['order'],
  ) {
    this.year = new Date(store.now()).getUTCFullYear();
    this.load();
  }

  /** Reads counts and classes anew: at the start, and after a transaction that failed. */
  load(): void {
    this.model = new FindModel();
    this.waiting = new Map();
    this.bySite = new Map();
    this.classIds = new Map();
    this.buffers = new Map();
    this.forget();
    for (const state of classesOf(this.store, this.sourceId)) this.noteClass(state.id, state.site, state.shape, state);
    for (const { classId, pages } of waitingByClass(this.store, this.sourceId)) this.waiting.set(classId, pages);
    for (const classId of this.taken.values()) this.waiting.set(classId, (this.waiting.get(classId) ?? 1) - 1);
  }

  get size(): number {
    let sum = 0;
    for (const pages of this.waiting.values()) sum += pages;
    return sum;
  }

  waitingAt(site: string): number {
    let sum = 0;
    for (const id of this.bySite.get(site) ?? []) sum += this.waiting.get(id) ?? 0;
    return sum;
  }

  beginChange(): FrontierChange {
    return { waiting: new Map() };
  }

  /** Adds an address, inside the transaction that writes the page it was found on. @returns its page id. */
  push(
    address: CrawlAddress,
    anchor: string,
    place: { depth: number; hops: number; viaClass: number; isBeyond: boolean },
    change: FrontierChange,
  ): number {
    const known = this.idOf(address);
    if (known !== undefined) return known;
    const classId = this.classOf(address, anchor);
    const { id, isNew } = queuePage(this.store, this.sourceId, {
      address,
      depth: place.depth,
      hops: place.hops,
      classId,
      viaClass: place.viaClass,
      state: place.isBeyond ? 'beyond' : 'queued',
    });
    if (isNew && !place.isBeyond) change.waiting.set(classId, (change.waiting.get(classId) ?? 0) + 1);
    this.remember(address, id);
    return id;
  }

  /** Page id of an address that belongs to the crawl; undefined: not known, or forgotten here. */
  idOf(address: CrawlAddress): number | undefined {
    return address.place ? address.place.ids[address.slot ?? -1] : this.known.get(address.url);
  }

  private remember(address: CrawlAddress, id: number): void {
    if (address.place) {
      address.place.ids[address.slot ?? -1] = id;
      return;
    }
    if (this.known.size >= MAX_KNOWN) this.known.clear();
    this.known.set(address.url, id);
  }

  private forget(): void {
    this.known.clear();
    this.addresses.clear();
  }

  /** Call when the transaction is on disk. */
  apply(change: FrontierChange): void {
    for (const [id, pages] of change.waiting) this.waiting.set(id, (this.waiting.get(id) ?? 0) + pages);
  }

  /**
   * Takes the site's next page: of the class that is expected to give most, the shallowest.
   *
   * @returns `none` when nothing waits there, `later` when what waits is not worth one of the pages left.
   */
  take(site: string): QueuedPage | 'none' | 'later' {
    const ids = this.bySite.get(site);
    if (!ids) return 'none';
    let best = -1;
    let bestValue = Number.NEGATIVE_INFINITY;
    for (const id of ids) {
      if ((this.waiting.get(id) ?? 0) <= 0) continue;
      const value = this.valueOf(id);
      if (value > bestValue) {
        bestValue = value;
        best = id;
      }
    }
    if (best < 0) return 'none';
    if (this.order === 'expected' && this.worth > 0 && this.model.hoped(best) < this.worth) return 'later';
    const page = this.nextOf(best);
    if (!page) {
      this.waiting.set(best, 0); // the count was wrong; the database is right
      return this.take(site);
    }
    this.waiting.set(best, (this.waiting.get(best) ?? 1) - 1);
    this.taken.set(page.id, page.classId);
    return page;
  }

  /** Puts a page back that could not be reached. */
  putBack(page: QueuedPage): void {
    this.taken.delete(page.id);
    this.waiting.set(page.classId, (this.waiting.get(page.classId) ?? 0) + 1);
    this.buffers.get(page.classId)?.unshift(page);
  }

  /** The outcome of a page is on disk. */
  settled(page: QueuedPage, wasRead: boolean): void {
    this.taken.delete(page.id);
    if (wasRead) this.model.read(page.classId);
  }

  /** Writes down that a page was read. Call inside the transaction. */
  countRead(page: QueuedPage): void {
    countInClass(this.store, page.classId, 1, 0);
  }

  /** Writes down that a lapsed domain was found first on a page of this class. Call inside a transaction. */
  writeFind(pageId: number, classId: number, viaClass: number): void {
    countFind(this.store, pageId);
    countInClass(this.store, classId, 0, 1);
    if (viaClass !== 0) countInClass(this.store, viaClass, 0, CREDIT);
  }

  /** Learns from it. Call when the transaction is on disk. */
  noteFind(classId: number, viaClass: number): void {
    this.model.found(classId, 1);
    if (viaClass !== 0) this.model.found(viaClass, CREDIT);
  }

  /** A site is being read, or is not: dropped, at rest for long, at the end of its budget. */
  setReading(site: string, isReading: boolean): void {
    if (isReading) this.reading.add(site);
    else if (this.reading.delete(site)) this.weighAgainAt = 0;
  }

  /**
   * Says anew what is worth reading with the pages that are left. Only sites that are being read count: nobody waits for the
   * better pages of a site that nobody reads.
   */
  weigh(pagesLeft: number): void {
    if (this.order !== 'expected' || this.size <= pagesLeft) {
      this.worth = 0;
      return;
    }
    // never more than a twentieth of the time
    const started = performance.now();
    if (started < this.weighAgainAt) return;
    const classes: { expected: number; waiting: number }[] = [];
    for (const site of this.reading)
      for (const id of this.bySite.get(site) ?? []) {
        const waiting = this.waiting.get(id) ?? 0;
        if (waiting > 0) classes.push({ expected: this.model.expected(id), waiting });
      }
    this.worth = worthReading(classes, pagesLeft);
    const now = performance.now();
    this.weighAgainAt = now + 20 * (now - started);
  }

  private valueOf(id: number): number {
    if (this.order === 'expected') return this.model.expected(id);
    if (this.order === 'random') return Math.random() * (this.waiting.get(id) ?? 0);
    const head = this.peek(id);
    return head ? -(head.depth * 1e9 + head.id) : Number.NEGATIVE_INFINITY;
  }

  private peek(id: number): QueuedPage | undefined {
    let buffer = this.buffers.get(id);
    if (!buffer || buffer.length === 0) {
      // those that are being read still stand as queued on disk
      buffer = waitingPages(this.store, id, CHUNK + this.taken.size).filter((page) => !this.taken.has(page.id));
      this.buffers.set(id, buffer);
    }
    return buffer[0];
  }

  private nextOf(id: number): QueuedPage | undefined {
    return this.peek(id) && this.buffers.get(id)?.shift();
  }

  private classOf(address: CrawlAddress, anchor: string): number {
    const kind = classifyAddress(address.url, anchor, this.year);
    let key = `${address.site} ${kind.shape}`;
    let id = this.classIds.get(key);
    if (id !== undefined) return id;
    if ((this.bySite.get(address.site)?.size ?? 0) >= MAX_SHAPES) {
      kind.shape = kind.cue === 'list' ? '… links' : '…';
      key = `${address.site} ${kind.shape}`;
      id = this.classIds.get(key);
      if (id !== undefined) return id;
    }
    id = putClass(this.store, this.sourceId, address.site, kind);
    this.noteClass(id, address.site, kind.shape, { id, site: address.site, pages: 0, gave: 0, ...kind });
    return id;
  }

  private noteClass(id: number, site: string, shape: string, state: Parameters<FindModel['add']>[0]): void {
    this.model.add({ ...state });
    this.classIds.set(`${site} ${shape}`, id);
    const ids = this.bySite.get(site);
    if (ids) ids.add(id);
    else this.bySite.set(site, new Set([id]));
  }
}
