import { join } from 'node:path';
import type { Logger } from 'pino';
import { holdStill, keepDamage, RESTORE_ADVICE, readDamage, wordsOfPages } from '../../store/base/damage';
import { changedPages, forgetSums, isLogged, type PageSums, readSums } from '../../store/base/page-sums';
import { startThread } from '../runner/threads';
import type { DamageTask } from './damage-thread';

/** The first look by SQLite's own means, and how often it is repeated. */
const FIRST_CHECK_MS = 60_000;
const CHECK_MS = 86_400_000;
/** Pages that have to be right before anything is opened: the header, and where tables are found. */
const FIRST_PAGES = 1;

/**
 * Notices damage of the database: at a start every page is held against the sums that the last end left, and at a quiet moment after it, then
 * once a day, SQLite looks it through.
 */
export class DamageWatch {
  private readonly database: string;
  private readonly sums: PageSums | null;
  private letGo: () => void = () => undefined;
  private checkAt = performance.now() + FIRST_CHECK_MS;
  private isLooking = false;

  /**
   * To be made before anything opens the database.
   *
   * @throws where already its header is not what it was: opened, it would be damaged further.
   */
  constructor(
    private readonly folder: string,
    private readonly log: Logger,
  ) {
    this.database = join(folder, 'jam-ladle.sqlite');
    const sums = readSums(this.database);
    if (sums && changedPages(this.database, sums, { pages: FIRST_PAGES }).length > 0)
      throw new Error(
        `the header of the database is damaged. ${RESTORE_ADVICE} If you put another database there yourself, take jam-ladle.sums away`,
      );
    forgetSums(this.database);
    this.sums = sums;
    if (!sums) return;
    if (isLogged(this.database)) {
      this.letGo = holdStill(this.database);
      return;
    }
    // a copy of an earlier version: held still, it could not be opened
    this.sums = null;
    const pages = changedPages(this.database, sums);
    if (pages.length > 0) this.note(wordsOfPages(this.database, pages));
  }

  /** Begins to hold the pages against their sums, beside everything else. */
  async compare(): Promise<void> {
    if (!this.sums) return;
    await this.look({ database: this.database, sums: this.sums });
    this.close();
  }

  /** One turn of the clock. @param isQuiet whether nothing is at work. */
  turn(isQuiet: boolean): void {
    if (this.isLooking || !isQuiet || performance.now() < this.checkAt) return;
    this.checkAt = performance.now() + CHECK_MS;
    void this.look({ database: this.database, sums: null });
  }

  close(): void {
    this.letGo();
    this.letGo = () => undefined;
  }

  private async look(task: DamageTask): Promise<void> {
    this.isLooking = true;
    const started = performance.now();
    try {
      const found = await this.ask(task);
      const ms = Math.round(performance.now() - started);
      if (found.length === 0) this.log.info({ ms, by: task.sums ? 'sums' : 'SQLite' }, 'the database is whole');
      else this.note(found);
    } catch (error) {
      this.log.error({ err: error }, 'the database could not be looked through');
    } finally {
      this.isLooking = false;
    }
  }

  private note(found: readonly string[]): void {
    this.log.error({ found }, 'the database is damaged');
    const before = readDamage(this.folder)?.found ?? [];
    keepDamage(this.folder, { at: Date.now(), found: [...new Set([...before, ...found])] });
  }

  private ask(task: DamageTask): Promise<string[]> {
    const thread = startThread('database/damage-thread', 'damage-thread', { workerData: task });
    return new Promise((resolve, reject) => {
      thread.once('message', resolve);
      thread.once('error', reject);
      thread.once('exit', () => reject(new Error('the thread ended without a word')));
    });
  }
}
