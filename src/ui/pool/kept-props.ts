import type { StoredSieve } from '../../contracts/sieves';
import type { PoolView } from '../../core/pool/conditions';

export interface Props {
  view: PoolView;
  sieves: StoredSieve[];
  current: StoredSieve | null;
  /** It was opened, and is not as it is kept any more. */
  isChanged: boolean;
  onOpened(id: number | null): void;
  briefs: { id: number; name: string }[];
  /** The pool as the current brief wants it. */
  ofBrief: { name: string; view: string };
  onChange(view: PoolView): void;
  onKept(): void;
}
