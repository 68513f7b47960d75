import { z } from 'zod';
import { WATCH_REASONS } from '../../core/lifecycle/watch-reasons';
import { JUDGEMENTS } from '../../core/pool/facts';
import { actor } from '../../core/work/actor';
import { type Store, write } from '../base/database';
import { all, camel, columns, first, fromJson, knex, pick, prepared, run, sql, the } from '../base/query';
import type { Row } from '../base/schema';
import { keepValue, readKept } from '../base/settings';
import { setWatched } from '../lifecycle/watching';
import { putOnShortlist, takeOffShortlist } from '../shortlist/shortlist';
import { noteFactChange } from './fact-changes';

const ACTIONS = columns('actions', 'a');
const ACTION_ROWS = columns('action_rows');
const TAGS = columns('tags', 't');
/** What can be done to domains from the grid and the review, one or many at a time. */
const Act = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('judge'),
    judged: z.enum(JUDGEMENTS),
    reason: z.string().nullish(),
    until: z.number().nullish(),
  }),
  z.object({ kind: z.literal('tag'), tag: z.number() }),
  z.object({ kind: z.literal('untag'), tag: z.number() }),
  z.object({ kind: z.literal('shortlist'), brief: z.number() }),
  z.object({ kind: z.literal('unshortlist'), brief: z.number() }),
  z.object({ kind: z.literal('watch') }),
  z.object({ kind: z.literal('unwatch') }),
]);
export type Act = z.infer<typeof Act>;

/** What a domain was before, by the columns that an act changes; where one was put on or taken off, nothing. */
const Was = z
  .object({
    judged: z.enum(JUDGEMENTS).nullable(),
    judged_reason: z.string().nullable(),
    judged_at: z.number().nullable(),
    snoozed_until: z.number().nullable(),
    watched_at: z.number().nullable(),
    watch_reason: z.enum(WATCH_REASONS).nullable(),
    ask_at: z.number().nullable(),
  })
  .partial();
type Was = z.infer<typeof Was>;

export interface ActionRow {
  id: number;
  at: number;
  act: Act;
  domains: number;
  undoneAt: number | null;
  /** Who did it. */
  who: string;
}

/** Opens an action; `actOn` fills it. */
export function beginAction(store: Store, act: Act): number {
  return write(store, () =>
    Number(
      run(store, knex('actions').insert({ at: store.now(), kind: act.kind, detail: JSON.stringify(act), who: actor() }))
        .lastInsertRowid,
    ),
  );
}

/**
 * Does an action to some domains and keeps what they were. Doing it twice is harmless.
 *
 * @returns the domains that it changed.
 */
export function actOn(store: Store, actionId: number, act: Act, domainIds: Iterable<number>): number[] {
  return write(store, () => {
    const at = store.now();
    const changed: number[] = [];
    for (const id of domainIds) {
      const was = changeOne(store, act, id, at);
      if (was === undefined) continue;
      KEEP.run(store, { actionId, domainId: id, was });
      changed.push(id);
    }
    run(
      store,
      knex('actions')
        .where('id', actionId)
        .update({ domains: sql('domains + ?', [changed.length]) }),
    );
    return changed;
  });
}

const KEEP = prepared((row: { actionId: number; domainId: number; was: string | null }) =>
  knex('action_rows').insert({ action_id: row.actionId, domain_id: row.domainId, was: row.was }).onConflict().ignore(),
);
const JUDGED = prepared(({ id }: { id: number }) =>
  knex('domains').select('judged', 'judged_reason', 'judged_at', 'snoozed_until').where({ id, in_pool: 1 }),
);
const WATCHED = prepared(({ id }: { id: number }) =>
  knex('domains').select('watched_at', 'watch_reason', 'ask_at').where('id', id),
);
type JudgedColumns = Pick<Row<'domains'>, 'id' | 'judged' | 'judged_reason' | 'judged_at' | 'snoozed_until'>;
const JUDGE = prepared((row: JudgedColumns) =>
  knex('domains').where('id', row.id).update({
    judged: row.judged,
    judged_reason: row.judged_reason,
    judged_at: row.judged_at,
    snoozed_until: row.snoozed_until,
  }),
);
const TAG = prepared((row: { id: number; tag: number }) =>
  knex('domain_tags').insert({ domain_id: row.id, tag_id: row.tag }).onConflict().ignore(),
);
const UNTAG = prepared((row: { id: number; tag: number }) =>
  knex('domain_tags').where({ domain_id: row.id, tag_id: row.tag }).delete(),
);

/** @returns what it was, as text; undefined when nothing changes. */
function changeOne(store: Store, act: Act, id: number, at: number): string | null | undefined {
  if (act.kind === 'judge') return judgeOne(store, act, id, at);
  if (act.kind === 'tag' || act.kind === 'untag')
    return (act.kind === 'tag' ? TAG : UNTAG).run(store, { id, tag: act.tag }).changes > 0 ? null : undefined;
  if (act.kind === 'watch' || act.kind === 'unwatch') {
    const before = WATCHED.first(store, { id });
    const isChanged = setWatched(store, id, act.kind === 'watch' ? 'by hand' : null, at);
    return isChanged ? JSON.stringify(before) : undefined;
  }
  if (act.kind === 'shortlist') return putOnShortlist(store, act.brief, id) ? null : undefined;
  return takeOffShortlist(store, act.brief, id) ? null : undefined;
}

function judgeOne(store: Store, act: Judging, id: number, at: number): string | undefined {
  const before = JUDGED.first(store, { id });
  if (!before) return undefined;
  const judged = act.judged === 'not-yet' ? null : act.judged;
  const until = act.judged === 'snoozed' ? (act.until ?? null) : null;
  const reason = act.reason ?? null;
  if (before.judged === judged && before.snoozed_until === until && before.judged_reason === reason) return undefined;
  JUDGE.run(store, { id, judged, judged_reason: reason, judged_at: judged === null ? null : at, snoozed_until: until });
  noteMark(store, id, before.judged, judged === null ? null : withReason(act), at);
  return JSON.stringify(before);
}

type Judging = Extract<Act, { kind: 'judge' }>;

const withReason = ({ judged, reason }: Judging) => (reason ? `${judged}: ${reason}` : judged);

/** A mark is written down when it is given as well: it was somebody's word from the start. */
function noteMark(
  store: Store,
  id: number,
  was: string | null,
  becomes: string | null,
  at: number,
  who = actor(),
): void {
  noteFactChange(store, id, { at, fact: 'judged', was, becomes, who });
}

export function readAction(store: Store, id: number): ActionRow | null {
  const row = first(
    store,
    pick(knex('actions as a'), camel(ACTIONS, 'id', 'at', 'detail', 'domains', 'undone_at', 'who')).where('a.id', id),
  );
  return row
    ? {
        id: row.id,
        at: row.at,
        act: fromJson(Act, row.detail),
        domains: row.domains,
        undoneAt: row.undoneAt,
        who: row.who,
      }
    : null;
}

/** The last actions that changed something, the latest first; `first`: one of their domains. */
export function lastActions(store: Store, limit: number): (ActionRow & { first: string })[] {
  const rows = all(
    store,
    pick(knex('actions as a'), {
      ...camel(ACTIONS, 'id', 'at', 'detail', 'domains', 'undone_at', 'who'),
      first: sql<string | null>(
        '(SELECT d.name FROM action_rows r JOIN domains d ON d.id = r.domain_id WHERE r.action_id = a.id LIMIT 1)',
      ),
    })
      .where('a.domains', '>', 0)
      .orderBy('a.id', 'desc')
      .limit(limit),
  );
  return rows.map(({ detail, first, ...row }) => ({ ...row, act: fromJson(Act, detail), first: first ?? 'a domain' }));
}

/** Gives some domains of an action back what they were, in the order of their ids. @returns those ids; none: all is undone. */
export function undoSome(store: Store, action: ActionRow, limit: number): number[] {
  return write(store, () => {
    const rows = all(
      store,
      pick(knex('action_rows'), { ...camel(ACTION_ROWS, 'was'), id: ACTION_ROWS.domain_id })
        .where('action_id', action.id)
        .limit(limit),
    );
    for (const { id, was } of rows) {
      giveBack(store, action.act, id, was === null ? null : fromJson(Was, was));
      run(store, knex('action_rows').where({ action_id: action.id, domain_id: id }).delete());
    }
    if (rows.length === 0) run(store, knex('actions').where('id', action.id).update({ undone_at: store.now() }));
    return rows.map(({ id }) => id);
  });
}

function giveBack(store: Store, act: Act, id: number, was: Was | null): void {
  switch (act.kind) {
    case 'judge': {
      const { judged = null, judged_reason = null, judged_at = null, snoozed_until = null } = was ?? {};
      JUDGE.run(store, { id, judged, judged_reason, judged_at, snoozed_until });
      noteMark(store, id, act.judged, judged, store.now(), 'you, taken back');
      return;
    }
    case 'watch':
    case 'unwatch': {
      const { watched_at = null, watch_reason = null, ask_at = null } = was ?? {};
      run(store, knex('domains').where('id', id).update({ watched_at, watch_reason, ask_at }));
      return;
    }
    case 'tag':
      UNTAG.run(store, { id, tag: act.tag });
      return;
    case 'untag':
      TAG.run(store, { id, tag: act.tag });
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
  const ids = all(store, knex('domains').where('snoozed_until', '<=', at).limit(limit).pluck('id'));
  if (ids.length === 0) return ids;
  write(store, () => {
    for (const id of ids)
      JUDGE.run(store, { id, judged: null, judged_reason: null, judged_at: null, snoozed_until: null });
  });
  return ids;
}

export interface Tag {
  id: number;
  name: string;
  domains: number;
}

export function listTags(store: Store): Tag[] {
  return all(
    store,
    pick(knex('tags as t'), {
      ...camel(TAGS, 'id', 'name'),
      domains: sql<number>('(SELECT count(*) FROM domain_tags d WHERE d.tag_id = t.id)'),
    }).orderBy('t.name'),
  );
}

/** Finds or adds a tag. */
export function tagNamed(store: Store, name: string): number {
  return write(store, () => {
    run(store, knex('tags').insert({ name, created_at: store.now() }).onConflict().ignore());
    return the(store, knex('tags').where('name', name).pluck('id'));
  });
}

export function tagsOf(store: Store, domainId: number): string[] {
  return all(
    store,
    pick(knex('domain_tags as d').join('tags as t', 't.id', 'd.tag_id'), { name: TAGS.name })
      .where('d.domain_id', domainId)
      .orderBy('t.name'),
  ).map((row) => row.name);
}

/** Keeps a long list of words. @returns its number; the same words always have the same. */
export function keepWords(store: Store, words: string[], hash: string): number {
  return write(store, () => {
    run(
      store,
      knex('word_lists')
        .insert({ hash, words: JSON.stringify(words), created_at: store.now() })
        .onConflict()
        .ignore(),
    );
    return the(store, knex('word_lists').where('hash', hash).pluck('id'));
  });
}

export function readWords(store: Store, id: number): string[] | null {
  const words = first(store, knex('word_lists').where('id', id).pluck('words'));
  return words === undefined ? null : fromJson(z.array(z.string()), words);
}

const VISIT_GAP_MS = 30 * 60_000;

const Visits = z.object({
  /** When the person was last heard of. */
  at: z.number(),
  /** When the visit before this one ended. */
  before: z.number(),
});
type Visits = z.infer<typeof Visits>;

const readVisits = (store: Store): Visits => readKept(store, 'visits', Visits) ?? { at: 0, before: 0 };

/** Notes that the person is here. A pause of half an hour ends a visit. @returns when the visit before this one ended, ms since 1970. */
export function noteVisit(store: Store, at: number): number {
  const visits = readVisits(store);
  if (at - visits.at < 60_000 && at >= visits.at) return visits.before;
  const next: Visits = { at, before: at - visits.at > VISIT_GAP_MS ? visits.at : visits.before };
  keepValue(store, 'visits', next);
  return next.before;
}

export function lastVisit(store: Store): number {
  return readVisits(store).before;
}
