import type { StepState } from '../../core/rebuild/checklist';

/** A decision on a step; null takes it back. */
export interface StepChange {
  key: string;
  state: StepState | null;
  words?: string | null;
}
