import { type ProspectState, stateChanged } from '../../core/prospecting/prospects';
import { type Store, write } from '../base/database';
import { all, camel, columns, first, knex, orNull, pick, run, sql } from '../base/query';

const PROSPECTS = columns('prospects', 'p');
const STAND_INS = columns('stand_ins', 's');
const LINKS = columns('links', 'l');
const DOMAINS = columns('domains', 'd');
const PAGES = columns('pages');

/** A page that links to a dead target, on the work list. Times in ms since 1970 UTC. */
export interface Prospect {
  target: string;
  domain: string;
  page: string;
  title: string | null;
  anchor: string;
  /** How to reach whoever runs the page: as it said itself, or as was found out. */
  contact: string | null;
  state: ProspectState;
  note: string;
  writtenAt: number | null;
  answeredAt: number | null;
  addedAt: number;
  /** The own page that is offered; null: none is chosen. */
  standIn: string | null;
}

/** The work list, targets together, in the order in which they came on it. */
export function listProspects(store: Store): Prospect[] {
  return all(
    store,
    pick(knex('prospects as p').leftJoin('stand_ins as s', 's.target_url', 'p.target_url'), {
      ...camel(PROSPECTS, 'title', 'anchor', 'contact', 'state', 'note', 'written_at', 'answered_at', 'added_at'),
      target: PROSPECTS.target_url,
      domain: PROSPECTS.target_domain,
      page: PROSPECTS.page_url,
      standIn: orNull(STAND_INS.own_url),
    }).orderByRaw('min(p.added_at) OVER (PARTITION BY p.target_url), p.target_url, p.page_url'),
  );
}

/** Puts pages that link to a target on the work list; those that are on it stay as they are. @returns those that are new. */
export function addProspects(
  store: Store,
  { target, domain }: Pick<Prospect, 'target' | 'domain'>,
  pages: readonly Pick<Prospect, 'page' | 'title' | 'anchor' | 'contact'>[],
): string[] {
  return write(store, () => {
    const at = store.now();
    return pages
      .filter(({ page, title, anchor, contact }) => {
        const row = { target_url: target, target_domain: domain, page_url: page, title, anchor, contact };
        const { changes } = run(
          store,
          knex('prospects')
            .insert({ ...row, state: 'to write', added_at: at })
            .onConflict()
            .ignore(),
        );
        return changes > 0;
      })
      .map(({ page }) => page);
  });
}

export interface ProspectChange {
  state?: ProspectState;
  contact?: string | null;
  note?: string;
}
type KeptProspect = Pick<Prospect, 'state' | 'note' | 'writtenAt' | 'answeredAt' | 'contact'>;

/** @returns the row as it was, for undo; null: it is not on the list. */
export function changeProspect(
  store: Store,
  target: string,
  page: string,
  change: ProspectChange,
): KeptProspect | null {
  return write(store, () => {
    const before = kept(store, target, page);
    if (!before) return null;
    const { state = before.state, contact = before.contact, note = before.note } = change;
    const times = state === before.state ? before : stateChanged(before, state, store.now());
    restoreProspect(store, target, page, { ...times, state, contact, note });
    return before;
  });
}

/** Sets a row as it was before a change. @returns whether it is on the list. */
export function restoreProspect(store: Store, target: string, page: string, row: KeptProspect): boolean {
  return write(
    store,
    () =>
      run(
        store,
        knex('prospects').where({ target_url: target, page_url: page }).update({
          state: row.state,
          contact: row.contact,
          note: row.note,
          written_at: row.writtenAt,
          answered_at: row.answeredAt,
        }),
      ).changes > 0,
  );
}

/** Takes a page off the list that was put there by mistake. */
export function dropProspect(store: Store, target: string, page: string): boolean {
  return write(
    store,
    () => run(store, knex('prospects').where({ target_url: target, page_url: page }).delete()).changes > 0,
  );
}

function kept(store: Store, target: string, page: string): KeptProspect | undefined {
  return first(
    store,
    pick(knex('prospects as p'), camel(PROSPECTS, 'state', 'contact', 'note', 'written_at', 'answered_at')).where({
      target_url: target,
      page_url: page,
    }),
  );
}

/** Chooses the own page that is offered in place of a target; null: none. @returns the one before. */
export function chooseStandIn(store: Store, target: string, ownUrl: string | null): string | null {
  return write(store, () => {
    const before = standInOf(store, target);
    if (ownUrl === null) run(store, knex('stand_ins').where('target_url', target).delete());
    else
      run(
        store,
        knex('stand_ins')
          .insert({ target_url: target, own_url: ownUrl, chosen_at: store.now() })
          .onConflict(['target_url'])
          .merge(),
      );
    return before;
  });
}

export function standInOf(store: Store, target: string): string | null {
  return first(store, knex('stand_ins').where('target_url', target).pluck('own_url')) ?? null;
}

/** A target of which a domain that can be had is the whole: addresses that are still linked to. */
export interface LapsedTarget {
  url: string;
  domain: string;
  pages: number;
  domains: number;
}

/** Addresses of lapsed domains that pages link to, the most linking domains first. @param ids of the domains. */
export function lapsedTargets(store: Store, ids: readonly number[], limit: number): LapsedTarget[] {
  return all(
    store,
    pick(
      knex(knex.raw('json_each(?) as j', [JSON.stringify(ids)]))
        .join('domains as d', 'd.id', 'j.value')
        .join('links as l', 'l.to_id', 'd.id'),
      {
        url: LINKS.to_url,
        domain: DOMAINS.name,
        pages: sql<number>('count(DISTINCT l.from_url)'),
        domains: sql<number>('count(DISTINCT l.from_id)'),
      },
    )
      .groupBy('l.to_url')
      .orderByRaw('domains DESC, pages DESC, l.to_url')
      .limit(limit),
  );
}

/** A page that links to a target. */
export interface TargetLink {
  page: string;
  title: string | null;
  anchor: string;
  nofollow: number;
  contact: string | null;
  /** Of the domain that links, 0 to 100; null: not measured. */
  strength: number | null;
  sourceId: number;
}

/** Of one linking page in several sources: the fullest word on it. */
const BEST_OF_PAGE = {
  title: sql<string | null>('max(p.title)'),
  anchor: sql<string>('max(l.anchor)'),
  contact: sql<string | null>('max(p.contact)'),
  strength: sql<number | null>('max(f.strength)'),
};

/** Every page known to link to an address of a domain, those of the strongest domains first. */
export function linksToTarget(store: Store, target: string, domain: string, limit: number): TargetLink[] {
  return all(
    store,
    pick(
      knex('domains as d')
        .join('links as l', 'l.to_id', 'd.id')
        .join('domains as f', 'f.id', 'l.from_id')
        .leftJoin('pages as p', (on) => on.on('p.source_id', 'l.source_id').on('p.url', 'l.from_url')),
      {
        page: LINKS.from_url,
        ...BEST_OF_PAGE,
        nofollow: sql<number>('min(l.nofollow)'),
        sourceId: sql<number>('max(l.source_id)'),
      },
    )
      .where({ 'd.name': domain, 'l.to_url': target })
      .groupBy('l.from_url')
      .orderByRaw('strength DESC NULLS LAST, l.from_url')
      .limit(limit),
  );
}

/**
 * Where a site can be reached, by the pages of it that a source has read: a contact that one of them names, and a page that looks like one
 * for it. Only the source's own pages of that host are looked through.
 */
export function contactOf(store: Store, sourceId: number, page: string): { contact: string | null; at: string | null } {
  const { origin } = new URL(page);
  const rows = all(
    store,
    pick(knex('pages'), { ...camel(PAGES, 'url'), siteContact: PAGES.contact })
      .where('source_id', sourceId)
      .whereRaw("url >= ? || '/'", [origin])
      .whereRaw("url < ? || '0'", [origin])
      .whereRaw("(contact IS NOT NULL OR url LIKE '%contact%' OR url LIKE '%about%')")
      .orderByRaw("url LIKE '%contact%' DESC, url")
      .limit(50),
  );
  const named = rows.find(({ siteContact }) => siteContact !== null);
  return { contact: named?.siteContact ?? null, at: rows.find(({ url }) => /contact|about/.test(url))?.url ?? null };
}

/** A page that links to a domain or mentions it, with where to. */
export interface Mention extends Omit<TargetLink, 'sourceId' | 'nofollow'> {
  target: string;
  /** What the page claims for itself; null: nothing. */
  readers: number | null;
}

/** Pages that link to a domain or mention it, the most read first, then those of the strongest domains. */
export function mentionsOf(store: Store, domainId: number, limit: number): Mention[] {
  return all(
    store,
    pick(
      knex('links as l')
        .join('domains as f', 'f.id', 'l.from_id')
        .leftJoin('pages as p', (on) => on.on('p.source_id', 'l.source_id').on('p.url', 'l.from_url')),
      {
        page: LINKS.from_url,
        target: sql<string>('min(l.to_url)'),
        ...BEST_OF_PAGE,
        readers: sql<number | null>('max(p.readers)'),
      },
    )
      .where('l.to_id', domainId)
      .groupBy('l.from_url')
      .orderByRaw('readers DESC NULLS LAST, strength DESC NULLS LAST, l.from_url')
      .limit(limit),
  );
}
