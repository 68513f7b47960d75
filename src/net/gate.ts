/** Lets so many pass at the same time. */
export class Gate {
  private readonly waiting: (() => void)[] = [];
  busy = 0;

  constructor(private readonly most: number) {}

  async pass<T>(act: () => Promise<T>): Promise<T> {
    if (this.busy < this.most) this.busy++;
    else await new Promise<void>((resolve) => this.waiting.push(resolve));
    try {
      return await act();
    } finally {
      const next = this.waiting.shift();
      if (next) next();
      else this.busy--;
    }
  }
}
