import type { Logger } from 'pino';
import { readRates, type Store, write } from '../store/database';
import { isAnyDue, letTimePass, settleListing } from '../store/listings';
import { wakeSnoozed } from '../store/marks';
import { readSource } from '../store/sources';
import { changeWatch, dueWatches, type Watch } from '../store/watches';
import { isFull } from './patience';
import type { JobRunner } from './runner';

const EVERY_MS = 1000;
/** Offers that change by themselves in one turn; more wait for the next second. */
const MOST_OFFERS = 500;

/** What happens by itself: watches that are due are looked at, prices fall by their steps, listings close. */
export class Clock {
  private timer: NodeJS.Timeout | null = null;
  private readonly others: (() => void)[] = [];

  constructor(
    private readonly store: Store,
    private readonly runner: JobRunner,
    private readonly changed: (ids: number[]) => void,
    private readonly log: Logger,
  ) {}

  start(): void {
    this.timer = setInterval(() => this.turn(), EVERY_MS);
  }

  stop(): void {
    if (this.timer) clearInterval(this.timer);
  }

  /** Something else to be done every turn. */
  also(act: () => void): void {
    this.others.push(act);
  }

  /** One turn; what fails is tried again in the next. */
  turn(): void {
    try {
      this.passTime();
      for (const watch of dueWatches(this.store, this.store.now())) this.look(watch);
      const woken = wakeSnoozed(this.store, this.store.now(), MOST_OFFERS);
      if (woken.length > 0) this.changed(woken);
      for (const act of this.others) act();
    } catch (error) {
      if (isFull(error)) this.log.warn('the disk is full');
      else this.log.error({ err: error }, 'the clock stumbled');
    }
  }

  private passTime(): void {
    const { store } = this;
    const at = store.now();
    if (!isAnyDue(store, at)) return;
    const ids = write(store, () => {
      const due = letTimePass(store, at, MOST_OFFERS);
      if (due.length > 0) {
        const rates = readRates(store);
        for (const id of due) settleListing(store, id, at, rates);
      }
      return due;
    });
    if (ids.length > 0) this.changed(ids);
  }

  private look(watch: Watch): void {
    const { store, runner } = this;
    changeWatch(store, watch.id, { nextAt: store.now() + watch.everyMs });
    if (watch.kind !== 'venue') {
      runner.addOnce({ kind: 'watch', sourceId: null, params: { watchId: watch.id } });
      return;
    }
    const source = watch.sourceId === null ? null : readSource(store, watch.sourceId);
    if (!source) return;
    const { url, table = null } = source.detail;
    runner.addOnce({ kind: 'venue', sourceId: source.id, params: { url, table } });
  }
}
