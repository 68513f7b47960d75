import type { Sibling } from '../../contracts/dossier';
import { COMMON_ENDINGS } from '../../core/names/endings';
import type { Store } from '../../store/base/database';
import { findDomain } from '../../store/domains/domains';

/** The same name under other endings, and its twin under the same, with what is known of their phases. */
export function siblingsOf(
  store: Store,
  name: string,
  ending: string,
  twin: string | null,
): { endings: Sibling[]; twin: Sibling | null } {
  const label = name.slice(0, name.length - ending.length - 1);
  const look = (other: string): Sibling => {
    const row = findDomain(store, other);
    return { name: other, phase: row?.phase ?? null, phaseAt: row?.phase_at ?? null };
  };
  return {
    endings: COMMON_ENDINGS.filter((other) => other !== ending).map((other) => look(`${label}.${other}`)),
    twin: twin === null ? null : look(`${twin}.${ending}`),
  };
}
