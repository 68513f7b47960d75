import { monitorEventLoopDelay } from 'node:perf_hooks';
import { openStore } from '../src/store/base/database';
import { readDomains } from '../src/store/domains/domains';
import { noteVisit } from '../src/store/domains/marks';
import { listSources } from '../src/store/sources/sources';

/** Reads and writes as the interface does while an import runs, until its input ends; then prints the event loop's delay, p99, ms. */
const store = await openStore(process.argv[2], { migrate: false });
const delay = monitorEventLoopDelay({ resolution: 5 });
let at = Date.now();
let passes = 0;
const timer = setInterval(() => {
  listSources(store);
  if (++passes % 5 === 0) {
    at += 60_000;
    noteVisit(store, at);
  }
  const last = store.raw.prepare('SELECT coalesce(max(id), 0) FROM domains').pluck().get() as number;
  readDomains(
    store,
    Array.from({ length: 60 }, (_, i) => Math.max(1, last - i * 40)),
  );
}, 100);
delay.enable();
process.stdout.write('ready\n');
process.stdin.resume();
process.stdin.on('end', () => {
  clearInterval(timer);
  process.stdout.write(`${delay.percentile(99) / 1e6 - 5}\n`);
  process.exit(0);
});
