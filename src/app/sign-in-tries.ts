/** Wrong passwords from one place, and from all of them, after which one has to wait. */
const FREE = 5;
const FREE_OF_ALL = 50;
const FIRST_MS = 2000;
const LONGEST_MS = 15 * 60_000;
/** Failures are forgotten when nothing followed them for so long. */
const FORGOTTEN_MS = 60 * 60_000;
const MOST_PLACES = 10_000;

interface Failures {
  times: number;
  lastAt: number;
}

/** Wrong passwords make the next try wait, twice as long each time. */
export class SignInTries {
  private readonly places = new Map<string, Failures>();
  private all: Failures = { times: 0, lastAt: 0 };

  /** ms until the next try counts; 0: it may be made now. */
  waitMs(place: string, now: number): number {
    return Math.max(left(this.places.get(place), FREE, now), left(this.all, FREE_OF_ALL, now));
  }

  failed(place: string, now: number): void {
    if (this.places.size > MOST_PLACES) this.places.clear();
    this.places.set(place, again(this.places.get(place), now));
    this.all = again(this.all, now);
  }

  /** The right password from there: what failed before was a slip. */
  succeeded(place: string): void {
    this.places.delete(place);
    this.all.times = Math.max(0, this.all.times - 1);
  }
}

function again(before: Failures | undefined, now: number): Failures {
  const isNew = !before || now - before.lastAt > FORGOTTEN_MS;
  return { times: isNew ? 1 : before.times + 1, lastAt: now };
}

function left(failures: Failures | undefined, free: number, now: number): number {
  if (!failures || failures.times < free) return 0;
  const pauseMs = Math.min(LONGEST_MS, FIRST_MS * 2 ** (failures.times - free));
  return Math.max(0, failures.lastAt + pauseMs - now);
}
