import type { Store } from '../../store/base/database';
import { clearLookupProblem, lookupProblems, putLookupProblem } from '../../store/lifecycle/lookup-problems';

/** A problem that lasts is written again only this often. */
const AGAIN_MS = 30_000;

/** What keeps questions from being put, noted when it is met and taken away when it works again. */
export class LookupProblems {
  private readonly known = new Map<string, { words: string; until: number }>();

  /** @param passed told when a problem is gone. */
  constructor(
    private readonly store: Store,
    private readonly passed: (key: string) => void = () => undefined,
  ) {
    // of an earlier run: whether it still is so shows with the next question
    for (const { key, words } of lookupProblems(store)) this.known.set(key, { words, until: 0 });
  }

  met(key: string, words: string, remedy: string): void {
    const known = this.known.get(key);
    const now = performance.now();
    if (known && known.words === words && known.until > now) return;
    this.known.set(key, { words, until: now + AGAIN_MS });
    putLookupProblem(this.store, { key, words, remedy });
  }

  has(key: string): boolean {
    return this.known.has(key);
  }

  /** null: it is no problem now. */
  wordsOf(key: string): string | null {
    return this.known.get(key)?.words ?? null;
  }

  gone(key: string): void {
    if (!this.known.delete(key)) return;
    clearLookupProblem(this.store, key);
    this.passed(key);
  }
}
