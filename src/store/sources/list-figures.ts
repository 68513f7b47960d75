import { z } from 'zod';
import type { ListField } from '../../core/formats/list-fields';
import { type ListStatement, SCORES, scoreNames, statedFigures, unpackFigures } from '../../core/formats/list-figures';
import type { Told } from '../../core/formats/told';
import { type CountRule, readCountRule } from '../../core/measures/counts';
import type { Store } from '../base/database';
import { all, columns, knex, pick, prepared, run, sql } from '../base/query';
import { readSettings } from '../base/settings';
import { keepDetail, readSource } from './sources';

const SOURCES = columns('sources');
const STATEMENTS_OF = prepared(({ domainId }: { domainId: number }) =>
  pick(knex('sightings').join('sources', 'sources.id', 'sightings.source_id'), {
    sourceId: SOURCES.id,
    source: SOURCES.name,
    at: sql<number>('coalesce(sightings.figures_at, sightings.at)'),
    figures: sql<string>('sightings.figures'),
  })
    .where('sightings.domain_id', domainId)
    .whereNotNull('sightings.figures')
    .orderBy('sources.id'),
);
const UPDATE = prepared((row: { domainId: number; sourceId: number; figures: string; at: number }) =>
  knex('sightings')
    .where({ domain_id: row.domainId, source_id: row.sourceId })
    .update({ figures: row.figures, figures_at: row.at }),
);

/** What lists state of a domain, by the numbers of their sources. */
export function statementsOf(store: Store, domainId: number): ListStatement[] {
  return STATEMENTS_OF.all(store, { domainId }).map((row) => ({ ...row, figures: unpackFigures(row.figures) }));
}

/** What a source states of a domain by now, in place of what it stated before. Call inside a write transaction. */
export function putStatement(store: Store, domainId: number, sourceId: number, figures: string, at: number): void {
  UPDATE.run(store, { domainId, sourceId, figures, at });
}

/** Which list's figures count. */
export function figureRule(store: Store): CountRule {
  return readCountRule(readSettings(store).countRule);
}

/** Names of the scores that have a place, in the order of SCORES. */
export function scoreNamesOf(store: Store): string[] {
  return all(store, knex('score_names').orderBy('place').pluck('name'));
}

/**
 * Gives the scores among the columns of a source their places, and notes which figures it states, beside those that it stated before: what
 * it stated then still stands. Call inside a write transaction.
 *
 * @returns at which place of SCORES each score stands, by its name.
 */
export function settleStated(
  store: Store,
  sourceId: number,
  columns: readonly ListField[],
  told: readonly Told[],
): Record<string, number> {
  const scores = placeScores(store, scoreNames(columns, told));
  const before = z.array(z.string()).catch([]).parse(readSource(store, sourceId)?.detail.stated);
  keepDetail(store, sourceId, { stated: [...new Set([...before, ...statedFigures(columns, told, scores)])] });
  return scores;
}

/**
 * At which place of SCORES each score stands: names that are new get those that are left, the others have none. Call inside a write
 * transaction.
 */
export function placeScores(store: Store, names: readonly string[]): Record<string, number> {
  const placed = scoreNamesOf(store);
  for (const name of new Set(names)) {
    if (placed.includes(name) || placed.length >= SCORES.length) continue;
    run(store, knex('score_names').insert({ place: placed.length, name }));
    placed.push(name);
  }
  return Object.fromEntries(placed.map((name, place) => [name, place]));
}
