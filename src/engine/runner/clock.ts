import type { Logger } from 'pino';
import { isFull, type Store, write } from '../../store/base/database';
import { readRates, readSettings } from '../../store/base/settings';
import { wakeSnoozed } from '../../store/domains/marks';
import { isMeasureDue } from '../../store/links/measure-queue';
import { updateBestListing } from '../../store/offers/best-listing';
import { isAnyDue, letTimePass } from '../../store/offers/listings';
import { readSource } from '../../store/sources/sources';
import { changeWatch, dueWatches, type Watch } from '../../store/sources/watches';
import type { JobRunner } from './runner';

const EVERY_MS = 1000;
/** Offers that change by themselves in one turn; more wait for the next second. */
const MOST_OFFERS = 500;
const MEASURE_REST_MS = 20_000;

/** What happens by itself: watches that are due are looked at, prices fall by their steps, listings close. */
export class Clock {
  private timer: NodeJS.Timeout | null = null;
  private readonly others: (() => void)[] = [];
  private measureAt = 0;

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
      this.measure();
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
        for (const id of due) updateBestListing(store, id, at, rates);
      }
      return due;
    });
    if (ids.length > 0) this.changed(ids);
  }

  /** What waits to be measured is, while today's budget lasts or somebody asked for it. */
  private measure(): void {
    const { store, runner } = this;
    const at = store.now();
    if (
      performance.now() < this.measureAt ||
      runner.isBusyWith('inspect') ||
      !isMeasureDue(store, readSettings(store).measureBudget, at)
    )
      return;
    // what cannot be measured today is asked about again in a while, not every second
    this.measureAt = performance.now() + MEASURE_REST_MS;
    runner.addOnce({ kind: 'inspect', sourceId: null, params: {} });
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
    const { url = null, table = null, connection = null } = source.detail;
    runner.addOnce({ kind: 'venue', sourceId: source.id, params: { url, table, connection } });
  }
}
