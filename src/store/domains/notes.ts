import type { DiligenceItem, Tick } from '../../core/verdict/diligence';
import { type Store, statement, write } from '../base/database';

export interface Note {
  id: number;
  at: number;
  text: string;
}

/** Notes on a domain that stand, the latest first. */
export function notesOf(store: Store, domainId: number): Note[] {
  return statement(
    store.raw,
    'SELECT id, at, text FROM notes WHERE domain_id = ? AND removed_at IS NULL ORDER BY at DESC, id DESC',
  ).all(domainId) as Note[];
}

export function addNote(store: Store, domainId: number, text: string): Note {
  const at = store.now();
  const { lastInsertRowid } = write(store, () =>
    statement(store.raw, 'INSERT INTO notes (domain_id, at, text) VALUES (?, ?, ?)').run(domainId, at, text),
  );
  return { id: Number(lastInsertRowid), at, text };
}

/** Takes a note away, or gives it back. @returns whether the domain has such a note. */
export function setNoteRemoved(store: Store, domainId: number, id: number, isRemoved: boolean): boolean {
  return write(
    store,
    () =>
      statement(store.raw, 'UPDATE notes SET removed_at = ? WHERE id = ? AND domain_id = ?').run(
        isRemoved ? store.now() : null,
        id,
        domainId,
      ).changes > 0,
  );
}

export interface StoredTick extends Tick {
  id: number;
}

/** Points of due diligence that were answered by hand and not taken back, in the order they were. */
export function ticksOf(store: Store, domainId: number): StoredTick[] {
  return statement(
    store.raw,
    'SELECT id, item, at, state, note FROM diligence WHERE domain_id = ? AND undone_at IS NULL ORDER BY id',
  ).all(domainId) as StoredTick[];
}

/** Answers a point by hand. @returns number of the answer. */
export function addTick(
  store: Store,
  domainId: number,
  item: DiligenceItem,
  state: Tick['state'],
  note: string,
): number {
  const { lastInsertRowid } = write(store, () =>
    statement(store.raw, 'INSERT INTO diligence (domain_id, item, at, state, note) VALUES (?, ?, ?, ?, ?)').run(
      domainId,
      item,
      store.now(),
      state,
      note,
    ),
  );
  return Number(lastInsertRowid);
}

/** Takes an answer back: the one before counts again, or what was found. @returns whether the domain has such an answer that stood. */
export function undoTick(store: Store, domainId: number, id: number): boolean {
  return write(
    store,
    () =>
      statement(
        store.raw,
        'UPDATE diligence SET undone_at = ? WHERE id = ? AND domain_id = ? AND undone_at IS NULL',
      ).run(store.now(), id, domainId).changes > 0,
  );
}
