import { execFileSync } from 'node:child_process';
import { createWriteStream, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { compareZones, ZonesParams } from '../src/engine/jobs/zones';
import { type Bench, round, sized } from './figure';

/** Records a side; two a name. */
const RECORDS = sized('BENCH_ZONE_RECORDS', 10_000_000, 100_000);

/** Names in an order of their own for each copy; every hundredth is missing from the newer. */
function* zone(isNewer: boolean): Generator<string> {
  yield '$ORIGIN org.\n$TTL 86400\n@ IN SOA a.nic.org. hostmaster.nic.org. ( 1 1800 900 604800 86400 )\n';
  const names = RECORDS / 2;
  let text = '';
  for (let i = 0; i < names; i++) {
    const number = (i * 7919 + (isNewer ? 13 : 0)) % names;
    if (isNewer && number % 100 === 0) continue;
    const name = `vale${number.toString(36)}hive`;
    text += `${name} 172800 IN NS ns1.host${number % 97}.net.\n${name} 172800 IN NS ns2.host${number % 97}.net.\n`;
    if (text.length > 1 << 18) {
      yield text;
      text = '';
    }
  }
  yield text;
}

/** Two copies of a zone against `sort` and `comm` on their first columns. */
export const zonePair: Bench = async (log) => {
  const folder = mkdtempSync(join(tmpdir(), 'bench-zone-'));
  const [older, newer] = ['older', 'newer'].map((name) => join(folder, name));
  log(`writing two copies of ${RECORDS.toLocaleString('en')} records`);
  await pipeline(Readable.from(zone(false)), createWriteStream(older));
  await pipeline(Readable.from(zone(true)), createWriteStream(newer));
  let memory = 0;
  const watch = setInterval(() => {
    memory = Math.max(memory, process.memoryUsage().rss);
  }, 50);
  const started = performance.now();
  const found = await compareZones(
    { signal: new AbortController().signal, progress: () => undefined },
    ZonesParams.parse({ older, newer, parking: ['parkvale.com'] }),
  );
  const seconds = (performance.now() - started) / 1000;
  clearInterval(watch);
  const expected = Math.ceil(RECORDS / 200);
  if (found.changes.length !== expected) throw new Error(`${found.changes.length} changes instead of ${expected}`);

  log('the same by sort and comm');
  const baseStarted = performance.now();
  const column = (path: string) => `cut -d' ' -f1 ${path} | LC_ALL=C sort -u -S 400M > ${path}.names`;
  const script = `${column(older)}; ${column(newer)}; LC_ALL=C comm -23 ${older}.names ${newer}.names | wc -l`;
  const gone = Number(execFileSync('sh', ['-c', script]));
  const base = (performance.now() - baseStarted) / 1000;
  rmSync(folder, { recursive: true });
  if (gone !== expected) throw new Error(`the baseline found ${gone} names gone`);
  return [
    { name: 'zone-pair', value: round(found.records / seconds), unit: 'records/s', baseline: round(found.records / base), ratio: round(base / seconds, 2), goal: 'none of time; 10,000,000 records a side', met: true },
    { name: 'zone-pair-memory', value: Math.round(memory / 2 ** 20), unit: 'MB', baseline: null, ratio: null, goal: 'within 1,024 MB', met: memory < 2 ** 30 },
  ]; // biome-ignore format: a figure a line
};
