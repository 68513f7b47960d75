/** So many questions a second come from somebody who drags a handle, or from several people. */
const MANY_A_SECOND = 4;
/** Questions are counted over so long. */
const LOOK_MS = 500;
const MOST_PAUSE_MS = 250;

/**
 * Long work makes way for people: while many questions come, it rests after each part as long as the part took, so that half of a
 * processor is theirs. The engine counts the questions, its threads read the count from shared memory.
 */
export class Way {
  private readonly count: Int32Array;
  private seen: number;
  private lookedAt: number;
  private goesOnAt: number;
  private isBusy = false;

  /** @param questions four bytes that `countQuestion` counts in. */
  constructor(
    questions: SharedArrayBuffer,
    private readonly now: () => number = () => performance.now(),
  ) {
    this.count = new Int32Array(questions);
    this.seen = Atomics.load(this.count, 0);
    this.lookedAt = this.goesOnAt = now();
  }

  /** ms to rest now that a part is done; 0 while few ask. Says so with `goesOn` once it has rested. */
  restMs(): number {
    const now = this.now();
    const since = now - this.lookedAt;
    if (since >= LOOK_MS) {
      const count = Atomics.load(this.count, 0);
      // the count begins anew below nought after two billion
      this.isBusy = (((count - this.seen) | 0) * 1000) / since >= MANY_A_SECOND;
      this.seen = count;
      this.lookedAt = now;
    }
    return this.isBusy ? Math.min(now - this.goesOnAt, MOST_PAUSE_MS) : 0;
  }

  goesOn(): void {
    this.goesOnAt = this.now();
  }
}

export function countQuestion(questions: SharedArrayBuffer): void {
  Atomics.add(new Int32Array(questions), 0, 1);
}
