import type { Logger } from 'pino';
import type { DnsOutcome } from '../../core/lifecycle/phase';
import type { Settings } from '../../core/settings/settings';
import type { RecordAnswer } from '../../net/rdap';
import type { RegistrarAnswer } from '../../net/registrar';
import { resolversOf } from '../../store/base/config';
import { isFull, type Store } from '../../store/base/database';
import { readSettings, settingsText } from '../../store/base/settings';
import { readDomains } from '../../store/domains/domains';
import { tellDns } from '../../store/lifecycle/question-news';
import { countQueues, nextQuestions, urgentQuestions } from '../../store/lifecycle/question-queues';
import { moveQuestion, type Question } from '../../store/lifecycle/questions';
import { type CheckEntry, putWaiting } from '../../store/lifecycle/verdicts';
import { droppingSoon } from '../../store/lifecycle/watching';
import { AnswerWriter } from './answer-writer';
import { LookupClients, type RecordServer, WHOIS } from './clients';
import { DnsPace } from './dns-pace';
import { entryOf, evidenceOf, proofWords } from './evidence';
import { hostOf } from './long-waits';
import { LookupProblems } from './problems';
import { Proofs } from './proofs';
import { Prover } from './prover';
import { ServerBudgets } from './server-budgets';
import { ServerQueue } from './server-queue';
import { settle, wantsRecord } from './settle';
import { DNS_PROBLEM, WaitingQuestions } from './waiting-questions';

/** DNS questions taken from the queue at a time: a raised one waits for as many at most. */
const DNS_TAKEN = 512;
const TURN_MS = 10;
const QUEUES_MS = 200;
/** So often urgent questions are looked for, whatever else is under way, and how many of them at a time. */
const URGENT_MS = 100;
const URGENT_TAKEN = 16;
/** A server that is asked more seldom keeps its turn for a name that is about to drop. */
const SELDOM_MS = 8000;
const DROPPING_MS = 1000;
const FLUSH_MS = 15;
const SETTINGS_MS = 3000;
const BUDGETS_MS = 2000;
const CLOCK_MS = 1000;
const IDLE_MS = 25;
const WAITING_MS = 1000;
/** After so many broken connections a question is given up. */
const MOST_TRIES = 4;
/** Who waits longer than this for a registry gets what is known so far. */
const LONG_WAIT_MS = 60_000;

/**
 * Asks all questions there are, whoever wants to know: first DNS, then the registry's record, then the registrar, each only about
 * what the step before leaves open. There is one of it, so that a server's budget is kept however many jobs run.
 */
export class LookupScheduler {
  private clients: LookupClients;
  private readonly problems: LookupProblems;
  private readonly dnsPace = new DnsPace(() => this.clients.dns.isAlive());
  private readonly waiting: WaitingQuestions;
  private readonly proofs: Proofs;
  private settingsText: string;
  /** Endings of names that a person watches and that drop soon, with when. */
  private dropping: { ending: string; from: number }[] = [];
  private readonly prover: Prover;
  private readonly budgets: ServerBudgets;
  private readonly writer: AnswerWriter;
  private readonly queues = new Map<string, ServerQueue>();
  private readonly inDns = new Map<number, Question>();
  /** What is being done for a question of a queue, for the log when it hangs. */
  private readonly stages = new Map<number, string>();
  private taken: Question[] = [];
  private isRunning = false;
  private readonly timers: NodeJS.Timeout[] = [];
  private dnsIdleUntil = 0;

  /** @param changed told which domains were written, after the commit. */
  constructor(
    private readonly store: Store,
    private readonly log: Logger,
    private readonly changed: (ids: number[]) => void,
  ) {
    this.settingsText = settingsText(store);
    this.clients = new LookupClients(store, readSettings(store));
    this.problems = new LookupProblems(store, (key) => {
      this.dnsIdleUntil = 0;
      this.waiting.release(key);
    });
    this.waiting = new WaitingQuestions(store, this.problems, () => this.policies);
    this.budgets = new ServerBudgets(store, () => this.settings, this.problems);
    this.proofs = new Proofs(
      (key) => this.budgets.of(key).budget,
      (key) => this.budgets.touch(key),
    );
    this.prover = new Prover(() => this.clients, this.proofs, this.budgets);
    this.writer = new AnswerWriter(store, log, changed);
  }

  start(): void {
    this.isRunning = true;
    const every = (ms: number, act: () => void) => this.timers.push(setInterval(() => this.safely(act), ms));
    every(TURN_MS, () => this.askDns());
    every(URGENT_MS, () => this.askUrgent());
    this.lookAhead();
    every(DROPPING_MS, () => this.lookAhead());
    every(QUEUES_MS, () => this.openQueues());
    every(FLUSH_MS, () => this.flush());
    every(SETTINGS_MS, () => this.budgets.forgetTakenBack());
    every(CLOCK_MS, () => this.budgets.followClock());
    every(BUDGETS_MS, () => this.budgets.keep());
    every(WAITING_MS, () => this.waiting.tryDue());
  }

  /** Asks nothing more, waits a moment for what is under way, and writes what came. */
  async stop(): Promise<void> {
    this.isRunning = false;
    for (const timer of this.timers) clearInterval(timer);
    for (const queue of this.queues.values()) queue.stop();
    const until = performance.now() + 2500;
    while (this.inDns.size + this.busyQueues() > 0 && performance.now() < until) {
      await new Promise((done) => setTimeout(done, 20));
      this.safely(() => this.flush());
    }
    this.safely(() => this.flush());
    this.safely(() => this.budgets.keep());
    await this.clients.close();
  }

  private safely(act: () => void): void {
    try {
      act();
    } catch (error) {
      // what could not be written stays in the queue and is asked again
      if (isFull(error)) this.log.warn('the disk is full');
      else this.log.error({ err: error }, 'the lookup scheduler stumbled');
    }
  }

  private busyQueues(): number {
    let sum = 0;
    for (const queue of this.queues.values()) sum += queue.busy;
    return sum;
  }

  /** What a person waits for, or drops now, does not wait for what was taken before it. */
  private askUrgent(): void {
    if (!this.isRunning) return;
    this.takeSettings();
    for (const question of urgentQuestions(this.store, 'dns', '', URGENT_TAKEN)) {
      const { domainId } = question;
      if (this.inDns.has(domainId)) continue;
      // it may stand among those that were taken before it became urgent
      this.taken = this.taken.filter((other) => other.domainId !== domainId);
      this.inDns.set(domainId, question);
      void this.askOneDns(question);
    }
  }

  private lookAhead(): void {
    this.dropping = droppingSoon(this.store, this.store.now(), LONGEST_RESERVE_MS);
  }

  private askDns(): void {
    if (this.taken.length === 0 && performance.now() >= this.dnsIdleUntil) {
      this.takeSettings();
      this.taken = nextQuestions(this.store, 'dns', '', DNS_TAKEN + this.inDns.size + this.writer.waiting).filter(
        ({ domainId }) => !this.inDns.has(domainId),
      );
      if (this.taken.length === 0) this.dnsIdleUntil = performance.now() + IDLE_MS;
    }
    while (this.isRunning && this.inDns.size < this.dnsPace.limit && this.taken.length > 0) {
      const question = this.taken.shift() as Question;
      if (this.inDns.has(question.domainId)) continue;
      this.inDns.set(question.domainId, question);
      void this.askOneDns(question);
    }
  }

  private async askOneDns(question: Question): Promise<void> {
    const { name, ending, domainId } = question;
    try {
      const { clients } = this;
      const answer = await clients.dns.delegation(name, ending);
      const entry: CheckEntry = { step: 'dns', at: this.store.now(), ...entryOf(answer) };
      if (answer.outcome === 'delegated' && question.depth === 'full' && (await clients.dns.isServed(name)) === false)
        entry.detail += '; its own servers do not speak for it: lame';
      if (answer.outcome !== 'failed') this.problems.gone(DNS_PROBLEM);
      this.dnsPace.note(answer.outcome, answer.detail, () => {
        if (clients === this.clients && this.isRunning) this.safely(() => this.dnsIsSilent(answer.detail));
      });
      if (this.dnsPace.isAskedAgain(question, answer.outcome, answer.elapsedMs)) {
        const again = { ...question, tries: question.tries + 1 };
        this.writer.add({ question, act: () => moveQuestion(this.store, again) });
        return;
      }
      if (await this.dnsPace.isSilentFor(answer.outcome, answer.elapsedMs)) this.dnsIsSilent(answer.detail);
      if (answer.outcome === 'delegated') this.prover.exists(name, ending);
      const server = await this.clients.serverFor(ending, this.problems);
      this.writer.add({
        question,
        act: () => this.afterDns({ ...question, said: [entry] }, answer.outcome, server),
      });
    } catch (error) {
      this.log.warn({ name, error: (error as Error).message }, 'a question to DNS broke');
      this.inDns.delete(domainId);
    }
  }

  /** All that would be asked of DNS waits until a server answers again. */
  private dnsIsSilent(detail: string): void {
    this.problems.met(
      DNS_PROBLEM,
      `No server of DNS answers (${resolversOf(this.settings).join(', ') || 'no resolver is set'}): ${detail}.`,
      'Look whether this machine is on the network, and set a resolver that answers in Settings.',
    );
    this.taken = [];
    const some = this.waiting.suspendDns();
    this.changed(some.map(({ domainId }) => domainId));
    // who has the records may not be known either, which is a problem of its own
    for (const ending of new Set(some.map((question) => question.ending)))
      void this.clients.serverFor(ending, this.problems).catch(() => undefined);
  }

  /** Writes what DNS said: the end of it, or the way to the registry. */
  private afterDns(question: Question, outcome: DnsOutcome, { server, cause, problem }: RecordServer): void {
    const { store } = this;
    const { domainId } = question;
    const [row] = readDomains(store, [domainId]);
    const goesOn = outcome !== 'delegated' || question.depth === 'full' || wantsRecord(row, store.now());
    if (!goesOn || server === null) {
      const record =
        cause !== null && goesOn
          ? { outcome: 'failed' as const, record: null, words: cause, isUnasked: true }
          : undefined;
      const { phase } = settle(store, this.policies, domainId, question.said, { dns: outcome, record });
      this.waiting.finish(question, outcome, phase, goesOn ? problem : null);
      return;
    }
    moveQuestion(store, { ...question, step: 'record', server });
    tellDns(store, domainId, outcome);
    this.sayWhatWaits(question, server);
  }

  /** A name that nothing is known of and whose registry's turn is far off gets its interim verdict. */
  private sayWhatWaits(question: Question, server: string): void {
    const queue = this.queues.get(queueKey('record', server));
    if (!queue || queue.forecastMs(1) < LONG_WAIT_MS) return;
    const [row] = readDomains(this.store, [question.domainId]);
    if (row.phase_at !== null && row.phase !== 'unknown') return;
    const reason = `${question.said[0]?.outcome === 'nxdomain' ? 'No such name in DNS; its' : 'Its'} registry answers seldom, and is asked when its turn comes.`;
    putWaiting(this.store, question.domainId, this.store.now(), hostOf(server), reason);
  }

  private openQueues(): void {
    if (!this.isRunning) return;
    for (const queue of this.queues.values()) queue.waiting = 0;
    for (const { step, server, waiting } of countQueues(this.store)) {
      if (step === 'dns') continue;
      const key = queueKey(step, server);
      let queue = this.queues.get(key);
      if (!queue) {
        const budgetKey = hostOf(server);
        queue = new ServerQueue(
          () => this.budgets.of(budgetKey),
          (limit) => (this.isReserved(server) ? urgentQuestions : nextQuestions)(this.store, step, server, limit),
          (question, answered) =>
            (step === 'record' ? this.askRecord(question, answered) : this.askRegistrar(question, answered)).catch(
              (error: Error) => {
                this.log.warn({ name: question.name, server, error: error.message }, 'a question broke');
              },
            ),
          ({ name, domainId }) =>
            this.log.warn({ name, server, at: this.stages.get(domainId) }, 'a question hangs; it is asked again'),
        );
        this.queues.set(key, queue);
      }
      queue.waiting = waiting;
      queue.open();
    }
  }

  /** Whether the next turn of a server that is asked seldom is kept for a name that a person watches and that is about to drop. */
  private isReserved(server: string): boolean {
    const { budget } = this.budgets.of(hostOf(server));
    if (budget.intervalMs < SELDOM_MS || this.dropping.length === 0) return false;
    const now = this.store.now();
    return this.dropping.some(
      ({ ending, from }) => from - now < budget.intervalMs && this.clients.known(ending)?.server === server,
    );
  }

  private async askRecord(question: Question, answered: () => void): Promise<void> {
    const { name, server, ending } = question;
    const isRdap = server.includes('://');
    const host = hostOf(server);
    // the turn goes to a name that exists, where the server has not shown yet that it knows such; the question has the next
    this.stages.set(question.domainId, 'proving');
    if (isRdap && (await this.prover.prove(server, ending))) {
      this.waiting.suspendIfGone('record', server, `server ${host}`);
      return;
    }
    // it keeps its place, and is asked when the server takes questions again
    if (this.budgets.isLeftAlone(host)) return;
    const isKnown = this.proofs.of(host, ending, Date.now()) !== null;
    this.stages.set(question.domainId, 'asking');
    const askedAt = Date.now();
    const answer = isRdap
      ? await this.clients.rdap.domain(server, name, isKnown)
      : await this.clients.whois.domain(server.slice(WHOIS.length), name);
    this.stages.set(question.domainId, 'writing');
    answered();
    const isAnswer = this.budgets.note(host, answer, askedAt);
    const isGone = this.waiting.suspendIfGone('record', server, `server ${host}`);
    if (isRdap && answer.outcome === 'found') this.proofs.found(host, ending, name, Date.now());
    if (!isAnswer) {
      if (answer.outcome === 'refused') return;
      const tries = question.tries + 1;
      if (tries < MOST_TRIES && !isGone) {
        await this.put(question, () => moveQuestion(this.store, { ...question, tries }));
        return;
      }
    }
    const proof = answer.outcome === 'not-found' ? this.proofs.of(host, ending, Date.now()) : null;
    if (answer.isUnproven) answer.words = this.proofs.whyNot(host, ending) ?? answer.words;
    const entry: CheckEntry = {
      step: isRdap ? 'rdap' : 'whois',
      at: this.store.now(),
      ...entryOf(answer),
      text: answer.text,
      words: answer.words,
      proof: proof ? proofWords(proof.name) : null,
    };
    const next = { ...question, said: [...question.said, entry] };
    const { registrar } = this.clients;
    if (question.depth !== 'record' && answer.outcome !== 'found' && registrar !== null) {
      await this.put(question, () =>
        moveQuestion(this.store, { ...next, step: 'registrar', server: registrar.server, tries: 0 }),
      );
      return;
    }
    await this.conclude(next, answer);
  }

  private async askRegistrar(question: Question, answered: () => void): Promise<void> {
    const askedAt = Date.now();
    // another may be set, or none, since the question was put
    const { registrar } = this.clients;
    if (registrar === null) {
      answered();
      await this.conclude(question, null);
      return;
    }
    const answer = await registrar.ask(question.name);
    answered();
    const isDropped = answer.outcome === 'failed' && answer.elapsedMs === 0;
    if (!this.budgets.note(hostOf(question.server), { ...answer, isDropped }, askedAt)) {
      if (answer.outcome === 'refused') return;
      const tries = question.tries + 1;
      if (tries < MOST_TRIES) {
        await this.put(question, () => moveQuestion(this.store, { ...question, tries }));
        return;
      }
    }
    const { priceMinor, currency } = answer;
    const entry: CheckEntry = {
      step: 'registrar',
      at: this.store.now(),
      ...entryOf(answer),
      priceMinor,
      currency,
    };
    await this.conclude({ ...question, said: [...question.said, entry] }, null, answer);
  }

  /** All has been said: the verdict. */
  private conclude(
    question: Question,
    answer: RecordAnswer | null,
    registrar: RegistrarAnswer | null = null,
  ): Promise<void> {
    return this.put(question, () => {
      const { store } = this;
      this.takeSettings();
      const host = answer ? hostOf(question.server) : '';
      const proof = answer?.outcome === 'not-found' ? this.proofs.of(host, question.ending, Date.now()) : null;
      const said = evidenceOf(question.said, answer, registrar, proof);
      const registryMs = answer ? this.budgets.of(host).budget.intervalMs : 0;
      const { phase } = settle(store, this.policies, question.domainId, question.said, said, registryMs);
      const problem = answer?.isDropped ? `server ${host}` : null;
      this.waiting.finish(
        question,
        said.dns ?? null,
        phase,
        problem !== null && this.problems.has(problem) ? problem : null,
      );
    });
  }

  /** Writes with the next flush. Resolves when it is on disk. */
  private put(question: Question, act: () => void): Promise<void> {
    return new Promise((resolve) => {
      const done = () => {
        this.stages.delete(question.domainId);
        resolve();
      };
      this.writer.add({ question, act, done });
    });
  }

  private flush(): void {
    for (const { domainId } of this.writer.flush()) this.inDns.delete(domainId);
  }

  private get settings(): Settings {
    return this.clients.settings;
  }

  private get policies() {
    return this.settings.policies;
  }

  /** What is changed in Settings counts from the next question on. */
  private takeSettings(): void {
    const text = settingsText(this.store);
    if (text === this.settingsText) return;
    this.settingsText = text;
    const old = this.clients;
    this.clients = new LookupClients(this.store, readSettings(this.store));
    // who could not be asked may be now
    this.dnsPace.reset();
    this.dnsIdleUntil = 0;
    this.waiting.releaseAll();
    setTimeout(() => void old.close(), 20_000).unref();
  }
}

/** A turn is kept for a name that drops within this at most. */
const LONGEST_RESERVE_MS = 15 * 60_000;

const queueKey = (step: string, server: string) => `${step} ${server}`;
