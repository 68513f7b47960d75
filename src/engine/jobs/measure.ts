import { z } from 'zod';
import { summarizePast } from '../../core/history/timemap';
import { buildGraph } from '../../core/links/graph';
import { pathsFromTrusted, rankScale, strengthAndTrust } from '../../core/links/pagerank';
import { registrableDomain } from '../../core/names/domain';
import { scoreSpam } from '../../core/spam/rules';
import { ArchiveClient } from '../../net/archive';
import { NetError } from '../../net/errors';
import { HttpClient } from '../../net/http';
import { Pacer } from '../../net/pacer';
import { listBriefs } from '../../store/briefs';
import { write } from '../../store/database';
import { findDomain, pendingPasts, putPast, readDomains } from '../../store/domains';
import { addMeasurement, eachLinkTotal, putMeasure, readEdges, readersByDomain, spamLinksOf } from '../../store/links';
import { inParallel } from '../checker';
import { type JobContext, RateMeter, throwIfStopped } from '../context';

/** Whose past to ask for: the lapsed domains of a source, or some by id. Links are measured for all. */
export const MeasureParams = z.object({
  sourceId: z.number().optional(),
  ids: z.array(z.number()).optional(),
  /** Pasts that were asked for after this stay, ms since 1970 UTC; absent: the job's beginning. */
  since: z.number().optional(),
});

const BATCH = 500;
const ARCHIVE_AT_ONCE = 4;
const DAY = 86_400_000;

/** The past from the archive, then strength, trust and spam risk from all links known. */
export async function runMeasure(context: JobContext): Promise<void> {
  await measurePast(context);
  measureLinks(context);
}

async function measurePast(context: JobContext): Promise<void> {
  const { store, job, settings, signal } = context;
  if (settings.archiveTimeMap === '') return;
  const params = MeasureParams.parse(job.params);
  const wanted = pendingPasts(store, params, params.since ?? job.createdAt);
  const http = new HttpClient({
    userAgent: settings.userAgent,
    connector: store.config.connector,
    allowedPrivate: settings.allowedPrivate,
  });
  const archive = new ArchiveClient(http, new Pacer({ intervalMs: 5, maxIntervalMs: 60_000 }), settings.archiveTimeMap);
  const meter = new RateMeter();
  let done = 0;
  try {
    await inParallel(wanted, ARCHIVE_AT_ONCE, async ({ id, name }) => {
      throwIfStopped(signal);
      try {
        const { mementos, server } = await archive.timeMap(`http://${name}/`, signal);
        const past = summarizePast(mementos.map((memento) => memento.at));
        write(store, () =>
          putPast(store, id, store.now(), {
            firstSeenAt: past?.firstSeenAt ?? null,
            lastSeenAt: past?.lastSeenAt ?? null,
            captures: past?.captures ?? 0,
            byYear: past?.byYear ?? [],
            source: server,
          }),
        );
        context.changed([id]);
      } catch (error) {
        if (!(error instanceof NetError) || signal.aborted) throw error;
        context.log.warn({ name, error: error.message }, 'the archive gave no answer');
      }
      done++;
      context.progress({
        done,
        total: wanted.length,
        unit: 'domains',
        rate: meter.rate(done),
        message: 'asking the archive',
      });
    });
  } finally {
    await http.close();
  }
}

function measureLinks(context: JobContext): void {
  const { store, signal } = context;
  context.progress({ done: 0, total: null, unit: 'domains', rate: 0, message: 'walking the link graph' });
  const edges = readEdges(store);
  const nodeOf = new Map<number, number>();
  const ids: number[] = [];
  const node = (id: number): number => {
    let found = nodeOf.get(id);
    if (found === undefined) {
      found = ids.length;
      ids.push(id);
      nodeOf.set(id, found);
    }
    return found;
  };
  const from = edges.from.map(node);
  const to = edges.to.map(node);
  const trustedNames = [...new Set(listBriefs(store).flatMap((brief) => brief.trustedSites))];
  const trusted = trustedNames.flatMap((name) => {
    const row = registrableDomain(name) && findDomain(store, name);
    return row && nodeOf.has(row.id) ? [node(row.id)] : [];
  });
  const graph = buildGraph(ids.length, from, to);
  const { strength, trust } = strengthAndTrust(graph, trusted);
  const previous = pathsFromTrusted(graph, trusted);
  const at = store.now();
  addMeasurement(store, {
    at,
    nodes: graph.nodeCount,
    edges: graph.sources.length,
    steps: strength.steps,
    change: strength.change,
    trusted: trustedNames,
    floor: strength.floor,
  });

  const readers = readersByDomain(store);
  const totals = [...eachLinkTotal(store)];
  const meter = new RateMeter();
  for (let start = 0; start < totals.length; start += BATCH) {
    throwIfStopped(signal);
    const part = totals.slice(start, start + BATCH);
    const rows = new Map(
      readDomains(
        store,
        part.map((total) => total.toId),
      ).map((row) => [row.id, row]),
    );
    write(store, () => {
      for (const total of part) {
        const row = rows.get(total.toId);
        if (!row) continue;
        const at_ = nodeOf.get(total.toId);
        const rank = at_ === undefined ? null : strength.rank[at_];
        const trusting = at_ === undefined || !trust ? null : trust.rank[at_];
        const card = scoreSpam({
          name: row.name,
          links: row.in_pool ? spamLinksOf(store, row.id) : [],
          strengthRank: rank,
          trustRank: trusting,
          drops: knownDrops(row.first_seen_at, row.registered_at),
        });
        putMeasure(
          store,
          {
            id: row.id,
            backlinks: total.backlinks,
            referringDomains: total.referringDomains,
            strength: rank === null ? 0 : round(rankScale(rank, strength.floor)),
            trust: trust === null ? null : round(rankScale(trusting ?? 0, strength.floor)),
            spamRisk: row.in_pool ? card.risk : null,
            trustPath: at_ === undefined ? null : pathOf(previous, at_, (step) => nameOf(context, ids[step])),
            readers: readers.get(total.toId) ?? null,
            card,
          },
          at,
        );
      }
    });
    context.changed(part.map((total) => total.toId));
    const done = start + part.length;
    context.progress({
      done,
      total: totals.length,
      unit: 'domains',
      rate: meter.rate(done),
      message: 'writing measures',
    });
  }
  const { nodeCount, sources } = graph;
  const size = `${nodeCount.toLocaleString('en')} domains and ${sources.length.toLocaleString('en')} links`;
  const message = `strength and trust from one walk over ${size}`;
  context.progress({ done: totals.length, total: totals.length, unit: 'domains', rate: 0, message });
}

/** Content in the archive from well before the present registration means that the name was dropped between. */
function knownDrops(firstSeenAt: number | null, registeredAt: number | null): number | null {
  if (firstSeenAt === null || registeredAt === null) return null;
  return firstSeenAt < registeredAt - 90 * DAY ? 1 : 0;
}

function pathOf(previous: Int32Array, node: number, name: (node: number) => string): string[] | null {
  if (previous[node] === -2) return null;
  const path: string[] = [];
  for (let at = node; at >= 0 && path.length < 50; at = previous[at]) path.push(name(at));
  return path.reverse();
}

function nameOf(context: JobContext, id: number): string {
  return readDomains(context.store, [id])[0]?.name ?? '';
}

function round(value: number): number {
  return Math.round(value * 10) / 10;
}
