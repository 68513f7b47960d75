import { BLOCK } from './bits';

/** Stamps are 32 bits wide: after so many changes all count as changed, once, and they begin anew. */
const MOST_STAMPS = 0xffffffff;

/**
 * Which rows changed when: what was made from columns is mended where they changed, not made anew. Each row, and each block of 32 of
 * them, bears the number of its last change. What is in a set is known of blocks only, since nothing is sorted by it.
 */
export class ChangedRows {
  private readonly mostStamps: number;
  private blocks = new Uint32Array(64);
  private rows = new Uint32Array(64 * BLOCK);
  /** The number of the last change that was to everything; stamps count from `base`. */
  private everything = 0;
  private base = 0;
  private last = 0;

  /** @param mostStamps changes that are told apart before stamps begin anew. */
  constructor(mostStamps = MOST_STAMPS) {
    this.mostStamps = mostStamps;
  }

  /** What the others count from: grows with every change. */
  get count(): number {
    return this.last;
  }

  /** Values of rows from `first` up to but not including `stop` have changed. */
  touch(first: number, stop: number): void {
    if (stop <= first) return;
    const stamp = this.next();
    this.roomFor(stop);
    this.rows.fill(stamp, first, stop);
    this.blocks.fill(stamp, first >> 5, ((stop - 1) >> 5) + 1);
  }

  /** A row came into a set or left it. */
  touchSets(row: number): void {
    const stamp = this.next();
    this.roomFor(row + 1);
    this.blocks[row >> 5] = stamp;
  }

  touchAll(): void {
    this.everything = ++this.last;
  }

  /** Whether all is to be taken for changed since `count` had that value. */
  isAllSince(count: number): boolean {
    return count < this.everything;
  }

  /**
   * Runs of blocks in which a row changed since `count` had that value, ascending.
   *
   * @param blocks how many there are.
   * @param visit told of each run, its end not included.
   */
  eachRunSince(count: number, blocks: number, visit: (from: number, to: number) => void): void {
    if (this.isAllSince(count)) {
      visit(0, blocks);
      return;
    }
    const after = count - this.base;
    const known = Math.min(blocks, this.blocks.length);
    for (let block = 0; block < known; block++) {
      if (this.blocks[block] <= after) continue;
      const from = block;
      while (block + 1 < known && this.blocks[block + 1] > after) block++;
      visit(from, block + 1);
    }
  }

  /**
   * Rows whose values changed since `count` had that value, ascending.
   *
   * @param rows how many there are.
   * @param most so many at most are told one by one.
   * @returns null: more than that, or all of them.
   */
  rowsSince(count: number, rows: number, most: number): Uint32Array | null {
    if (this.isAllSince(count)) return null;
    const after = count - this.base;
    const eachRow = (visit: (row: number) => void) =>
      this.eachRunSince(count, Math.ceil(rows / BLOCK), (from, to) => {
        const stop = Math.min(rows, to * BLOCK);
        for (let row = from * BLOCK; row < stop; row++) if (this.rows[row] > after) visit(row);
      });
    let many = 0;
    eachRow(() => many++);
    if (many > most) return null;
    const found = new Uint32Array(many);
    let at = 0;
    eachRow((row) => {
      found[at++] = row;
    });
    return found;
  }

  /** Whether the values of a row changed since then; of a `count` since which not all did. */
  isSince(count: number, row: number): boolean {
    return this.rows[row] > count - this.base;
  }

  private next(): number {
    if (this.last - this.base >= this.mostStamps) {
      this.touchAll();
      this.base = this.last;
      this.blocks.fill(0);
      this.rows.fill(0);
    }
    return ++this.last - this.base;
  }

  private roomFor(rows: number): void {
    if (rows <= this.rows.length) return;
    const blocks = Math.ceil((rows * 1.25) / BLOCK) + 64;
    const [widerBlocks, widerRows] = [new Uint32Array(blocks), new Uint32Array(blocks * BLOCK)];
    widerBlocks.set(this.blocks);
    widerRows.set(this.rows);
    this.blocks = widerBlocks;
    this.rows = widerRows;
  }
}
