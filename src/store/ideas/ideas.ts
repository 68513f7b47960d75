import type { IdeaPattern, Joint } from '../../core/ideas/pattern';
import type { Place } from '../../core/ideas/places';
import type { IdeaPart, ScoredIdea } from '../../core/ideas/score';
import { type Store, statement, write } from '../base/database';

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
  /** A word mark that it is like, and why; null: none was found or looked for. */
  mark: string | null;
}

/** Runs kept for a brief. */
const RUNS_KEPT = 12;

/** Keeps a pattern to be run; the oldest runs of the brief go. */
export function addIdeaRun(store: Store, briefId: number, pattern: IdeaPattern): number {
  return write(store, () => {
    const { lastInsertRowid } = statement(
      store.raw,
      'INSERT INTO idea_runs (brief_id, pattern, created_at) VALUES (?, ?, ?)',
    ).run(briefId, JSON.stringify(pattern), store.now());
    const old = statement(
      store.raw,
      'SELECT id AS oldRun FROM idea_runs WHERE brief_id = ? ORDER BY id DESC LIMIT -1 OFFSET ?',
    )
      .pluck()
      .all(briefId, RUNS_KEPT) as number[];
    for (const id of old) {
      statement(store.raw, 'DELETE FROM ideas WHERE run_id = ?').run(id);
      statement(store.raw, 'DELETE FROM idea_runs WHERE id = ?').run(id);
    }
    return Number(lastInsertRowid);
  });
}

interface PackedRun {
  id: number;
  briefId: number;
  pattern: string;
  made: number | null;
  createdAt: number;
  doneAt: number | null;
}

const READ_RUN =
  'SELECT id, brief_id AS briefId, pattern, made, created_at AS createdAt, done_at AS doneAt FROM idea_runs';
const unpackRun = (row: PackedRun): IdeaRun => ({ ...row, pattern: JSON.parse(row.pattern) });

export function readIdeaRun(store: Store, id: number): IdeaRun | null {
  const row = statement(store.raw, `${READ_RUN} WHERE id = ?`).get(id) as PackedRun | undefined;
  return row ? unpackRun(row) : null;
}

/** Runs of a brief, the latest first. */
export function listIdeaRuns(store: Store, briefId: number): IdeaRun[] {
  return (statement(store.raw, `${READ_RUN} WHERE brief_id = ? ORDER BY id DESC`).all(briefId) as PackedRun[]).map(
    unpackRun,
  );
}

export type RankedIdea = ScoredIdea & Pick<StoredIdea, 'worthLowMinor' | 'worthHighMinor' | 'mark'>;

/** Keeps the best of a run; doing it again replaces them. */
export function putIdeas(store: Store, runId: number, ideas: readonly RankedIdea[], made: number): void {
  write(store, () => {
    statement(store.raw, 'DELETE FROM ideas WHERE run_id = ?').run(runId);
    const insert = statement(store.raw, 'INSERT INTO ideas VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)');
    for (const [rank, idea] of ideas.entries())
      insert.run(
        runId,
        rank,
        idea.label,
        JSON.stringify(idea.words),
        idea.joint,
        idea.score,
        JSON.stringify(idea.parts),
        idea.readsAs,
        idea.worthLowMinor,
        idea.worthHighMinor,
        idea.mark,
      );
    statement(store.raw, 'UPDATE idea_runs SET made = ?, done_at = ? WHERE id = ?').run(made, store.now(), runId);
  });
}

/** Ideas of a run, the best first, and how many are kept. */
export function readIdeas(
  store: Store,
  runId: number,
  offset: number,
  limit: number,
): { rows: StoredIdea[]; kept: number } {
  const rows = statement(
    store.raw,
    `SELECT rank, label, words, joint, score, parts, reads_as AS readsAs, worth_low_minor AS worthLowMinor,
       worth_high_minor AS worthHighMinor, mark FROM ideas WHERE run_id = ? ORDER BY rank LIMIT ? OFFSET ?`,
  ).all(runId, limit, offset) as (Omit<StoredIdea, 'words' | 'parts'> & { words: string; parts: string })[];
  const kept = statement(store.raw, 'SELECT count(*) AS keptIdeas FROM ideas WHERE run_id = ?')
    .pluck()
    .get(runId) as number;
  return { kept, rows: rows.map((row) => ({ ...row, words: JSON.parse(row.words), parts: JSON.parse(row.parts) })) };
}

/** Replaces the places that a source of this name gave. @returns how many there are of it. */
export function putPlaces(store: Store, places: readonly Place[], source: string): number {
  return write(store, () => {
    statement(store.raw, 'DELETE FROM places WHERE source = ?').run(source);
    const insert = statement(store.raw, 'INSERT OR REPLACE INTO places VALUES (?, ?, ?, ?, ?)');
    for (const { word, title, people, growthPercent } of places) insert.run(word, title, people, growthPercent, source);
    return places.length;
  });
}

export function readPlaces(store: Store): Place[] {
  return statement(
    store.raw,
    'SELECT word, title, people, growth_percent AS growthPercent FROM places ORDER BY people DESC, word',
  ).all() as Place[];
}
