/** What the two clocks of a machine may differ by without anybody having set one, ms. */
const TOLERANCE_MS = 5_000;

/**
 * Tells that a machine's clock was set back, by another that only goes forward. A clock that is set forward needs nobody's help: what was to
 * happen is due.
 */
export class SetBack {
  /**
   * @param at a moment of the clock that may be set, ms since 1970 UTC.
   * @param steady the same moment of the one that only goes forward, ms from anywhere.
   */
  constructor(
    private at: number,
    private steady: number,
  ) {}

  /** @returns by how many ms it was set back since the last look; 0: it was not. */
  look(at: number, steady: number): number {
    const by = setBackSince(this.at + (steady - this.steady), at);
    this.at = at;
    this.steady = steady;
    return by;
  }
}

/** How far a clock was set back, ms, that has shown or should show one moment and shows another; 0: it was not. */
export function setBackSince(expected: number, at: number): number {
  const by = expected - at;
  return by > TOLERANCE_MS ? by : 0;
}
