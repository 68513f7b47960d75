/** A server with what it bears and when its questions will be through. Times in ms; moments since 1970 UTC. */
export interface LaneView {
  server: string;
  waiting: number;
  intervalMs: number;
  declaredMs: number;
  isLearned: boolean;
  reason: string;
  refusedTimes: number;
  refusedAt: number | null;
  /** It wants to be left alone until then; null: it does not. */
  pausedUntil: number | null;
  /** When the last of its questions is asked; null: none waits. */
  throughAt: number | null;
}
