import { z } from 'zod';
import type { IdeaPattern, Joint } from '../../core/ideas/pattern';
import { StoredIdeaPatternSchema } from '../../core/ideas/pattern-schema';
import type { Place } from '../../core/ideas/places';
import { IDEA_PARTS, type IdeaPart, type ScoredIdea } from '../../core/ideas/score';
import { type Store, write } from '../base/database';
import { all, camel, columns, first, fromJson, knex, pick, run, sql, the } from '../base/query';

const IDEA_RUNS = columns('idea_runs');
const IDEAS = columns('ideas');
const PLACES = columns('places');

const ideaRuns = () =>
  pick(knex('idea_runs'), camel(IDEA_RUNS, 'id', 'brief_id', 'pattern', 'made', 'created_at', 'done_at'));

/** A pattern that was run for a brief. */
export interface IdeaRun {
  id: number;
  briefId: number;
  pattern: IdeaPattern;
  /** Labels that were judged; null: it has not ended. */
  made: number | null;
  createdAt: number;
  doneAt: number | null;
}

export interface StoredIdea {
  rank: number;
  label: string;
  words: string[];
  joint: Joint;
  score: number;
  parts: Record<IdeaPart, number>;
  /** What it reads as, where that is not what it was made from. */
  readsAs: string | null;
  /** By names alike that were sold, with the first ending, in the user's currency; null: not judged. */
  worthLowMinor: number | null;
  worthHighMinor: number | null;
  /** A trademark that it is like, and why; null: none was found or looked for. */
  mark: string | null;
}

/** Runs kept for a brief. */
const RUNS_KEPT = 12;

/** Keeps a pattern to be run; the oldest runs of the brief go. */
export function addIdeaRun(store: Store, briefId: number, pattern: IdeaPattern): number {
  return write(store, () => {
    const { lastInsertRowid } = run(
      store,
      knex('idea_runs').insert({ brief_id: briefId, pattern: JSON.stringify(pattern), created_at: store.now() }),
    );
    const old = all(
      store,
      knex('idea_runs').where('brief_id', briefId).orderBy('id', 'desc').offset(RUNS_KEPT).pluck('id'),
    );
    for (const id of old) {
      run(store, knex('ideas').where('run_id', id).delete());
      run(store, knex('idea_runs').where('id', id).delete());
    }
    return Number(lastInsertRowid);
  });
}

const unpackRun = (row: Omit<IdeaRun, 'pattern'> & { pattern: string }): IdeaRun => ({
  ...row,
  pattern: fromJson(StoredIdeaPatternSchema, row.pattern),
});

export function readIdeaRun(store: Store, id: number): IdeaRun | null {
  const row = first(store, ideaRuns().where('id', id));
  return row ? unpackRun(row) : null;
}

/** Runs of a brief, the latest first. */
export function listIdeaRuns(store: Store, briefId: number): IdeaRun[] {
  return all(store, ideaRuns().where('brief_id', briefId).orderBy('id', 'desc')).map(unpackRun);
}

export type RankedIdea = ScoredIdea & Pick<StoredIdea, 'worthLowMinor' | 'worthHighMinor' | 'mark'>;

/** Keeps the best of a run; doing it again replaces them. */
export function putIdeas(store: Store, runId: number, ideas: readonly RankedIdea[], made: number): void {
  write(store, () => {
    run(store, knex('ideas').where('run_id', runId).delete());
    for (const [rank, idea] of ideas.entries())
      run(
        store,
        knex('ideas').insert({
          run_id: runId,
          rank,
          label: idea.label,
          words: JSON.stringify(idea.words),
          joint: idea.joint,
          score: idea.score,
          parts: JSON.stringify(idea.parts),
          reads_as: idea.readsAs,
          worth_low_minor: idea.worthLowMinor,
          worth_high_minor: idea.worthHighMinor,
          mark: idea.mark,
        }),
      );
    run(store, knex('idea_runs').where('id', runId).update({ made, done_at: store.now() }));
  });
}

/** Ideas of a run, the best first, and how many are kept. */
export function readIdeas(
  store: Store,
  runId: number,
  offset: number,
  limit: number,
): { rows: StoredIdea[]; kept: number } {
  const rows = all(
    store,
    pick(
      knex('ideas'),
      camel(
        IDEAS,
        'rank',
        'label',
        'words',
        'joint',
        'score',
        'parts',
        'reads_as',
        'worth_low_minor',
        'worth_high_minor',
        'mark',
      ),
    )
      .where('run_id', runId)
      .orderBy('rank')
      .limit(limit)
      .offset(offset),
  );
  const { kept } = the(store, pick(knex('ideas'), { kept: sql<number>('count(*)') }).where('run_id', runId));
  return {
    kept,
    rows: rows.map((row) => ({ ...row, words: fromJson(Words, row.words), parts: fromJson(Parts, row.parts) })),
  };
}

const Words = z.array(z.string());
const Parts = z.record(z.enum(IDEA_PARTS), z.number());

/** Replaces the places that a source of this name gave. @returns how many there are of it. */
export function putPlaces(store: Store, places: readonly Place[], source: string): number {
  return write(store, () => {
    run(store, knex('places').where('source', source).delete());
    for (const { word, title, people, growthPercent } of places)
      run(
        store,
        knex('places')
          .insert({ word, title, people, growth_percent: growthPercent, source })
          .onConflict('word')
          .merge(),
      );
    return places.length;
  });
}

export function readPlaces(store: Store): Place[] {
  return all(
    store,
    pick(knex('places'), camel(PLACES, 'word', 'title', 'people', 'growth_percent')).orderBy([
      { column: 'people', order: 'desc' },
      { column: 'word' },
    ]),
  );
}
