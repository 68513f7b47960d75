import type { Logger } from 'pino';
import { isFull, type Store, write } from '../../store/base/database';
import { putPulse, type Question } from '../../store/lifecycle/questions';

/** What an answer makes of its question. */
interface Result {
  question: Question;
  /** Writes it, within a transaction. */
  act(): void;
  /** Told once it is on disk, or given up. */
  done?(): void;
}

/** Writes what answers make of their questions, those of a moment together. */
export class AnswerWriter {
  private results: Result[] = [];

  /** @param changed told which domains were written, after the commit. */
  constructor(
    private readonly store: Store,
    private readonly log: Logger,
    private readonly changed: (ids: number[]) => void,
  ) {}

  get waiting(): number {
    return this.results.length;
  }

  /** Written with the next flush. */
  add(result: Result): void {
    this.results.push(result);
  }

  /** Writes all that came since the last time. @returns the questions it was about. @throws when the disk is full: nothing is lost. */
  flush(): Question[] {
    if (this.results.length === 0) return [];
    const batch = this.results;
    const failed = this.writeAll(batch);
    this.results = [];
    for (const { done } of batch) done?.();
    const written = batch.filter((result) => !failed.has(result)).map(({ question }) => question.domainId);
    this.changed(written);
    return batch.map(({ question }) => question);
  }

  /** In one transaction; where one of them cannot be written, each in its own. @throws when the disk is full: nothing is lost. */
  private writeAll(batch: Result[]): Set<Result> {
    const failed = new Set<Result>();
    try {
      write(this.store, () => {
        for (const { act } of batch) act();
        putPulse(this.store);
      });
      return failed;
    } catch (error) {
      if (isFull(error)) throw error;
      this.log.error({ err: error }, 'answers could not be written together');
    }
    for (const result of batch)
      try {
        write(this.store, () => result.act());
      } catch (error) {
        if (isFull(error)) throw error;
        failed.add(result);
        this.log.error({ err: error, name: result.question.name }, 'an answer could not be written');
      }
    return failed;
  }
}
