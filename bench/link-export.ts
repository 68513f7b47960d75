import { execFileSync } from 'node:child_process';
import { createWriteStream, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { createGzip } from 'node:zlib';
import { CutParams, cutLinks } from '../src/engine/jobs/cut';
import { type Bench, numbers, round, sized } from './figure';

const ROWS = sized('BENCH_LINK_ROWS', 20_000_000, 100_000);
/** Outside domains there are; a few of them take most of the links, as on the web. */
const DOMAINS = Math.ceil(ROWS / 16);

function* csv(): Generator<string> {
  const random = numbers(11);
  yield 'Source,Destination,Anchor,Rel\n';
  let text = '';
  let rows = 0;
  for (let page = 0; rows < ROWS; page++) {
    const site = Math.floor(random() ** 2 * 200_000);
    const from = `https://www.vale${site.toString(36)}notes.org/pages/${page.toString(36)}.html`;
    for (let link = Math.floor(random() * 40); link >= 0 && rows < ROWS; link--, rows++) {
      const target = Math.floor(random() ** 3 * DOMAINS);
      const to =
        random() < 0.4
          ? `https://www.vale${site.toString(36)}notes.org/pages/${Math.floor(random() * 5000)}.html`
          : `http://hive${target.toString(36)}.${target % 3 ? 'com' : 'co.uk'}/about/${target % 50}`;
      text += `${from},${to},"honey, wax and ${link}",${link % 5 ? '' : 'nofollow'}\n`;
    }
    if (text.length > 1 << 18) {
      yield text;
      text = '';
    }
  }
  yield text;
}

/** A link export cut to outside domains, against `zcat`, `cut` and `sort -u` on the column of targets. */
export const linkExport: Bench = async (log) => {
  const folder = mkdtempSync(join(tmpdir(), 'bench-links-'));
  const path = join(folder, 'links.csv.gz');
  log(`writing an export of ${ROWS.toLocaleString('en')} rows`);
  await pipeline(Readable.from(csv()), createGzip({ level: 1 }), createWriteStream(path));
  let memory = 0;
  const watch = setInterval(() => {
    memory = Math.max(memory, process.memoryUsage().rss);
  }, 50);
  const started = performance.now();
  const cpu = process.cpuUsage();
  const { cut, rows } = await cutLinks(
    { signal: new AbortController().signal, progress: () => undefined },
    CutParams.parse({ path, columns: ['from', 'to', 'anchor', 'rel'], excludedEndings: ['co.uk'] }),
  );
  const { user, system } = process.cpuUsage(cpu);
  const seconds = (performance.now() - started) / 1000;
  const busy = (user + system) / 1e6;
  clearInterval(watch);
  const { kept, inside, unreadable } = cut.counts;
  if (rows !== ROWS || kept + inside + unreadable !== ROWS)
    throw new Error(`${rows} rows were read, ${JSON.stringify(cut.counts)}`);

  log('the same column by zcat, cut and sort -u');
  const baseStarted = performance.now();
  const script = `zcat ${path} | cut -d, -f2 | LC_ALL=C sort -u -S 400M | wc -l`;
  execFileSync('sh', ['-c', script]);
  const base = (performance.now() - baseStarted) / 1000;
  rmSync(folder, { recursive: true });
  return [
    { name: 'link-export', value: round(ROWS / seconds), unit: 'rows/s', baseline: round(ROWS / base), ratio: round(base / seconds, 2), goal: 'none beside the next', met: true },
    { name: 'link-export-per-core', value: round(ROWS / busy), unit: 'rows per second of processor time', baseline: null, ratio: null, goal: 'at least 350,000', met: ROWS / busy >= 350_000 },
    { name: 'link-export-memory', value: Math.round(memory / 2 ** 20), unit: 'MB', baseline: null, ratio: null, goal: 'under 1,536 MB', met: memory < 1.5 * 2 ** 30 },
  ]; // biome-ignore format: a figure a line
};
