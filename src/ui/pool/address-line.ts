const REST_MS = 200;
/** When the router has said nothing of a written address for so long, it is not waited for. */
const LATEST_MS = 3000;
const FORGOTTEN_MS = 30_000;

/**
 * What a screen writes into the address line, one after the other. The router hears of an address, puts it into the line once more and tells
 * of it, on a busy machine long after: a second one that is written before would be put back to the first for a moment, and look as if
 * somebody had gone there. So the next one waits until the router has told of the last.
 */
export class AddressLine {
  private wanted: string | null = null;
  private timer: ReturnType<typeof setTimeout> | null = null;
  /** The hand rests; the router is waited for. */
  private isDue = false;
  /** Written here, and not told of yet. */
  private underway: { address: string; since: number }[] = [];

  /**
   * @param at the address that the screen came with.
   * @param write gives an address to the router, which tells of it by and by.
   */
  constructor(
    private at: string,
    private readonly write: (address: string) => void,
  ) {}

  /** Writes an address when the hand rests: browsers allow few changes of it a second. */
  follow(address: string): void {
    this.wanted = address;
    this.stop();
    this.timer = setTimeout(() => {
      if (this.underway.length === 0) return this.now();
      this.isDue = true;
      this.timer = setTimeout(() => this.now(), LATEST_MS);
    }, REST_MS);
  }

  /** Writes what waits: the screen is about to be left, and a later address would call the router back. */
  now(): void {
    this.stop();
    if (this.wanted === null) return;
    const address = this.wanted;
    this.wanted = null;
    if (this.underway.length === 0 && address === this.at) return;
    this.underway.push({ address, since: Date.now() });
    this.write(address);
  }

  /**
   * Hears of the address from the router.
   *
   * @returns whether somebody went there; what was still to be written is then of the view that was left.
   */
  isWish(told: string): boolean {
    const isSame = told === this.at;
    // several that were written one upon the other may be told of as one: the others are never told of
    this.underway = this.underway.filter(({ since }) => Date.now() - since < FORGOTTEN_MS);
    const index = this.underway.findIndex(({ address }) => address === told);
    this.at = told;
    if (index >= 0) {
      this.underway.splice(0, index + 1);
      if (this.isDue) this.now();
      return false;
    }
    if (isSame) return false;
    this.forget();
    return true;
  }

  /** Nothing of what waits is written any more. */
  forget(): void {
    this.stop();
    this.wanted = null;
    this.underway = [];
  }

  private stop(): void {
    if (this.timer !== null) clearTimeout(this.timer);
    this.timer = null;
    this.isDue = false;
  }
}
