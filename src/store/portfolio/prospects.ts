import { type ProspectState, stateChanged } from '../../core/prospecting/prospects';
import { type Store, statement, write } from '../base/database';

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
  return statement(
    store.raw,
    `SELECT p.target_url AS target, p.target_domain AS domain, p.page_url AS page, p.title, p.anchor, p.contact, p.state, p.note,
       p.written_at AS writtenAt, p.answered_at AS answeredAt, p.added_at AS addedAt, s.own_url AS standIn
     FROM prospects p LEFT JOIN stand_ins s ON s.target_url = p.target_url
     ORDER BY min(p.added_at) OVER (PARTITION BY p.target_url), p.target_url, p.page_url`,
  ).all() as Prospect[];
}

/** Puts pages that link to a target on the work list; those that are on it stay as they are. @returns those that are new. */
export function addProspects(
  store: Store,
  { target, domain }: Pick<Prospect, 'target' | 'domain'>,
  pages: readonly Pick<Prospect, 'page' | 'title' | 'anchor' | 'contact'>[],
): string[] {
  return write(store, () => {
    const insert = statement(
      store.raw,
      `INSERT OR IGNORE INTO prospects (target_url, target_domain, page_url, title, anchor, contact, state, added_at)
       VALUES (?, ?, ?, ?, ?, ?, 'to write', ?)`,
    );
    const at = store.now();
    return pages.flatMap(({ page, title, anchor, contact }) =>
      insert.run(target, domain, page, title, anchor, contact, at).changes > 0 ? [page] : [],
    );
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
      statement(
        store.raw,
        `UPDATE prospects SET state = @state, contact = @contact, note = @note, written_at = @writtenAt, answered_at = @answeredAt
         WHERE target_url = @target AND page_url = @page`,
      ).run({ ...row, target, page }).changes > 0,
  );
}

/** Takes a page off the list that was put there by mistake. */
export function dropProspect(store: Store, target: string, page: string): boolean {
  return write(
    store,
    () =>
      statement(store.raw, 'DELETE FROM prospects WHERE target_url = ? AND page_url = ?').run(target, page).changes > 0,
  );
}

function kept(store: Store, target: string, page: string): KeptProspect | undefined {
  return statement(
    store.raw,
    `SELECT state, contact, note, written_at AS writtenAt, answered_at AS answeredAt FROM prospects
     WHERE target_url = ? AND page_url = ?`,
  ).get(target, page) as KeptProspect | undefined;
}

/** Chooses the own page that is offered in place of a target; null: none. @returns the one before. */
export function chooseStandIn(store: Store, target: string, ownUrl: string | null): string | null {
  return write(store, () => {
    const before = standInOf(store, target);
    if (ownUrl === null) statement(store.raw, 'DELETE FROM stand_ins WHERE target_url = ?').run(target);
    else statement(store.raw, 'INSERT OR REPLACE INTO stand_ins VALUES (?, ?, ?)').run(target, ownUrl, store.now());
    return before;
  });
}

export function standInOf(store: Store, target: string): string | null {
  return (
    (statement(store.raw, 'SELECT own_url AS standIn FROM stand_ins WHERE target_url = ?').pluck().get(target) as
      | string
      | undefined) ?? null
  );
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
  return statement(
    store.raw,
    `SELECT l.to_url AS url, d.name AS domain, count(DISTINCT l.from_url) AS pages, count(DISTINCT l.from_id) AS domains
     FROM json_each(?) j JOIN domains d ON d.id = j.value JOIN links l ON l.to_id = d.id
     GROUP BY l.to_url ORDER BY domains DESC, pages DESC, l.to_url LIMIT ?`,
  ).all(JSON.stringify(ids), limit) as LapsedTarget[];
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

/** Every page known to link to an address of a domain, those of the strongest domains first. */
export function linksToTarget(store: Store, target: string, domain: string, limit: number): TargetLink[] {
  return statement(
    store.raw,
    `SELECT l.from_url AS page, max(p.title) AS title, max(l.anchor) AS anchor, min(l.nofollow) AS nofollow,
       max(p.contact) AS contact, max(l.source_id) AS sourceId, max(f.strength) AS strength
     FROM domains d JOIN links l ON l.to_id = d.id AND l.to_url = ? JOIN domains f ON f.id = l.from_id
       LEFT JOIN pages p ON p.source_id = l.source_id AND p.url = l.from_url
     WHERE d.name = ? GROUP BY l.from_url ORDER BY strength DESC NULLS LAST, l.from_url LIMIT ?`,
  ).all(target, domain, limit) as TargetLink[];
}

/**
 * Where a site can be reached, by the pages of it that a source has read: a contact that one of them names, and a page that looks like one
 * for it. Only the source's own pages of that host are looked through.
 */
export function contactOf(store: Store, sourceId: number, page: string): { contact: string | null; at: string | null } {
  const { origin } = new URL(page);
  const rows = statement(
    store.raw,
    `SELECT url, contact AS siteContact FROM pages
     WHERE source_id = ? AND url >= ? || '/' AND url < ? || '0' AND (contact IS NOT NULL OR url LIKE '%contact%' OR url LIKE '%about%')
     ORDER BY url LIKE '%contact%' DESC, url LIMIT 50`,
  ).all(sourceId, origin, origin) as { url: string; siteContact: string | null }[];
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
  return statement(
    store.raw,
    `SELECT l.from_url AS page, min(l.to_url) AS target, max(p.title) AS title, max(l.anchor) AS anchor, max(p.contact) AS contact,
       max(f.strength) AS strength, max(p.readers) AS readers
     FROM links l JOIN domains f ON f.id = l.from_id LEFT JOIN pages p ON p.source_id = l.source_id AND p.url = l.from_url
     WHERE l.to_id = ? GROUP BY l.from_url ORDER BY readers DESC NULLS LAST, strength DESC NULLS LAST, l.from_url LIMIT ?`,
  ).all(domainId, limit) as Mention[];
}
