/** Keeps the best of many by a score, without sorting all: a heap with the worst at its root. */
export class Best<T extends { score: number; label: string }> {
  private readonly heap: T[] = [];

  constructor(private readonly most: number) {}

  add(item: T): void {
    const { heap, most } = this;
    if (heap.length < most) {
      heap.push(item);
      this.rise(heap.length - 1);
    } else if (most > 0 && isWorse(heap[0], item)) {
      heap[0] = item;
      this.sink();
    }
  }

  /** What a score must reach to be kept; nothing is known to be too little while there is room. */
  get least(): number {
    return this.heap.length < this.most ? Number.NEGATIVE_INFINITY : (this.heap[0]?.score ?? Number.POSITIVE_INFINITY);
  }

  /** The best first; equals by their label. */
  sorted(): T[] {
    return [...this.heap].sort((a, b) => (isWorse(a, b) ? 1 : -1));
  }

  private rise(at: number): void {
    const { heap } = this;
    while (at > 0) {
      const parent = (at - 1) >> 1;
      if (!isWorse(heap[at], heap[parent])) return;
      [heap[at], heap[parent]] = [heap[parent], heap[at]];
      at = parent;
    }
  }

  private sink(): void {
    const { heap } = this;
    let at = 0;
    for (;;) {
      const left = 2 * at + 1;
      if (left >= heap.length) return;
      const right = left + 1;
      const child = right < heap.length && isWorse(heap[right], heap[left]) ? right : left;
      if (!isWorse(heap[child], heap[at])) return;
      [heap[at], heap[child]] = [heap[child], heap[at]];
      at = child;
    }
  }
}

function isWorse(a: { score: number; label: string }, b: { score: number; label: string }): boolean {
  return a.score === b.score ? a.label > b.label : a.score < b.score;
}
