import type { SetChoices } from '../../contracts/pool';
import type { StoredSieve } from '../../contracts/sieves';
import type { PoolView } from '../../core/pool/conditions';
import type { PoolState } from './use-pool';

export interface SieveProps {
  view: PoolView;
  pool: PoolState;
  /** Path of the condition that is worked on. */
  open: string | null;
  sieves: StoredSieve[];
  current: StoredSieve | null;
  /** The kept one was opened, and is not as it is kept any more. */
  isChanged: boolean;
  onOpened(id: number | null): void;
  ofBrief: { name: string; view: string };
  briefs: { id: number; name: string }[];
  sets: SetChoices;
  /** Whether it covers the list, where there is no room for both. */
  isOver: boolean;
  onOver(isOver: boolean): void;
  menuOpen: boolean;
  withExcluded: boolean;
  onMenu(open: boolean): void;
  onOpen(path: string | null): void;
  onChange(view: PoolView): void;
  /** Takes all conditions out, to be given back from the notice. */
  onClear(): void;
  onExcluded(show: boolean): void;
  onKept(): void;
}
