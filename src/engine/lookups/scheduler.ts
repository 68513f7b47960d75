import type { Logger } from 'pino';
import { answered, type Budget, type Declared, dropped, freshBudget, refused } from '../../core/lifecycle/pace';
import type { DnsOutcome, Evidence } from '../../core/lifecycle/phase';
import type { Settings } from '../../core/settings/settings';
import type { RecordAnswer } from '../../net/rdap';
import { askRegistrar, type RegistrarAnswer } from '../../net/registrar';
import { resolversOf } from '../../store/base/config';
import { type Store, write } from '../../store/base/database';
import { readSettings, settingsText } from '../../store/base/settings';
import { readDomains } from '../../store/domains/domains';
import { putBudget, readBudgets } from '../../store/lifecycle/budgets';
import { tellDns } from '../../store/lifecycle/question-news';
import { countQueues, nextQuestions, urgentQuestions } from '../../store/lifecycle/question-queues';
import { moveQuestion, putPulse, type Question } from '../../store/lifecycle/questions';
import { type CheckEntry, putWaiting } from '../../store/lifecycle/verdicts';
import { droppingSoon } from '../../store/lifecycle/watching';
import { isFull } from '../database/retry-when-full';
import { LookupClients, type RecordServer, WHOIS } from './clients';
import { DnsPace } from './dns-pace';
import { hostOf } from './long-waits';
import { LookupProblems } from './problems';
import { Proofs } from './proofs';
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
const IDLE_MS = 25;
const WAITING_MS = 1000;
/** After so many broken connections a question is given up. */
const MOST_TRIES = 4;
/** Who waits longer than this for a registry gets what is known so far. */
const LONG_WAIT_MS = 60_000;

/** What an answer makes of its question. */
interface Result {
  question: Question;
  /** Writes it, within a transaction. */
  act(): void;
  /** Told once it is on disk, or given up. */
  done?(): void;
}

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
  /** Trials of servers that are under way. */
  private readonly proving = new Map<string, Promise<boolean>>();
  private settingsText: string;
  /** Endings of names that a person watches and that drop soon, with when. */
  private dropping: { ending: string; from: number }[] = [];
  /** By ending, a name that DNS has delegated: it exists. */
  private readonly delegated = new Map<string, string>();
  private readonly budgets: Map<string, Budget>;
  private readonly dirty = new Set<string>();
  private readonly queues = new Map<string, ServerQueue>();
  private readonly inDns = new Map<number, Question>();
  /** What is being done for a question of a queue, for the log when it hangs. */
  private readonly stages = new Map<number, string>();
  private taken: Question[] = [];
  private results: Result[] = [];
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
    this.proofs = new Proofs(
      (key) => this.budgetOf(key).budget,
      (key) => this.dirty.add(key),
    );
    this.budgets = readBudgets(store);
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
    every(SETTINGS_MS, () => this.takeBudgets());
    every(BUDGETS_MS, () => this.keepBudgets());
    every(WAITING_MS, () => this.waiting.tryDue());
  }

  /** Asks nothing more, waits a moment for what is under way, and writes what came. */
  async stop(): Promise<void> {
    this.isRunning = false;
    for (const timer of this.timers) clearInterval(timer);
    for (const queue of this.queues.values()) queue.stop();
    const until = Date.now() + 2500;
    while (this.inDns.size + this.busyQueues() > 0 && Date.now() < until) {
      await new Promise((done) => setTimeout(done, 20));
      this.safely(() => this.flush());
    }
    this.safely(() => this.flush());
    this.safely(() => this.keepBudgets());
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
    if (this.taken.length === 0 && Date.now() >= this.dnsIdleUntil) {
      this.takeSettings();
      this.taken = nextQuestions(this.store, 'dns', '', DNS_TAKEN + this.inDns.size + this.results.length).filter(
        ({ domainId }) => !this.inDns.has(domainId),
      );
      if (this.taken.length === 0) this.dnsIdleUntil = Date.now() + IDLE_MS;
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
        this.results.push({ question, act: () => moveQuestion(this.store, again) });
        return;
      }
      if (await this.dnsPace.isSilentFor(answer.outcome, answer.elapsedMs)) this.dnsIsSilent(answer.detail);
      if (answer.outcome === 'delegated') this.delegated.set(ending, name);
      const server = await this.clients.serverFor(ending, this.problems);
      this.results.push({
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
          () => this.budgetOf(budgetKey),
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
    const { budget } = this.budgetOf(hostOf(server));
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
    if (isRdap && (await this.prove(server, ending))) {
      this.waiting.suspendIfGone('record', server, `server ${host}`);
      return;
    }
    const isKnown = this.proofs.of(host, ending, Date.now()) !== null;
    this.stages.set(question.domainId, 'asking');
    const askedAt = Date.now();
    const answer = isRdap
      ? await this.clients.rdap.domain(server, name, isKnown)
      : await this.clients.whois.domain(server.slice(WHOIS.length), name);
    this.stages.set(question.domainId, 'writing');
    answered();
    const isAnswer = this.noteAnswer(host, answer, askedAt);
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
    if (question.depth !== 'record' && answer.outcome !== 'found' && this.settings.registrar !== '') {
      const registrar = this.settings.registrar;
      await this.put(question, () =>
        moveQuestion(this.store, { ...next, step: 'registrar', server: registrar, tries: 0 }),
      );
      return;
    }
    await this.conclude(next, answer);
  }

  /** Tries a server by a name that exists, once at a time. @returns whether that was asked, or is being asked. */
  private async prove(server: string, ending: string): Promise<boolean> {
    const key = `${server} ${ending}`;
    const underWay = this.proving.get(key);
    if (underWay) {
      await underWay;
      return true;
    }
    const proving = this.tryByName(server, ending).finally(() => this.proving.delete(key));
    this.proving.set(key, proving);
    return proving;
  }

  private async tryByName(server: string, ending: string): Promise<boolean> {
    const host = hostOf(server);
    const known = [`nic.${ending}`, this.delegated.get(ending), `example.${ending}`];
    const candidates = known.filter((one) => one !== undefined);
    for (const candidate of this.proofs.candidates(host, ending, candidates, Date.now())) {
      const { outcome } = await this.clients.dns.delegation(candidate, ending);
      if (outcome === 'nxdomain' || outcome === 'no-delegation')
        this.proofs.tried(host, ending, candidate, null, Date.now());
      if (outcome !== 'delegated') continue;
      const askedAt = Date.now();
      const answer = await this.clients.rdap.domain(server, candidate, true);
      const isAnswer = this.noteAnswer(host, answer, askedAt);
      if (answer.outcome === 'found') this.proofs.found(host, ending, candidate, Date.now());
      if (isAnswer) this.proofs.tried(host, ending, candidate, answer.outcome === 'found', Date.now());
      return true;
    }
    return false;
  }

  private async askRegistrar(question: Question, answered: () => void): Promise<void> {
    const askedAt = Date.now();
    const answer = await askRegistrar(this.clients.http, question.server, question.name);
    answered();
    const isDropped = answer.outcome === 'failed' && answer.elapsedMs === 0;
    if (!this.noteAnswer(hostOf(question.server), { ...answer, isDropped }, askedAt)) {
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

  /** Keeps the server's budget by its answer. @returns whether it answered at all. */
  private noteAnswer(
    key: string,
    {
      outcome,
      retryAfterMs,
      isDropped,
      elapsedMs,
      detail,
    }: Pick<RecordAnswer, 'retryAfterMs' | 'isDropped' | 'elapsedMs' | 'detail'> & { outcome: string },
    askedAt: number,
  ): boolean {
    const { budget, declared } = this.budgetOf(key);
    const now = Date.now();
    this.dirty.add(key);
    if (outcome === 'refused') refused(budget, declared, retryAfterMs, now, askedAt);
    else if (isDropped) {
      dropped(budget, now);
      if (budget.refusals >= SILENT_DROPS)
        this.problems.met(
          `server ${key}`,
          `${key.replace(/^whois /, '')} cannot be reached: ${detail}.`,
          'It is tried again by itself, later and later. If other servers answer, the trouble is there; else look at the network.',
        );
    } else {
      this.problems.gone(`server ${key}`);
      answered(budget, declared, askedAt, elapsedMs, now);
      return true;
    }
    return false;
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
      const registryMs = answer ? this.budgetOf(host).budget.intervalMs : 0;
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
      this.results.push({ question, act, done });
    });
  }

  private flush(): void {
    if (this.results.length === 0) return;
    const batch = this.results;
    const failed = this.writeAll(batch);
    this.results = [];
    for (const { question, done } of batch) {
      this.inDns.delete(question.domainId);
      done?.();
    }
    this.changed(batch.filter((result) => !failed.has(result)).map(({ question }) => question.domainId));
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

  private get settings(): Settings {
    return this.clients.settings;
  }

  private get policies() {
    return this.settings.policies;
  }

  private budgetOf(key: string): { budget: Budget; declared: Declared } {
    const declared = { intervalMs: this.settings.paces[key] ?? this.settings.registryIntervalMs };
    let budget = this.budgets.get(key);
    if (!budget) {
      budget = freshBudget(declared);
      this.budgets.set(key, budget);
    }
    if (budget.learnedMs === null && budget.intervalMs < declared.intervalMs) budget.intervalMs = declared.intervalMs;
    return { budget, declared };
  }

  private keepBudgets(): void {
    if (this.dirty.size === 0) return;
    const keys = [...this.dirty];
    write(this.store, () => {
      for (const key of keys) putBudget(this.store, key, this.budgetOf(key).budget);
    });
    this.dirty.clear();
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

  /** What a person took back of what was learned is forgotten here, too. */
  private takeBudgets(): void {
    const kept = readBudgets(this.store);
    for (const [key, budget] of this.budgets)
      if (budget.learnedMs !== null && !kept.has(key) && !this.dirty.has(key)) this.budgets.delete(key);
  }
}

/** Broken connections in a row after which a server is one that cannot be reached. */
const SILENT_DROPS = 2;
/** A turn is kept for a name that drops within this at most. */
const LONGEST_RESERVE_MS = 15 * 60_000;

const queueKey = (step: string, server: string) => `${step} ${server}`;

const proofWords = (name: string) => `its server knows ${name}, which exists`;

function entryOf(answer: { server: string; outcome: string; detail: string; elapsedMs: number }) {
  const { server, outcome, detail, elapsedMs } = answer;
  return { server, outcome, detail, elapsedMs };
}

function evidenceOf(
  said: CheckEntry[],
  answer: RecordAnswer | null,
  registrar: RegistrarAnswer | null,
  proof: { name: string; at: number } | null,
): Evidence {
  const evidence: Evidence = {};
  for (const { step, outcome, words, proof: shown } of said)
    if (step === 'dns') evidence.dns = outcome as DnsOutcome;
    else if (step !== 'registrar')
      evidence.record = {
        outcome: outcome as NonNullable<Evidence['record']>['outcome'],
        record: answer?.record ?? null,
        words: answer?.words ?? words ?? null,
        isUnasked: answer?.isDropped ?? false,
        proof: proof ? proofWords(proof.name) : (shown ?? null),
      };
  if (registrar) {
    const { outcome, priceMinor, currency } = registrar;
    const price = priceMinor === null ? null : `${(priceMinor / 100).toFixed(2)} ${currency ?? ''}`.trimEnd();
    evidence.registrar = { outcome, price };
  }
  return evidence;
}
