import type { DiligenceItem, Tick } from '../../core/verdict/diligence';
import { actor } from '../../core/work/actor';
import { type Store, write } from '../base/database';
import { all, knex, run } from '../base/query';

export interface Note {
  id: number;
  at: number;
  text: string;
  /** Who wrote it. */
  who: string;
}

/** Notes on a domain that stand, the latest first. */
export function notesOf(store: Store, domainId: number): Note[] {
  return all(
    store,
    knex('notes')
      .select('id', 'at', 'text', 'who')
      .where('domain_id', domainId)
      .whereNull('removed_at')
      .orderBy([
        { column: 'at', order: 'desc' },
        { column: 'id', order: 'desc' },
      ]),
  );
}

export function addNote(store: Store, domainId: number, text: string): Note {
  const [at, who] = [store.now(), actor()];
  const { lastInsertRowid } = write(store, () =>
    run(store, knex('notes').insert({ domain_id: domainId, at, text, who })),
  );
  return { id: Number(lastInsertRowid), at, text, who };
}

/** Takes a note away, or gives it back. @returns whether the domain has such a note. */
export function setNoteRemoved(store: Store, domainId: number, id: number, isRemoved: boolean): boolean {
  return write(
    store,
    () =>
      run(
        store,
        knex('notes')
          .where({ id, domain_id: domainId })
          .update({ removed_at: isRemoved ? store.now() : null }),
      ).changes > 0,
  );
}

export interface StoredTick extends Tick {
  id: number;
}

/** Points of due diligence that were answered by hand and not taken back, in the order they were. */
export function ticksOf(store: Store, domainId: number): StoredTick[] {
  return all(
    store,
    knex('diligence')
      .select('id', 'item', 'at', 'state', 'note', 'who')
      .where('domain_id', domainId)
      .whereNull('undone_at')
      .orderBy('id'),
  );
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
    run(store, knex('diligence').insert({ domain_id: domainId, item, at: store.now(), state, note, who: actor() })),
  );
  return Number(lastInsertRowid);
}

/** Takes an answer back: the one before counts again, or what was found. @returns whether the domain has such an answer that stood. */
export function undoTick(store: Store, domainId: number, id: number): boolean {
  return write(
    store,
    () =>
      run(
        store,
        knex('diligence').where({ id, domain_id: domainId }).whereNull('undone_at').update({ undone_at: store.now() }),
      ).changes > 0,
  );
}
