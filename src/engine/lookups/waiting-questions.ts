import type { DnsOutcome, Phase } from '../../core/lifecycle/phase';
import type { LifePolicy } from '../../core/lifecycle/policies';
import { type Store, write } from '../../store/base/database';
import { readDomains } from '../../store/domains/domains';
import { closeQuestion } from '../../store/lifecycle/question-news';
import { nextQuestions } from '../../store/lifecycle/question-queues';
import { OWN_SERVERS, type Question, type QuestionStep } from '../../store/lifecycle/questions';
import {
  releaseDue,
  releaseQuestions,
  suspendDns,
  suspendQuestion,
  suspendQueue,
  waitingNames,
} from '../../store/lifecycle/suspended-questions';
import type { LookupProblems } from './problems';
import { settle } from './settle';

/** Key of the problem that no server of DNS answers. */
export const DNS_PROBLEM = 'dns';
/** What waits for a problem to pass is tried by one name, again after a pause that doubles up to the longest. */
const FIRST_RETRY_MS = 5000;
const LONGEST_RETRY_MS = 300_000;
const DAY_MS = 86_400_000;
/** So many of the names that wait for a server that cannot be reached say so themselves; of the others the batch does. */
const INTERIM_VERDICTS = 500;

/** Questions that cannot be put now: they stay open, say what they wait for, and are put again when it has passed. */
export class WaitingQuestions {
  /** Problems that questions wait for, and when one of them is tried next, by the clock that only goes forward. */
  private readonly waits = new Map<string, { tries: number; at: number }>();

  constructor(
    private readonly store: Store,
    private readonly problems: LookupProblems,
    private readonly policies: () => readonly LifePolicy[],
  ) {}

  /**
   * Closes a question by its verdict. Where nobody could be asked, or nobody answered, it stays open until they can. Call inside a write
   * transaction.
   *
   * @param met what kept it from being put, as lookup_problems names it.
   */
  finish({ domainId }: Question, dns: DnsOutcome | null, phase: Phase, met: string | null): void {
    const { store } = this;
    const problem = met ?? (dns === 'failed' && this.problems.has(DNS_PROBLEM) ? DNS_PROBLEM : null);
    if (phase !== 'unknown' || (problem === null && dns !== 'failed')) {
      closeQuestion(store, domainId, dns, phase);
      return;
    }
    suspendQuestion(
      store,
      domainId,
      dns,
      phase,
      problem ?? OWN_SERVERS,
      problem === null ? store.now() + DAY_MS : null,
    );
    if (problem !== null) this.begin(problem);
  }

  /** All that would be asked of DNS waits. @returns the names that say so themselves. */
  suspendDns(): Question[] {
    const some = nextQuestions(this.store, 'dns', '', INTERIM_VERDICTS);
    const words = this.problems.wordsOf(DNS_PROBLEM) ?? '';
    write(this.store, () => {
      for (const question of some) this.sayUnasked(question, words);
      if (suspendDns(this.store, DNS_PROBLEM) > 0) this.begin(DNS_PROBLEM);
    });
    return some;
  }

  /** Nobody else waits in vain for a server that has a problem. @returns whether it has one. */
  suspendIfGone(step: QuestionStep, server: string, problem: string): boolean {
    const words = this.problems.wordsOf(problem);
    if (words === null) return false;
    write(this.store, () => {
      for (const question of nextQuestions(this.store, step, server, INTERIM_VERDICTS))
        this.sayUnasked(question, words);
      if (suspendQueue(this.store, step, server, problem) > 0) this.begin(problem);
    });
    return true;
  }

  /** A problem has passed: what waited for it is put again. */
  release(problem: string): void {
    this.waits.delete(problem);
    write(this.store, () => releaseQuestions(this.store, problem));
  }

  /** Settings have changed: who could not be asked may be now. */
  releaseAll(): void {
    for (const { waitsFor } of waitingNames(this.store)) if (waitsFor !== OWN_SERVERS) this.release(waitsFor);
  }

  /** Now and then one name that waits for a problem to pass is tried; and those whose own servers were silent, when their day has come. */
  tryDue(): void {
    const waiting = waitingNames(this.store);
    const now = this.store.now();
    if (waiting.some(({ waitsFor, nextAt }) => waitsFor === OWN_SERVERS && nextAt !== null && nextAt <= now))
      write(this.store, () => releaseDue(this.store, now));
    for (const { waitsFor } of waiting) {
      if (waitsFor === OWN_SERVERS) continue;
      // it passed when we were killed, before this was told
      if (!this.problems.has(waitsFor)) {
        this.release(waitsFor);
        continue;
      }
      const wait = this.begin(waitsFor);
      if (performance.now() < wait.at) continue;
      wait.at = performance.now() + Math.min(LONGEST_RETRY_MS, FIRST_RETRY_MS * 2 ** ++wait.tries);
      write(this.store, () => releaseQuestions(this.store, waitsFor, 1));
    }
  }

  private begin(problem: string) {
    const wait = this.waits.get(problem) ?? { tries: 0, at: performance.now() + FIRST_RETRY_MS };
    this.waits.set(problem, wait);
    return wait;
  }

  /** A name that nothing is known of says why. Call inside a write transaction. */
  private sayUnasked({ domainId, said }: Question, words: string): void {
    const [row] = readDomains(this.store, [domainId]);
    if (row.phase_at !== null && row.phase !== 'unknown') return;
    const dns = said.find(({ step }) => step === 'dns')?.outcome as DnsOutcome | undefined;
    settle(this.store, this.policies(), domainId, said, {
      dns,
      record: { outcome: 'failed', record: null, words, isUnasked: true },
    });
  }
}
