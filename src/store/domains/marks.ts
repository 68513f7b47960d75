import type { Judgement } from '../../core/pool/facts';
import { type Store, statement, write } from '../base/database';
import { setWatched } from '../lifecycle/watching';
import { putOnShortlist, takeOffShortlist } from '../shortlist/shortlist';
import { noteFactChange } from './fact-changes';

/** What can be done to domains from the grid and the review, one or many at a time. */
export type Act =
  | { kind: 'judge'; judged: Judgement; reason?: string | null; until?: number | null }
  | { kind: 'tag'; tag: number }
  | { kind: 'untag'; tag: number }
  | { kind: 'shortlist'; brief: number }
  | { kind: 'unshortlist'; brief: number }
  | { kind: 'watch' }
  | { kind: 'unwatch' };

export interface ActionRow {
  id: number;
  at: number;
  act: Act;
  domains: number;
  undoneAt: number | null;
}

/** Opens an action; `actOn` fills it. */
export function beginAction(store: Store, act: Act): number {
  return write(store, () =>
    Number(
      statement(store.raw, 'INSERT INTO actions (at, kind, detail) VALUES (?, ?, ?)').run(
        store.now(),
        act.kind,
        JSON.stringify(act),
      ).lastInsertRowid,
    ),
  );
}

/**
 * Does an action to some domains and keeps what they were. Doing it twice is harmless.
 *
 * @returns the domains that it changed.
 */
export function actOn(store: Store, actionId: number, act: Act, domainIds: Iterable<number>): number[] {
  const { raw } = store;
  return write(store, () => {
    const at = store.now();
    const keep = statement(raw, 'INSERT OR IGNORE INTO action_rows VALUES (?, ?, ?)');
    const changed: number[] = [];
    for (const id of domainIds) {
      const was = changeOne(store, act, id, at);
      if (was === undefined) continue;
      keep.run(actionId, id, was);
      changed.push(id);
    }
    statement(raw, 'UPDATE actions SET domains = domains + ? WHERE id = ?').run(changed.length, actionId);
    return changed;
  });
}

/** @returns what it was, as text; undefined when nothing changes. */
function changeOne(store: Store, act: Act, id: number, at: number): string | null | undefined {
  const { raw } = store;
  if (act.kind === 'judge') {
    const before = statement(
      raw,
      'SELECT judged, judged_reason, judged_at, snoozed_until FROM domains WHERE id = ? AND in_pool = 1',
    ).get(id) as Record<string, unknown> | undefined;
    if (!before) return undefined;
    const judged = act.judged === 'not-yet' ? null : act.judged;
    const until = act.judged === 'snoozed' ? (act.until ?? null) : null;
    if (before.judged === judged && before.snoozed_until === until && before.judged_reason === (act.reason ?? null))
      return undefined;
    statement(
      raw,
      'UPDATE domains SET judged = ?, judged_reason = ?, judged_at = ?, snoozed_until = ? WHERE id = ?',
    ).run(judged, act.reason ?? null, judged === null ? null : at, until, id);
    noteMark(store, id, before.judged, act.judged === 'not-yet' ? null : withReason(act), at);
    return JSON.stringify(before);
  }
  if (act.kind === 'tag' || act.kind === 'untag') {
    const sql =
      act.kind === 'tag'
        ? 'INSERT OR IGNORE INTO domain_tags (domain_id, tag_id) VALUES (?, ?)'
        : 'DELETE FROM domain_tags WHERE domain_id = ? AND tag_id = ?';
    return statement(raw, sql).run(id, act.tag).changes > 0 ? null : undefined;
  }
  if (act.kind === 'watch' || act.kind === 'unwatch') {
    const before = statement(raw, 'SELECT watched_at, watch_reason, ask_at FROM domains WHERE id = ?').get(id);
    const isChanged = setWatched(store, id, act.kind === 'watch' ? 'by hand' : null, at);
    return isChanged ? JSON.stringify(before) : undefined;
  }
  if (act.kind === 'shortlist') return putOnShortlist(store, act.brief, id) ? null : undefined;
  return takeOffShortlist(store, act.brief, id) ? null : undefined;
}

const withReason = ({ judged, reason }: Extract<Act, { kind: 'judge' }>) => (reason ? `${judged}: ${reason}` : judged);

/** A mark is written down when it is given as well: it was somebody's word from the start. */
function noteMark(
  store: Store,
  id: number,
  was: unknown,
  becomes: string | number | null,
  at: number,
  who = 'you',
): void {
  noteFactChange(store, id, { at, fact: 'judged', was: was as string | null, becomes, who });
}

export function readAction(store: Store, id: number): ActionRow | null {
  const row = statement(
    store.raw,
    'SELECT id, at, detail, domains, undone_at AS undoneAt FROM actions WHERE id = ?',
  ).get(id) as { id: number; at: number; detail: string; domains: number; undoneAt: number | null } | undefined;
  return row
    ? { id: row.id, at: row.at, act: JSON.parse(row.detail), domains: row.domains, undoneAt: row.undoneAt }
    : null;
}

/** The last actions that changed something, the latest first; `first`: one of their domains. */
export function lastActions(store: Store, limit: number): (ActionRow & { first: string })[] {
  const rows = statement(
    store.raw,
    `SELECT a.id, a.at, a.detail, a.domains, a.undone_at AS undoneAt,
       (SELECT d.name FROM action_rows r JOIN domains d ON d.id = r.domain_id WHERE r.action_id = a.id LIMIT 1) AS first
     FROM actions a WHERE a.domains > 0 ORDER BY a.id DESC LIMIT ?`,
  ).all(limit) as {
    id: number;
    at: number;
    detail: string;
    domains: number;
    undoneAt: number | null;
    first: string | null;
  }[];
  return rows.map(({ detail, first, ...row }) => ({ ...row, act: JSON.parse(detail), first: first ?? 'a domain' }));
}

/** Gives some domains of an action back what they were, in the order of their ids. @returns those ids; none: all is undone. */
export function undoSome(store: Store, action: ActionRow, limit: number): number[] {
  const { raw } = store;
  return write(store, () => {
    const rows = statement(raw, 'SELECT domain_id AS id, was FROM action_rows WHERE action_id = ? LIMIT ?').all(
      action.id,
      limit,
    ) as { id: number; was: string | null }[];
    for (const { id, was } of rows) {
      giveBack(store, action.act, id, was === null ? null : JSON.parse(was));
      statement(raw, 'DELETE FROM action_rows WHERE action_id = ? AND domain_id = ?').run(action.id, id);
    }
    if (rows.length === 0) statement(raw, 'UPDATE actions SET undone_at = ? WHERE id = ?').run(store.now(), action.id);
    return rows.map(({ id }) => id);
  });
}

function giveBack(store: Store, act: Act, id: number, was: Record<string, string | number | null> | null): void {
  const { raw } = store;
  switch (act.kind) {
    case 'judge':
      statement(
        raw,
        `UPDATE domains SET judged = @judged, judged_reason = @judged_reason, judged_at = @judged_at,
         snoozed_until = @snoozed_until WHERE id = @id`,
      ).run({ ...was, id });
      noteMark(store, id, act.judged, was?.judged ?? null, store.now(), 'you, taken back');
      return;
    case 'watch':
    case 'unwatch':
      statement(
        raw,
        'UPDATE domains SET watched_at = @watched_at, watch_reason = @watch_reason, ask_at = @ask_at WHERE id = @id',
      ).run({ ...was, id });
      return;
    case 'tag':
      statement(raw, 'DELETE FROM domain_tags WHERE domain_id = ? AND tag_id = ?').run(id, act.tag);
      return;
    case 'untag':
      statement(raw, 'INSERT OR IGNORE INTO domain_tags (domain_id, tag_id) VALUES (?, ?)').run(id, act.tag);
      return;
    case 'shortlist':
      takeOffShortlist(store, act.brief, id);
      return;
    case 'unshortlist':
      putOnShortlist(store, act.brief, id);
  }
}

/** Snoozed domains whose time has come are not judged any more. @returns their ids. */
export function wakeSnoozed(store: Store, at: number, limit: number): number[] {
  const ids = statement(store.raw, 'SELECT id FROM domains WHERE snoozed_until <= ? LIMIT ?')
    .pluck()
    .all(at, limit) as number[];
  if (ids.length === 0) return ids;
  write(store, () => {
    const wake = statement(
      store.raw,
      'UPDATE domains SET judged = NULL, judged_reason = NULL, judged_at = NULL, snoozed_until = NULL WHERE id = ?',
    );
    for (const id of ids) wake.run(id);
  });
  return ids;
}

export interface Tag {
  id: number;
  name: string;
  domains: number;
}

export function listTags(store: Store): Tag[] {
  return statement(
    store.raw,
    `SELECT t.id, t.name, (SELECT count(*) FROM domain_tags d WHERE d.tag_id = t.id) AS domains FROM tags t ORDER BY t.name`,
  ).all() as Tag[];
}

/** Finds or adds a tag. */
export function tagNamed(store: Store, name: string): number {
  return write(store, () => {
    statement(store.raw, 'INSERT OR IGNORE INTO tags (name, created_at) VALUES (?, ?)').run(name, store.now());
    return statement(store.raw, 'SELECT id FROM tags WHERE name = ?').pluck().get(name) as number;
  });
}

export function tagsOf(store: Store, domainId: number): string[] {
  return statement(
    store.raw,
    'SELECT t.name FROM domain_tags d JOIN tags t ON t.id = d.tag_id WHERE d.domain_id = ? ORDER BY t.name',
  )
    .pluck()
    .all(domainId) as string[];
}

/** Sets that rows of the pool belong to beside their sources, as pairs of set and domain. */
export const MEMBERSHIP_SQL = {
  tag: 'SELECT tag_id, domain_id FROM domain_tags',
  shortlist: 'SELECT brief_id, domain_id FROM shortlist',
  fresh: 'SELECT sieve_id, domain_id FROM sieve_hits WHERE fresh = 1',
} as const;

export function* eachMember(store: Store, fact: keyof typeof MEMBERSHIP_SQL): Generator<[set: number, domain: number]> {
  for (const pair of store.raw.prepare(MEMBERSHIP_SQL[fact]).raw().iterate()) yield pair as [number, number];
}

/** Keeps a long list of words. @returns its number; the same words always have the same. */
export function keepWords(store: Store, words: string[], hash: string): number {
  return write(store, () => {
    statement(store.raw, 'INSERT OR IGNORE INTO word_lists (hash, words, created_at) VALUES (?, ?, ?)').run(
      hash,
      JSON.stringify(words),
      store.now(),
    );
    return statement(store.raw, 'SELECT id FROM word_lists WHERE hash = ?').pluck().get(hash) as number;
  });
}

export function readWords(store: Store, id: number): string[] | null {
  const words = statement(store.raw, 'SELECT words FROM word_lists WHERE id = ?').pluck().get(id) as string | undefined;
  return words === undefined ? null : JSON.parse(words);
}

const VISIT_GAP_MS = 30 * 60_000;

interface Visits {
  /** When the person was last heard of. */
  at: number;
  /** When the visit before this one ended. */
  before: number;
}

/** Notes that the person is here. A pause of half an hour ends a visit. @returns when the visit before this one ended, ms since 1970. */
export function noteVisit(store: Store, at: number): number {
  const visits = readVisits(store);
  if (at - visits.at < 60_000 && at >= visits.at) return visits.before;
  const next: Visits = { at, before: at - visits.at > VISIT_GAP_MS ? visits.at : visits.before };
  write(store, () =>
    statement(
      store.raw,
      `INSERT INTO settings VALUES ('visits', ?) ON CONFLICT(key) DO UPDATE SET value = excluded.value`,
    ).run(JSON.stringify(next)),
  );
  return next.before;
}

export function lastVisit(store: Store): number {
  return readVisits(store).before;
}

function readVisits(store: Store): Visits {
  const row = statement(store.raw, `SELECT value FROM settings WHERE key = 'visits'`).pluck().get() as
    | string
    | undefined;
  return row === undefined ? { at: 0, before: 0 } : JSON.parse(row);
}
