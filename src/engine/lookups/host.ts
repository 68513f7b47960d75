import type { Worker } from 'node:worker_threads';
import type { Logger } from 'pino';
import { startThread } from '../runner/threads';

const RESTART_MS = 1000;
const STOP_MS = 4000;

/** Keeps the lookup scheduler's thread alive. */
export class SchedulerHost {
  private worker: Worker | null = null;
  private isStopping = false;

  /** @param changed told which domains were written. */
  constructor(
    private readonly folder: string,
    private readonly log: Logger,
    private readonly changed: (ids: Uint32Array) => void,
  ) {}

  start(): void {
    const worker = startThread('lookups/thread', 'lookups-thread', { workerData: { folder: this.folder } });
    this.worker = worker;
    worker.on('message', (ids: Uint32Array) => this.changed(ids));
    worker.on('error', (error) => this.log.error({ err: error }, 'the lookup scheduler died; it is started again'));
    worker.on('exit', () => {
      if (!this.isStopping) setTimeout(() => !this.isStopping && this.start(), RESTART_MS);
    });
  }

  stop(): Promise<void> {
    this.isStopping = true;
    const { worker } = this;
    if (!worker) return Promise.resolve();
    return new Promise((done) => {
      worker.once('exit', () => done());
      worker.postMessage('stop');
      setTimeout(() => void worker.terminate(), STOP_MS).unref();
    });
  }
}
