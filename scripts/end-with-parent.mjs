// Preloaded into every child of the supervisor: when the supervisor is gone, however it went, its end of our standard input
// closes, and we stop as if asked to. Else a killed supervisor would leave an engine behind that holds the data folder.
import { isMainThread } from 'node:worker_threads';

if (isMainThread) {
  const stop = () => process.kill(process.pid, 'SIGTERM');
  process.stdin.on('end', stop);
  process.stdin.on('error', stop);
  process.stdin.resume();
}
