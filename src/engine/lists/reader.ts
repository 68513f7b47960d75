import { JobError } from '../runner/context';
import { startThread } from '../runner/threads';
import type { ListParams, ListPart } from './read-list';

export type FromReader =
  | { type: 'part'; part: ListPart }
  | { type: 'end' }
  | { type: 'failed'; message: string; isForPeople: boolean };
export type ToReader = 'taken' | 'stop';

/**
 * Reads a list in a thread of its own, so that reading and writing go on at the same time.
 *
 * @throws JobError as readList does.
 */
export async function* partsFromThread(params: ListParams, skip: number): AsyncGenerator<ListPart> {
  const worker = startThread('lists/thread', 'list-thread', {
    workerData: { params, skip },
    resourceLimits: { maxOldGenerationSizeMb: 512 },
  });
  const queue: FromReader[] = [];
  let wake: () => void = () => undefined;
  const put = (message: FromReader) => {
    queue.push(message);
    wake();
  };
  worker.on('message', put);
  worker.on('error', (error) => put({ type: 'failed', message: error.message, isForPeople: false }));
  worker.on('exit', () => put({ type: 'failed', message: 'the reading thread ended early', isForPeople: false }));
  try {
    for (;;) {
      const message = queue.shift();
      if (!message) {
        await new Promise<void>((resolve) => {
          wake = resolve;
        });
        continue;
      }
      if (message.type === 'end') return;
      if (message.type === 'failed')
        throw message.isForPeople ? new JobError(message.message) : new Error(message.message);
      yield message.part;
      worker.postMessage('taken' satisfies ToReader);
    }
  } finally {
    worker.removeAllListeners('exit');
    await worker.terminate();
  }
}
