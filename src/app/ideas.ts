import type { Store } from '../store/database';
import { findDomain } from '../store/domains';
import { readIdeas, type StoredIdea } from '../store/ideas';
import { shortlistedFor } from '../store/shortlist';

/** One ending of an idea, with what is known of it. */
export interface IdeaEnding {
  ending: string;
  name: string;
  /** null: nobody has asked yet. */
  phase: string | null;
  phaseAt: number | null;
  isShortlisted: boolean;
}

export type IdeaView = StoredIdea & { endings: IdeaEnding[] };

/** Ideas of a run with what is known of each ending. */
export function ideaViews(
  store: Store,
  runId: number,
  endings: readonly string[],
  offset: number,
  limit: number,
): { rows: IdeaView[]; kept: number } {
  const { rows, kept } = readIdeas(store, runId, offset, limit);
  return {
    kept,
    rows: rows.map((row) => ({ ...row, endings: endings.map((ending) => endingOf(store, row.label, ending)) })),
  };
}

function endingOf(store: Store, label: string, ending: string): IdeaEnding {
  const name = `${label}.${ending}`;
  const row = findDomain(store, name);
  return {
    ending,
    name,
    phase: row && row.phase_at !== null ? row.phase : null,
    phaseAt: row?.phase_at ?? null,
    isShortlisted: row ? shortlistedFor(store, row.id).length > 0 : false,
  };
}
