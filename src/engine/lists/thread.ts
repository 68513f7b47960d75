import { parentPort, workerData } from 'node:worker_threads';
import { batchBuffers } from '../../core/formats/list-batch';
import { Refusal } from '../../core/refusal';
import { type ListParams, readList } from './read-list';
import type { FromReader, ToReader } from './reader';

/** Parts on the way to the writer: more than a window's, so that the next is read while one is written. */
const AHEAD = 70;

async function main(): Promise<void> {
  const port = parentPort;
  if (!port) throw new Error('this file runs as a thread of a list import');
  const { params, skip } = workerData as { params: ListParams; skip: number };
  const send = (message: FromReader, buffers: ArrayBuffer[] = []) => port.postMessage(message, buffers);
  let room = AHEAD;
  let isStopped = false;
  let wake: () => void = () => undefined;
  port.on('message', (message: ToReader) => {
    if (message === 'stop') isStopped = true;
    else room++;
    wake();
  });
  try {
    await readList(params, skip, async (part) => {
      while (room === 0 && !isStopped)
        await new Promise<void>((resolve) => {
          wake = resolve;
        });
      if (isStopped) return false;
      room--;
      send({ type: 'part', part }, batchBuffers(part.batch));
      return true;
    });
    send({ type: 'end' });
  } catch (error) {
    const { message } = error as Error;
    send({ type: 'failed', message, isForPeople: error instanceof Refusal });
  } finally {
    port.close();
  }
}

void main();
