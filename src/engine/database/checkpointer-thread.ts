import { parentPort, workerData } from 'node:worker_threads';
import { moveLog, openStore } from '../../store/base/database';

/** Moves what stands in the database's log into the database, each time it is told to, and says when it has. */
async function main(): Promise<void> {
  const port = parentPort;
  if (!port) throw new Error('this file runs as a worker thread of the engine');
  const store = await openStore((workerData as { folder: string }).folder, { migrate: false });
  port.on('message', (message: 'move' | 'close') => {
    if (message === 'move') {
      moveLog(store);
      port.postMessage('moved');
    } else void store.close().then(() => port.close());
  });
}

void main();
