import type { NameSaid } from '../../contracts/names';
import type { PoolKnown, PoolReply } from '../../contracts/pool';
import type { ListBatch } from '../../core/formats/list-batch';
import { type Rates, rateOf } from '../../core/listings/rates';
import { learnCoined } from '../../core/names/coined';
import type { Splitter } from '../../core/names/word-split';
import { PoolColumns } from '../../core/pool/columns';
import type { SievePart } from '../../core/pool/conditions';
import { type ChoiceFact, FACT_NAMES, type MemberFact, type PoolRow } from '../../core/pool/facts';
import { countKnown } from '../../core/pool/known';
import { PoolIndex, type PoolQuery } from '../../core/pool/query';
import type { Circumstances } from '../../core/pool/text-hits';
import { isBusy, isFull, type Store } from '../../store/base/database';
import { readRates } from '../../store/base/settings';
import { membershipsOf, pricedAfter } from '../../store/domains/domains';
import { lastVisit, readWords } from '../../store/domains/marks';
import { eachMember, eachMembership, eachPoolRow, readPoolRow } from '../../store/domains/pool-rows.sql';
import { furtherOffers } from '../../store/offers/listings';
import { changedIds, keepCoined, readCoined } from '../../store/pool/pool-changes';
import { scoreNamesOf } from '../../store/sources/list-figures';
import { readSource } from '../../store/sources/sources';
import { sayOfName, subjectOfWords } from './name-facts';
import { readSnapshot, writeSnapshot } from './snapshot';
import { makeSplitter } from './splitter';

const ROWS_AT_ONCE = 2000;
/** Names split into words in one turn: about ten thousandths of a second. */
const NAMES_AT_ONCE = 5000;
/** So many changed rows are read one by one after a start from a snapshot; for more the whole pool is read. */
const MOST_CHANGED = 300_000;

/** Words of a pool's own are learned from this many names on, from so many of them, when it has grown by this. */
const LEAST_TO_LEARN = 300;
const LEARN_FROM = 30_000;
const GROWN = 1.5;
/** They wait until no list has brought rows for so long; but no longer than that. Each time all names may be split anew. */
const LEARN_REST_MS = 1000;
const LEARN_WAIT_MS = 60_000;
/** Rows of a window whose names are read as well; longer ones are for files. */
const MOST_SAID = 1000;
/** Learning lets others go first after so many ms. */
const LEARN_MS = 5;

/** An answer, with what each name of its window says; empty for windows of more than a thousand. */
/** Holds the index over the pool and keeps it equal to the database. */
export class PoolHost {
  private columns = new PoolColumns();
  private index = new PoolIndex(this.columns);
  private rates: Rates;
  private splitter: Splitter;
  private isSplitting = false;
  private isLearning = false;
  /** When a list last brought rows, and since when words of the pool's own are due (performance.now()); null: they are not. */
  private lastAdded = Number.NEGATIVE_INFINITY;
  private dueSince: number | null = null;
  private learnTimer: NodeJS.Timeout | null = null;
  /** Version of the columns when they were last written down or read. */
  private writtenVersion = -1;
  private isWriting = false;
  private readonly words = new Map<number, string[]>();
  private counted: { columns: PoolColumns; version: number; answer: PoolKnown } | null = null;

  /** @param changed told when something changed that nobody asked for. */
  constructor(
    private readonly store: Store,
    private readonly changed: () => void = () => undefined,
  ) {
    this.rates = readRates(store);
    this.splitter = makeSplitter(store);
  }

  /** Splits names into words, as those of the pool are. */
  get splits(): Splitter {
    return this.splitter;
  }

  get size(): number {
    return this.columns.count;
  }

  get version(): number {
    return this.columns.version;
  }

  get questions(): PoolIndex {
    return this.index;
  }

  /** Answers a question; one with a pattern in it takes its time and lets others go first. */
  async query(query: PoolQuery): Promise<PoolReply> {
    const { index } = this;
    const given = this.circumstances();
    await index.prepare(query.parts, given);
    const answer = this.index.query(query, given);
    const isShown = query.limit <= MOST_SAID;
    return { ...answer, said: isShown ? answer.ids.map((id, n) => this.sayOf(id, answer.names[n].starts)) : [] };
  }

  private sayOf(id: number, starts: number[]): NameSaid {
    const label = this.columns.labelOf(this.columns.rowOf(id));
    return sayOfName(starts.map((at, n) => label.slice(at, starts[n + 1]).replace(/-+$/, '')));
  }

  /** Ids of all that pass, in the order of their arrival. */
  async idsOf(query: { parts: SievePart[]; withExcluded?: boolean }): Promise<Uint32Array> {
    const given = this.circumstances();
    await this.index.prepare(query.parts, given);
    return this.index.idsOf(query, given);
  }

  /** Of how many domains each fact is known, a fact at a time so that others are answered between; kept until the pool changes. */
  async known(): Promise<PoolKnown> {
    const { columns } = this;
    if (this.counted?.columns === columns && this.counted.version === columns.version) return this.counted.answer;
    const { version } = columns;
    const known: PoolKnown['known'] = {};
    for (const fact of FACT_NAMES) {
      const many = countKnown(columns, fact);
      if (many !== null) known[fact] = many;
      await new Promise((resolve) => setImmediate(resolve));
    }
    const answer = { size: columns.count, known, scores: scoreNamesOf(this.store) };
    this.counted = { columns, version, answer };
    return answer;
  }

  /** Words that a choice has had in this pool, the first that came first, so many at most. */
  wordsOf(fact: ChoiceFact, many: number): string[] {
    return this.columns.dictionaries[fact].words.slice(1, 1 + many);
  }

  private circumstances(): Circumstances {
    return {
      nowSeconds: Math.floor(this.store.now() / 1000),
      lastVisit: Math.floor(lastVisit(this.store) / 1000),
      splitter: this.splitter,
      subjectOf: subjectOfWords,
      valuesOf: (list) => {
        let words = this.words.get(list);
        if (!words) {
          words = readWords(this.store, list) ?? [];
          this.words.set(list, words);
        }
        return words;
      },
    };
  }

  /**
   * Starts from the snapshot and what changed since, or reads the whole pool when there is none that can be used.
   *
   * @returns why the snapshot was not used; null: it was.
   */
  load(): string | null {
    const loaded = readSnapshot(this.store);
    if (typeof loaded === 'string') {
      this.rebuild();
      return loaded;
    }
    const changed = changedIds(this.store);
    if (changed.length > MOST_CHANGED) {
      this.rebuild();
      return `${changed.length} rows have changed since the snapshot`;
    }
    const { columns, maxId, isMembershipOld, areSplitsOld } = loaded;
    if (areSplitsOld) columns.forgetSplits();
    this.take(columns);
    for (const row of eachPoolRow(this.store, this.rates, maxId)) columns.put(this.withFurther(row));
    const gone: number[] = [];
    for (const id of changed) {
      const row = readPoolRow(this.store, id, this.rates);
      if (row) columns.put(this.withFurther(row));
      else if (columns.rowOf(id) >= 0) gone.push(id);
    }
    if (gone.length > 0) this.take(columns.without(gone));
    if (isMembershipOld) {
      this.columns.members.source.clear();
      this.readMemberships(this.columns);
    }
    this.readSets(this.columns);
    if (changed.length === 0 && !isMembershipOld && !areSplitsOld) this.writtenVersion = this.version;
    this.splitRest();
    return null;
  }

  /** Reads the whole pool. The old index answers until the new one is ready. */
  rebuild(): void {
    const columns = new PoolColumns(1 << 16);
    for (const row of eachPoolRow(this.store, this.rates)) columns.put(this.withFurther(row));
    this.readMemberships(columns);
    this.readSets(columns);
    columns.version = Math.max(columns.version, this.columns.version + 1);
    this.take(columns);
    this.splitRest();
  }

  /** A row with all its offers, where it has more than the one it shows. */
  private withFurther(row: PoolRow): PoolRow {
    if ((row.offers ?? 0) < 2) return row;
    return { ...row, further: furtherOffers(this.store, row, this.rates) };
  }

  private take(columns: PoolColumns): void {
    this.columns = columns;
    this.index = new PoolIndex(columns);
  }

  private readMemberships(columns: PoolColumns): void {
    for (const [source, domain, at] of eachMembership(this.store)) {
      columns.setMembers('source', source, [domain]);
      columns.noteNamed(domain, Math.floor(at / 1000));
    }
  }

  private readSets(columns: PoolColumns): void {
    for (const fact of ['tag', 'shortlist', 'fresh'] as const)
      for (const [set, domain] of eachMember(this.store, fact)) columns.setMembers(fact, set, [domain]);
  }

  /** Splits the names that came since, a part at a time. */
  private splitRest(): void {
    if (this.isSplitting) return;
    this.isSplitting = true;
    const turn = () => {
      if (this.columns.splitSome(this.splitter, NAMES_AT_ONCE)) {
        setImmediate(turn);
        return;
      }
      this.isSplitting = false;
      this.columns.version++;
      this.changed();
      this.learnWhenGrown();
    };
    if (this.columns.splitCount < this.columns.count) setImmediate(turn);
    else this.isSplitting = false;
  }

  /** Learns words of the pool's own when it has grown much since the last time. */
  private learnWhenGrown(): void {
    const { count } = this.columns;
    if (
      !this.store.raw.open ||
      this.isLearning ||
      count < LEAST_TO_LEARN ||
      count < GROWN * readCoined(this.store).names
    )
      return;
    const now = performance.now();
    this.dueSince ??= now;
    if (now - this.lastAdded < LEARN_REST_MS && now - this.dueSince < LEARN_WAIT_MS) {
      this.learnTimer ??= setTimeout(() => {
        this.learnTimer = null;
        this.learnWhenGrown();
      }, LEARN_REST_MS).unref();
      return;
    }
    this.dueSince = null;
    this.isLearning = true;
    void this.learn()
      .catch((error: unknown) => {
        // what finds no space is learned again with the next names
        if (!isFull(error) && !isBusy(error)) throw error;
      })
      .finally(() => {
        this.isLearning = false;
      });
  }

  /** A part at a time; names are split anew only when other words came out. */
  private async learn(): Promise<void> {
    const { store } = this;
    const names = this.columns.count;
    const learning = learnCoined(this.columns.sampleLabels(LEARN_FROM), makeSplitter(store, []));
    let words: string[] | null = null;
    while (words === null) {
      const until = performance.now() + LEARN_MS;
      do {
        const step = learning.next();
        if (step.done) words = step.value;
      } while (words === null && performance.now() < until);
      await new Promise((resolve) => setImmediate(resolve));
    }
    if (!store.raw.open) return;
    const isSame = words.join() === readCoined(store).words.join();
    keepCoined(store, { words, names });
    if (!isSame) this.rename();
  }

  /** The words of briefs have changed: names that may be split otherwise are split anew. */
  rename(): void {
    this.splitter = makeSplitter(this.store);
    this.columns.forgetSplits();
    this.take(this.columns);
    this.splitRest();
  }

  /** Takes over rows of a list: the new ones from the batch, the others as they are in the database now. */
  add(batch: ListBatch, ids: Uint32Array, isNew: Uint8Array, source: number): void {
    const venue = readSource(this.store, source)?.detail.venue;
    this.columns.putBatch(
      batch,
      ids,
      isNew,
      (currency) => rateOf(currency, this.rates) ?? Number.NaN,
      Math.floor(this.store.now() / 1000),
      typeof venue === 'string' ? venue : null,
    );
    this.lastAdded = performance.now();
    const known: number[] = [];
    for (let row = 0; row < ids.length; row++) if (isNew[row] === 0) known.push(ids[row]);
    this.refresh(known, source);
    this.columns.setMembers('source', source, ids);
    this.splitRest();
  }

  /** Takes over rows that were written. */
  refresh(ids: Iterable<number>, source: number | null): void {
    for (const id of ids) {
      const row = readPoolRow(this.store, id, this.rates);
      if (!row) continue;
      const isNew = this.columns.rowOf(id) < 0;
      this.columns.put(this.withFurther(row));
      if (source !== null) this.columns.setMembers('source', source, [id]);
      else if (isNew) for (const named of membershipsOf(this.store, id)) this.columns.setMembers('source', named, [id]);
    }
    this.splitRest();
  }

  /** Domains came into a set, or left it. */
  setMembers(fact: MemberFact, set: number, ids: Iterable<number>, isIn: boolean): void {
    this.columns.setMembers(fact, set, ids, isIn);
  }

  dropSet(fact: MemberFact, set: number): void {
    this.columns.dropSet(fact, set);
  }

  /** Takes out what is in the pool no more, and what a source named once it names nothing. */
  remove(ids: Uint32Array, source: number, isSourceGone: boolean): void {
    if (isSourceGone) this.columns.dropSet('source', source);
    else this.columns.setMembers('source', source, ids, false);
    if (ids.length === 0) return;
    this.take(this.columns.without(ids));
    void this.takeBack(ids);
  }

  /** What another source has named again since it left comes back, a part at a time. */
  private async takeBack(ids: Uint32Array): Promise<void> {
    for (let start = 0; start < ids.length; start += ROWS_AT_ONCE) {
      await new Promise((resolve) => setImmediate(resolve));
      if (!this.store.raw.open) return;
      this.refresh(ids.subarray(start, start + ROWS_AT_ONCE), null);
    }
  }

  /** Prices again after the rates were changed, a part at a time so that questions are answered in between. */
  async reprice(): Promise<void> {
    this.rates = readRates(this.store);
    let after = 0;
    for (;;) {
      const ids = pricedAfter(this.store, after, ROWS_AT_ONCE);
      if (ids.length === 0) return;
      this.refresh(ids, null);
      after = ids[ids.length - 1];
      await new Promise((resolve) => setImmediate(resolve));
    }
  }

  /**
   * Writes the index down when it has changed since it was last. Only while no job is at work: what jobs write is told to the index
   * a moment later than it is in the database.
   *
   * @returns whether it was written.
   */
  async save(isIdle: () => boolean): Promise<boolean> {
    const { columns } = this;
    const { version } = columns;
    if (this.isWriting || this.isSplitting || version === this.writtenVersion || !isIdle()) return false;
    this.isWriting = true;
    try {
      const isStill = () => this.columns === columns && columns.version === version && isIdle();
      const isWritten = await writeSnapshot(this.store, columns, isStill);
      if (isWritten) this.writtenVersion = version;
      return isWritten;
    } finally {
      this.isWriting = false;
    }
  }
}
