import { z } from 'zod';
import { LEAVE_OUT, LEFT_OUT_AT_FIRST, type LeaveOut, maskOf, type NamedBefore } from '../../core/crawl/leave-out';
import type { Store } from '../base/database';
import {
  all,
  camel,
  columns,
  copyRows,
  each,
  exists,
  first,
  knex,
  pick,
  placesOf,
  prepared,
  run,
  sql,
} from '../base/query';
import type { Row } from '../base/schema';
import { readSource } from '../sources/sources';

const FIND_CAUSES = columns('find_causes');
const DOMAINS = columns('domains', 'd');

const BEFORE = prepared(({ name }: { name: string }) =>
  knex('domains').select('id', 'in_pool', 'judged', 'referring_domains').where('name', name),
);

/** What is known of a domain before a source names it. Call before it is put. */
export function namedBefore(store: Store, name: string): NamedBefore & { id: number | null } {
  const row = BEFORE.first(store, { name });
  return {
    id: row?.id ?? null,
    isKnown: row?.in_pool === 1,
    isJudged: row !== undefined && row.judged !== null,
    referringDomains: row?.referring_domains ?? null,
  };
}

/** Whether a source has named a domain already, as a find or left out. */
export function isNamed(store: Store, sourceId: number, domainId: number): boolean {
  return (
    IS_SIGHTED.first(store, { sourceId, domainId }) !== undefined ||
    CAUSES_OF.first(store, { sourceId, domainId }) !== undefined
  );
}
type Named = { sourceId: number; domainId: number };
const IS_SIGHTED = prepared(({ sourceId, domainId }: Named) =>
  knex('sightings').where({ domain_id: domainId, source_id: sourceId }).pluck('at'),
);
const CAUSES_OF = prepared(({ sourceId, domainId }: Named) =>
  knex('find_causes').where({ source_id: sourceId, domain_id: domainId }).pluck('causes'),
);

/** Notes why a domain could be left out; with `isOut` it is, and what the source said is kept here. Call inside a write transaction. */
export function putCauses(
  store: Store,
  find: {
    sourceId: number;
    domainId: number;
    causes: number;
    isOut: boolean;
    at: number;
    line: number | null;
    said: object;
  },
): void {
  const { sourceId, domainId, causes, isOut, at, line, said } = find;
  CAUSE.run(store, {
    source_id: sourceId,
    domain_id: domainId,
    causes,
    is_out: isOut ? 1 : 0,
    at,
    line,
    said: isOut ? JSON.stringify(said) : null,
  });
}
const CAUSE = prepared((row: Row<'find_causes'>) =>
  knex('find_causes').insert(placesOf('find_causes', row)).onConflict().ignore(),
);

/** Of one switch: whether it is on, how many domains it would keep out by itself, and how many are out that no other switch keeps out. */
export interface SwitchCount {
  cause: LeaveOut;
  isOn: boolean;
  would: number;
  alone: number;
}

/** How many domains each switch of a source would keep out. */
export function switchCounts(store: Store, sourceId: number): { switches: SwitchCount[]; out: number } {
  const on = switchesOf(store, sourceId);
  const mask = maskOf(on);
  const rows = all(
    store,
    pick(knex('find_causes'), {
      ...camel(FIND_CAUSES, 'causes'),
      out: sql<number>('sum(is_out)'),
      domains: sql<number>('count(*)'),
    })
      .where('source_id', sourceId)
      .groupBy('causes'),
  );
  const sum = (is: (row: { causes: number }) => boolean) =>
    rows.reduce((total, row) => total + (is(row) ? row.domains : 0), 0);
  const switches = LEAVE_OUT.map((cause, place) => {
    const bit = 1 << place;
    return {
      cause,
      isOn: on.includes(cause),
      would: sum(({ causes }) => (causes & bit) !== 0),
      alone: sum(({ causes }) => (causes & bit) !== 0 && (causes & mask & ~bit) === 0),
    };
  });
  return { switches, out: rows.reduce((total, row) => total + row.out, 0) };
}

/** The switches of a source that are on. */
export function switchesOf(store: Store, sourceId: number): LeaveOut[] {
  const detail = readSource(store, sourceId)?.detail ?? {};
  return z
    .array(z.enum(LEAVE_OUT))
    .catch([...LEFT_OUT_AT_FIRST])
    .parse(detail.leaveOut);
}

const WAS_KNOWN = maskOf(['known']);

/** A part of the work of changed switches. `last`: the domain it came to; null: there is no more. */
export interface MovedPart {
  last: number | null;
  /** In the finds again. */
  back: number[];
  /** Left out now. */
  out: number[];
}

/**
 * Moves the next `limit` domains after one, by id, out of a source's finds or back into them, as its switches are. What nobody else names
 * and no shortlist holds leaves the pool. Call inside a write transaction; doing it twice is harmless.
 */
export function moveFinds(store: Store, sourceId: number, mask: number, after: number, limit: number): MovedPart {
  const rows = all(
    store,
    pick(knex('find_causes'), { ...camel(FIND_CAUSES, 'causes', 'is_out'), id: FIND_CAUSES.domain_id })
      .where('source_id', sourceId)
      .where('domain_id', '>', after)
      .whereRaw('is_out <> ((causes & ?) <> 0)', [mask])
      .orderBy('domain_id')
      .limit(limit),
  );
  const part: MovedPart = { last: rows.at(-1)?.id ?? null, back: [], out: [] };
  for (const { id, causes, isOut } of rows) {
    if (isOut) {
      comeBack(store, sourceId, id);
      part.back.push(id);
    } else {
      goOut(store, sourceId, id, (causes & WAS_KNOWN) !== 0);
      part.out.push(id);
    }
  }
  return part;
}

function comeBack(store: Store, sourceId: number, id: number): void {
  const left = () => knex('find_causes').where({ source_id: sourceId, domain_id: id });
  copyRows(store, 'sightings', left(), {
    domain_id: FIND_CAUSES.domain_id,
    source_id: FIND_CAUSES.source_id,
    at: FIND_CAUSES.at,
    line: FIND_CAUSES.line,
    said: FIND_CAUSES.said,
  });
  run(store, left().update({ is_out: 0, said: null }));
  run(store, knex('domains').where({ id, in_pool: 0 }).update({ in_pool: 1, added_at: store.now() }));
}

/** @param wasKnown what was in the pool before came there some other way, and stays. */
function goOut(store: Store, sourceId: number, id: number, wasKnown: boolean): void {
  const sighted = () => knex('sightings').where({ domain_id: id, source_id: sourceId });
  const said = first(store, sighted().pluck('said')) ?? null;
  run(store, knex('find_causes').where({ source_id: sourceId, domain_id: id }).update({ is_out: 1, said }));
  run(store, sighted().delete());
  const isHeld =
    exists(store, knex('sightings').where('domain_id', id)) || exists(store, knex('shortlist').where('domain_id', id));
  if (!wasKnown && !isHeld) run(store, knex('domains').where('id', id).update({ in_pool: 0 }));
}

/** Domains that are left out of a source's finds, with the switches that would leave them out. */
export function* eachLeftOut(store: Store, sourceId: number): Generator<{ name: string; causes: LeaveOut[] }> {
  const rows = each<{ name: string; causes: number }>((last, limit) =>
    all(
      store,
      pick(knex('find_causes as f').join('domains as d', 'd.id', 'f.domain_id'), {
        name: DOMAINS.name,
        causes: sql<number>('f.causes'),
      })
        .where({ 'f.source_id': sourceId, 'f.is_out': 1 })
        .where('d.name', '>', last?.name ?? '')
        .orderBy('d.name')
        .limit(limit),
    ),
  );
  for (const { name, causes } of rows) yield { name, causes: LEAVE_OUT.filter((_, place) => causes & (1 << place)) };
}
