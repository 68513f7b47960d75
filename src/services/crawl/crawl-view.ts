import { CrawlBudgets } from '../../core/crawl/params';
import type { Store } from '../../store/base/database';
import { jobsOfSource } from '../../store/base/jobs';
import {
  countPages,
  crawlFunnel,
  pageKinds,
  pageTroubles,
  samplesOf,
  siteYields,
  unreadSeeds,
} from '../../store/crawl/crawl-report';
import { trapsOf } from '../../store/crawl/sites';
import { readSource } from '../../store/sources/sources';
import { jobView } from '../pool/views';

/** A view is kept ten times as long as it took to make, so that a large crawl's figures do not hold up the server. */
const KEEP_FACTOR = 10;
const keptOf = new WeakMap<Store, Map<number, { until: number; view: CrawlView | null }>>();

/** All that is known of a crawl, for its screen and for scripts; null when the source is no crawl. */
export function crawlView(store: Store, sourceId: number): CrawlView | null {
  const started = performance.now();
  const kept = keptOf.get(store) ?? new Map();
  keptOf.set(store, kept);
  const found = kept.get(sourceId);
  if (found && found.until > started) return found.view;
  const view = makeView(store, sourceId);
  const now = performance.now();
  kept.set(sourceId, { until: now + KEEP_FACTOR * (now - started), view });
  return view;
}

function makeView(store: Store, sourceId: number) {
  const source = readSource(store, sourceId);
  if (source?.kind !== 'crawl') return null;
  const jobs = jobsOfSource(store, sourceId);
  const last = jobs.filter((job) => job.kind === 'crawl').at(-1);
  return {
    job: last ? jobView(last) : null,
    budgets: CrawlBudgets.parse(last?.params ?? {}),
    seeds: Array.isArray(last?.params.seeds) ? last.params.seeds.length : 0,
    counts: countPages(store, sourceId),
    funnel: crawlFunnel(store, sourceId),
    sites: siteYields(store, sourceId),
    traps: trapsOf(store, sourceId),
    kinds: pageKinds(store, sourceId),
    troubles: pageTroubles(store, sourceId),
    unread: unreadSeeds(store, sourceId),
    samples: samplesOf(store, sourceId),
  };
}
export type CrawlView = NonNullable<ReturnType<typeof makeView>>;
