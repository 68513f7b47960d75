import { parentPort, workerData } from 'node:worker_threads';
import { openStore } from '../../store/base/database';
import { openLog } from '../log';
import { Asker } from './scheduler';

/** Runs the asker in a thread of its own: a hundred thousand DNS answers must not keep a question to the pool waiting. */
async function main(): Promise<void> {
  const port = parentPort;
  if (!port) throw new Error('this file runs as a worker thread of the engine');
  const { folder } = workerData as { folder: string };
  const store = await openStore(folder, { migrate: false });
  const asker = new Asker(store, openLog(folder, 'asker'), (ids) => port.postMessage(Uint32Array.from(ids)));
  asker.start();
  port.on('message', async () => {
    await asker.stop();
    await store.close();
    port.close();
  });
}

void main();
