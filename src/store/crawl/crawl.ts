import type { CrawlAddress } from '../../core/crawl/address';
import type { PageKind } from '../../core/crawl/content';
import type { ClassState } from '../../core/crawl/find-model';
import type { PageClass } from '../../core/crawl/page-class';
import type { UnreadCause } from '../../core/crawl/unread';
import type { Store } from '../base/database';
import { all, camel, columns, constant, each, knex, known, pick, prepared, run, sql } from '../base/query';

export const PAGES = columns('pages');

/** As the index over waiting pages has it. */
const QUEUED = constant('queued');

/** A page the crawl is to fetch. */
export interface QueuedPage {
  id: number;
  url: string;
  site: string;
  host: string;
  depth: number;
  /** Redirects that led here. */
  hops: number;
  classId: number;
  /** Class of the page that led here first; 0 for a seed. */
  viaClass: number;
  /** Times it was asked for and could not be reached. */
  attempts: number;
}

export interface PageOutcome {
  /** done: read. skipped: not wanted (robots, type). failed: no usable answer. */
  state: 'done' | 'skipped' | 'failed';
  status: number | null;
  contentType: string | null;
  charset: string | null;
  title: string | null;
  noindex: boolean;
  nofollow: boolean;
  canonical: string | null;
  /** Why it was skipped or failed, where it redirects to, what decided its kind. */
  note: string | null;
  /** The same as a kind, of what was not read. */
  cause: UnreadCause | null;
  bytes: number;
  linksOut: number;
  kind: PageKind | null;
  mark: number | null;
  letters: number | null;
  readers: number | null;
  contact: string | null;
}

export interface NewPage {
  address: CrawlAddress;
  depth: number;
  hops: number;
  classId: number;
  viaClass: number;
  /** beyond: known, but deeper than the crawl goes. */
  state: 'queued' | 'beyond';
}

type QueuedRow = Omit<NewPage, 'address'> & CrawlAddress & { sourceId: number };
const QUEUE_PAGE = prepared((page: QueuedRow) =>
  knex('pages')
    .insert({
      source_id: page.sourceId,
      url: page.url,
      site: page.site,
      host: page.host,
      depth: page.depth,
      hops: page.hops,
      class_id: page.classId,
      via_class: page.viaClass,
      state: page.state,
    })
    .onConflict()
    .ignore(),
);
const PAGE_ID = prepared(({ sourceId, url }: { sourceId: number; url: string }) =>
  knex('pages').where({ source_id: sourceId, url }).pluck('id'),
);

/** Adds a page to a crawl. @returns its id, and whether the crawl did not know it. */
export function queuePage(store: Store, sourceId: number, page: NewPage): { id: number; isNew: boolean } {
  const { changes, lastInsertRowid } = QUEUE_PAGE.run(store, { sourceId, ...page.address, ...page });
  if (changes > 0) return { id: Number(lastInsertRowid), isNew: true };
  const id = PAGE_ID.first(store, { sourceId, url: page.address.url });
  if (id === undefined) throw new Error(`${page.address.url} is neither new nor known`);
  return { id, isNew: false };
}

/** Waiting pages of one class, lowest depth first, then in the order found. */
export function waitingPages(store: Store, classId: number, limit: number): QueuedPage[] {
  return all(
    store,
    pick(knex('pages'), camel(PAGES, 'id', 'url', 'site', 'host', 'depth', 'hops', 'class_id', 'via_class', 'attempts'))
      .where({ class_id: classId, state: QUEUED })
      .orderBy([{ column: 'depth' }, { column: 'id' }])
      .limit(limit),
  );
}

export function waitingByClass(store: Store, sourceId: number): { classId: number; pages: number }[] {
  return all(
    store,
    pick(knex('pages'), { ...camel(PAGES, 'class_id'), pages: sql<number>('count(*)') })
      .whereRaw('class_id IN (SELECT id FROM crawl_classes WHERE source_id = ?)', [sourceId])
      .where('state', QUEUED)
      .groupBy('class_id'),
  );
}

export function noteAttempt(store: Store, pageId: number): void {
  run(
    store,
    knex('pages')
      .where('id', pageId)
      .update({ attempts: sql('attempts + 1') }),
  );
}

type SavedRow = Omit<PageOutcome, 'noindex' | 'nofollow'> & {
  id: number;
  noindex: 0 | 1;
  nofollow: 0 | 1;
  at: number;
};
const SAVE_PAGE = prepared((page: SavedRow) =>
  knex('pages').where('id', page.id).update({
    state: page.state,
    status: page.status,
    content_type: page.contentType,
    charset: page.charset,
    title: page.title,
    noindex: page.noindex,
    nofollow: page.nofollow,
    canonical: page.canonical,
    note: page.note,
    cause: page.cause,
    bytes: page.bytes,
    links_out: page.linksOut,
    kind: page.kind,
    mark: page.mark,
    letters: page.letters,
    readers: page.readers,
    contact: page.contact,
    fetched_at: page.at,
  }),
);

export function savePage(store: Store, pageId: number, at: number, outcome: PageOutcome): void {
  const { noindex, nofollow } = outcome;
  SAVE_PAGE.run(store, { ...outcome, noindex: noindex ? 1 : 0, nofollow: nofollow ? 1 : 0, id: pageId, at });
}

/** How often each text was met on each site, for telling copies. */
export function eachMark(store: Store, sourceId: number): { site: string; mark: number; pages: number }[] {
  return all(
    store,
    pick(knex('pages'), { site: PAGES.site, mark: known(PAGES.mark), pages: sql<number>('count(*)') })
      .where('source_id', sourceId)
      .whereNotNull('mark')
      .groupBy('site', 'mark'),
  );
}

export function classesOf(store: Store, sourceId: number): ClassState[] {
  return all(
    store,
    knex('crawl_classes').select('id', 'site', 'shape', 'word', 'cue', 'pages', 'gave').where('source_id', sourceId),
  );
}

const CLASS = prepared((of: { sourceId: number; site: string; shape: string }) =>
  knex('crawl_classes').where({ source_id: of.sourceId, site: of.site, shape: of.shape }).pluck('id'),
);

/** Finds or adds a class of pages. */
export function putClass(store: Store, sourceId: number, site: string, { shape, word, cue }: PageClass): number {
  const known = CLASS.first(store, { sourceId, site, shape });
  if (known !== undefined) return known;
  const { lastInsertRowid } = run(store, knex('crawl_classes').insert({ source_id: sourceId, site, shape, word, cue }));
  return Number(lastInsertRowid);
}

const COUNT = prepared((counts: { classId: number; pages: number; gave: number }) =>
  knex('crawl_classes')
    .where('id', counts.classId)
    .update({ pages: sql('pages + ?', [counts.pages]), gave: sql('gave + ?', [counts.gave]) }),
);

export function countInClass(store: Store, classId: number, pages: number, gave: number): void {
  COUNT.run(store, { classId, pages, gave });
}

/** Counts a lapsed domain for the page where it was found first. */
export function countFind(store: Store, pageId: number): void {
  run(
    store,
    knex('pages')
      .where('id', pageId)
      .update({ finds: sql('finds + 1') }),
  );
}

/** Keeps a domain from going further down the pipeline of a source. @returns whether it is new there. */
export function setAside(store: Store, sourceId: number, name: string, reason: string): boolean {
  return ASIDE.run(store, { sourceId, name, reason }).changes > 0;
}
const ASIDE = prepared((of: { sourceId: number; name: string; reason: string }) =>
  knex('set_aside').insert({ source_id: of.sourceId, name: of.name, reason: of.reason }).onConflict().ignore(),
);

/** Names that were set aside, in their order. */
export function eachSetAside(store: Store, sourceId: number): Generator<{ name: string; reason: string }> {
  return each<{ name: string; reason: string }>((last, limit) =>
    all(
      store,
      knex('set_aside')
        .select('name', 'reason')
        .where('source_id', sourceId)
        .where('name', '>', last?.name ?? '')
        .orderBy('name')
        .limit(limit),
    ),
  );
}
