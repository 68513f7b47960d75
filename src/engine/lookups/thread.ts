import { parentPort, workerData } from 'node:worker_threads';
import { openStore } from '../../store/base/database';
import { openLog } from '../log';
import { LookupScheduler } from './scheduler';

/** Runs the lookup scheduler in a thread of its own: a hundred thousand DNS answers must not keep a question to the pool waiting. */
async function main(): Promise<void> {
  const port = parentPort;
  if (!port) throw new Error('this file runs as a worker thread of the engine');
  const { folder } = workerData as { folder: string };
  const store = await openStore(folder, { migrate: false, isDurable: false });
  const lookups = new LookupScheduler(store, openLog(folder, 'lookups'), (ids) =>
    port.postMessage(Uint32Array.from(ids)),
  );
  lookups.start();
  port.on('message', async () => {
    await lookups.stop();
    await store.close();
    port.close();
  });
}

void main();
