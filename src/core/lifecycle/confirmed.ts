/** What was known of a domain at a moment. */
export interface KnownVerdict {
  phase: string;
  /** ms since 1970 UTC; null: nobody had been asked. */
  at: number | null;
  reason: string | null;
  source: string | null;
  contradictions: string[];
}

/** A verdict that was taken again at the moment of acting. */
export interface Confirmed {
  before: KnownVerdict;
  after: KnownVerdict;
  /** Whether it is other than it was. */
  isChanged: boolean;
  /** What happened in between, as far as it shows. */
  events: { id: number; kind: string; words: string }[];
  /** The answer did not come in time; the question stays before all others. */
  isLate: boolean;
}
