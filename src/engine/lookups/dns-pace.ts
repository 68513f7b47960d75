import type { DnsOutcome } from '../../core/lifecycle/phase';
import type { Question } from '../../store/lifecycle/questions';

/** DNS questions under way: as many while all are answered, down to a few where answers stay away. */
const AT_ONCE = 256;
const LEAST = 4;
/** A name that DNS gave no answer on is asked for again, later, so often; where other names are answered meanwhile, less often. */
const TRIES = 6;
const OWN_TRIES = 2;
/** No further try of a name begins after this: within a minute it is said that its servers do not answer. */
const PATIENCE_MS = 25_000;
/** A probe that is answered so soon says that a silence is the name's own. */
const ALIVE_MS = 700;
/** Questions that stay without an answer at the same moment count as one sign. */
const SIGN_MS = 400;
/** An answer that came only when asked again. */
const LATE_MS = 1500;
/** So many answers in a row that stayed away are a silence. */
const SILENT_ANSWERS = 6;

/** How many questions DNS is asked at a time, how often about one name, and whether it has fallen silent, by what came back. */
export class DnsPace {
  /** Questions that may be under way. */
  limit = AT_ONCE;
  private signAt = 0;
  /** Whether names that are not answered stand alone with it. */
  private isSilenceOwn = false;
  private silences = 0;
  private isProbing = false;
  /** When DNS was first asked about a name that was not answered, by the clock that only goes forward. */
  private readonly unanswered = new Map<number, number>();

  /** @param isAlive asks what any server of DNS answers. */
  constructor(private readonly isAlive: () => Promise<boolean>) {}

  /** Begins anew, with other servers. */
  reset(): void {
    this.silences = 0;
    this.limit = AT_ONCE;
  }

  /**
   * Keeps the number of questions under way by what comes back: half as many when answers stay away, one more for each that comes.
   *
   * @returns whether the name is to be asked for again.
   */
  isAskedAgain({ domainId, tries }: Question, outcome: DnsOutcome, elapsedMs: number): boolean {
    // a server that says that it failed has answered
    if (elapsedMs <= LATE_MS) this.limit = Math.min(AT_ONCE, this.limit + 1 / this.limit);
    else {
      const now = performance.now();
      if (now - this.signAt > SIGN_MS) {
        this.signAt = now;
        void this.noteSign();
      }
      if (outcome === 'failed') {
        const first = this.unanswered.get(domainId) ?? performance.now();
        this.unanswered.set(domainId, first);
        if (tries < (this.isSilenceOwn ? OWN_TRIES : TRIES) && performance.now() - first < PATIENCE_MS) return true;
      }
    }
    this.unanswered.delete(domainId);
    return false;
  }

  /** Whether a name that is given up may mean that nobody answers, and nobody does. */
  async isSilentFor(outcome: DnsOutcome, elapsedMs: number): Promise<boolean> {
    return outcome === 'failed' && elapsedMs > LATE_MS && !this.isSilenceOwn && !(await this.isAlive());
  }

  /** Takes in an answer. Where none comes from any server, for many names in a row, `silent` is told. */
  note(outcome: DnsOutcome, detail: string, silent: () => void): void {
    if (outcome !== 'failed' || /SERVFAIL|REFUSED|answers for names/.test(detail)) this.silences = 0;
    else if (++this.silences >= SILENT_ANSWERS && !this.isProbing) {
      this.isProbing = true;
      void this.isAlive().then((isAlive) => {
        this.isProbing = false;
        if (isAlive) this.silences = 0;
        else silent();
      });
    }
  }

  /** An answer stayed away: where others come at once the silence is the name's own, else we ask too much. */
  private async noteSign(): Promise<void> {
    const asked = performance.now();
    const isOwn = (await this.isAlive()) && performance.now() - asked < ALIVE_MS;
    if (!isOwn) this.limit = Math.max(LEAST, this.limit / 2);
    this.isSilenceOwn = isOwn;
  }
}
