import type { IdeaEnding, IdeaView } from '../../contracts/ideas';
import { COMMON_ENDINGS } from '../../core/names/endings';
import type { Store } from '../../store/base/database';
import { findDomain } from '../../store/domains/domains';
import { readIdeas } from '../../store/ideas/ideas';
import type { Brief } from '../../store/shortlist/briefs';
import { shortlistedFor } from '../../store/shortlist/shortlist';
import { fitOfName } from '../fit/fit';

/** Ideas of a run with what is known of each ending, of its sisters under others, and how they suit the brief. */
export function ideaViews(
  store: Store,
  run: { id: number; endings: readonly string[]; brief: Brief },
  offset: number,
  limit: number,
): { rows: IdeaView[]; kept: number } {
  const { rows, kept } = readIdeas(store, run.id, offset, limit);
  const others = COMMON_ENDINGS.filter((ending) => !run.endings.includes(ending));
  return {
    kept,
    rows: rows.map((row) => ({
      ...row,
      endings: run.endings.map((ending) => endingOf(store, row.label, ending)),
      sisters: others.flatMap((ending) => {
        const { name, phase, phaseAt } = endingOf(store, row.label, ending);
        return phase === null || phase === 'free' ? [] : [{ name, phase, phaseAt }];
      }),
      fit: fitOfName(run.brief, {
        label: row.label,
        ending: run.endings[0] ?? '',
        words: row.words,
        sayability: 100 * row.parts.sayable,
      }),
    })),
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
