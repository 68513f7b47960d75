import { beliefOfRange } from '../src/core/bids/belief';
import { pack } from '../src/core/bids/knapsack';
import { type Candidate, planBids } from '../src/core/bids/plan';
import { normalizeAddress } from '../src/core/crawl/address';
import { Scope } from '../src/core/crawl/scope';
import { viewPage } from '../src/core/history/page-view';
import { tallyLog } from '../src/core/redirects/access-log';
import { termsOf } from '../src/core/topics/terms';
import { type Bench, type Figure, round } from './figure';

/** Something that takes longest on input that is made for it, by the size of the input. */
interface Worst {
  name: string;
  what: string;
  size: number;
  goalMs: number;
  run(size: number): void;
}

const NOW = Date.UTC(2026, 10, 20);
const LINE = '198.51.100.7 - - [26/Nov/2026:23:40:01 +0100] "GET ';

const WORST: Worst[] = [
  {
    name: 'page-title',
    what: 'a page whose title has a million letters',
    size: 1_000_000,
    goalMs: 1000,
    run: (size) => viewPage(`<title>${'x'.repeat(size)}</title><a href="/">${'y'.repeat(size / 10)}</a>`),
  },
  { name: 'terms-words', what: 'a text of three million words', size: 3_000_000, goalMs: 1000, run: (size) => termsOf('bee '.repeat(size)) },
  { name: 'terms-signs', what: 'a text of 150,000 apostrophes', size: 150_000, goalMs: 1000, run: (size) => termsOf('’'.repeat(size)) },
  {
    name: 'log-line',
    what: 'a line of a log that never ends its address, and one of nothing but quotes',
    size: 40_000,
    goalMs: 200,
    run: (size) => tallyLog([`${LINE}${'/a'.repeat(size)}`, `"${'\\"'.repeat(size / 4)}`]),
  },
  { name: 'path-pattern', what: 'a pattern that makes others run for ever', size: 1500, goalMs: 500, run: refusePath },
  { name: 'bid-plan-classes', what: '200 classes of 12 ways', size: 200, goalMs: 1000, run: (size) => pack(classesOf(size), 400_000) },
  { name: 'bid-plan-auctions', what: '200 candidates in auctions', size: 200, goalMs: 1000, run: planAuctions },
]; // biome-ignore format: a case a line where it is short

/** Inputs that are made to take long, against half of each: what doubles with its input takes twice as long, not four times. */
export const worstInputs: Bench = async (log) =>
  WORST.map(({ name, what, size, goalMs, run }): Figure => {
    const half = least(() => run(size / 2));
    const whole = least(() => run(size));
    log(what);
    return {
      name: `worst-${name}`,
      value: round(whole, 1),
      unit: `ms for ${what}`,
      baseline: round(half, 1),
      ratio: round(whole / Math.max(0.1, half), 2),
      goal: `at most ${goalMs} ms; baseline: half of it`,
      met: whole <= goalMs,
    };
  });

/** The quickest of three runs, ms. */
function least(run: () => void): number {
  return Math.min(
    ...Array.from({ length: 3 }, () => {
      const started = performance.now();
      run();
      return performance.now() - started;
    }),
  );
}

function refusePath(letters: number): void {
  const scope = new Scope({ subdomains: 'inside', query: 'few', pathsIn: [], pathsOut: ['^/(a+)+$'] }, NOW);
  const address = normalizeAddress(`http://pellgate.org/${'a'.repeat(letters)}!`);
  if (!address) throw new Error('that is an address');
  scope.refuse(address);
}

function classesOf(count: number) {
  let seed = 7;
  const random = () => {
    seed = (seed * 1_103_515_245 + 12_345) & 0x7fffffff;
    return seed / 0x7fffffff;
  };
  return Array.from({ length: count }, () => {
    const worth = 2000 + 200_000 * random() ** 4;
    return Array.from({ length: 12 }, (_, k) => {
      const cost = Math.round(worth * (0.1 + 0.07 * k) * (0.8 + 0.4 * random()));
      return { cost, gain: Math.round(worth * (1 - 0.6 ** (k + 1)) * (0.5 + random())) };
    });
  });
}

function planAuctions(count: number): void {
  const candidates = Array.from(
    { length: count },
    (_, id): Candidate => ({
      id,
      name: `vale${id}.org`,
      worth: beliefOfRange(5000 + ((id * 31) % 20_000), 30_000 + ((id * 17) % 40_000)),
      offers: [
        {
          kind: 'auction',
          feesMinor: 1500,
          closingAt: id,
          rivals: {
            highest: { medianMinor: 3000 + ((id * 104_729) % 40_000), sigma: 0.6 },
            floorMinor: 500 + ((id * 7919) % 9000),
            stepMinor: 100,
            affiliation: 0,
          },
        },
      ],
      capMinor: null,
    }),
  );
  planBids(candidates, 300_000, { risk: 'even', margin: 0, renewalMinor: 0, months: 0, interest: 0 });
}
