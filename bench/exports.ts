import { EXPORT_FORMATS, type ExportFormat } from '../src/core/formats/exports';
import type { DomainView } from '../src/core/pool/domain-view';
import { domainColumns } from '../src/core/pool/export-columns';
import { rowsOfColumns } from '../src/core/pool/row-columns';
import { exportTable } from '../src/services/exports/table';
import { type Bench, type Figure, IS_SMALL, round, sized } from './figure';

const ROWS = sized('BENCH_EXPORT_ROWS', 3_000_000, 3000);
/** Memory may not be more at the end than after a tenth of the rows, but for what the collector has not got to. */
const MOST_GROWTH_MB = 100;
const LOOK_MS = 20;

/** Rows of the pool with all their columns, a few of them known. */
async function* rows(): AsyncGenerator<DomainView> {
  const [bare] = rowsOfColumns({ id: [1], name: ['tarnhives.org'], fields: {} });
  for (let n = 0; n < ROWS; n++) {
    const price = n % 7 === 0 ? { priceMinor: n, currency: 'EUR' } : null;
    yield { ...bare, id: n, name: `vale${n}hives.org`, strength: n % 100, referringDomains: n % 900, registeredAt: 1.2e12 + n * 1000, ...price }; // biome-ignore format: one row
    // as they come from the database: a thousand, then the others' turn
    if (n % 1000 === 0) await new Promise((resolve) => setImmediate(resolve));
  }
}

async function timed(format: ExportFormat) {
  const memory: number[] = [];
  let stall = 0;
  let last = performance.now();
  const looking = setInterval(() => {
    const now = performance.now();
    stall = Math.max(stall, now - last - LOOK_MS);
    last = now;
    memory.push(process.memoryUsage().rss / 2 ** 20);
  }, LOOK_MS);
  const started = performance.now();
  let bytes = 0;
  for await (const part of exportTable('pool', domainColumns(null), rows()).as(format))
    bytes += (part as Buffer).length;
  clearInterval(looking);
  const grown = (memory.at(-1) ?? 0) - (memory[Math.floor(memory.length / 10)] ?? 0);
  return { seconds: (performance.now() - started) / 1000, mb: bytes / 2 ** 20, stall, grown };
}

/** The pool as a file in each format, from its rows to the last byte: how fast, in how much memory, and how long nobody else has a turn. */
export const exports: Bench = async (log) => {
  const figures: Figure[] = [];
  let grown = 0;
  let stall = 0;
  let plain = 0;
  for (const format of EXPORT_FORMATS) {
    log(format);
    const found = await timed(format);
    log(`${format}: ${round(found.grown)} MB more at the end, ${round(found.stall)} ms without a turn`);
    grown = Math.max(grown, found.grown);
    stall = Math.max(stall, found.stall);
    const rate = ROWS / found.seconds;
    if (format === 'csv') plain = rate;
    figures.push({
      name: `export-${format}`,
      value: Math.round(rate),
      unit: `rows/s of ${domainColumns(null).length} columns, ${round(found.mb)} MB`,
      baseline: Math.round(plain),
      ratio: round(rate / plain, 2),
      goal: 'none; baseline: CSV',
      met: true,
    });
  }
  return [
    ...figures,
    { name: 'export-memory', value: round(grown), unit: `MB more after ${ROWS.toLocaleString('en')} rows than after a tenth of them, at most`, baseline: null, ratio: null, goal: `flat: at most ${MOST_GROWTH_MB} MB`, met: IS_SMALL || grown <= MOST_GROWTH_MB },
    { name: 'export-stall', value: round(stall), unit: 'ms without a turn for others, at most', baseline: null, ratio: null, goal: 'at most 250 ms', met: IS_SMALL || stall <= 250 },
  ]; // biome-ignore format: a figure a line
};
