import type { Worker } from 'node:worker_threads';
import { logPages, type Store } from '../../store/base/database';
import { startThread } from '../runner/threads';

/** Pages in the log from which on they are moved meanwhile. Moving takes about a second, and the log goes on growing. */
const MOVE_PAGES = 40_000;

/**
 * Keeps the log of a long import short without making it wait: a thread moves most of it into the database while the import
 * writes on. The writer itself moves the rest when the log is as long as it lets it be; only then can the log begin anew.
 */
export class Checkpointer {
  private thread: Worker | null = null;
  private ended: Promise<void> = Promise.resolve();
  private isMoving = false;

  /** @param movePages pages in the log from which on they are moved. */
  constructor(
    private readonly store: Store,
    private readonly movePages = MOVE_PAGES,
  ) {}

  /** To be called after each transaction. */
  look(): void {
    if (this.isMoving || logPages(this.store) < this.movePages) return;
    this.isMoving = true;
    this.thread ??= this.start();
    this.thread.postMessage('move');
  }

  private start(): Worker {
    const thread = startThread('database/checkpointer-thread', 'checkpointer-thread', {
      workerData: { folder: this.store.folder },
    });
    this.ended = new Promise((resolve) => thread.once('exit', () => resolve()));
    thread.on('message', () => {
      this.isMoving = false;
    });
    // it is not tried again: the writer moves the log then, as it does without a thread
    thread.on('error', () => undefined);
    return thread;
  }

  /** Ends once the thread has put down what it was at. */
  async end(): Promise<void> {
    this.thread?.postMessage('close');
    await this.ended;
    this.thread = null;
    this.isMoving = false;
  }
}
