import { setMaxListeners } from 'node:events';
import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';
import type { Logger } from 'pino';
import { z } from 'zod';
import { issuesOf } from '../contracts/issues';
import { ReferrerCutsSchema } from '../core/crawl/params';
import { LINK_FIELDS } from '../core/formats/link-rows';
import { LIST_FIELDS } from '../core/formats/list-fields';
import { REFERRER_FIELDS } from '../core/formats/referrer-fields';
import { ORDER_KINDS } from '../core/orders/order';
import type { SievePart } from '../core/pool/conditions';
import { FACT_NAMES, type FactName, MEMBER_FACTS, type MemberFact } from '../core/pool/facts';
import { REFUSALS, Refusal, refusalOf } from '../core/refusal';
import { JOB_KINDS } from '../core/work/job-kinds';
import { readRates, readSettings, type Store, write } from '../store/base/database';
import type { JobOrder } from '../store/base/jobs';
import { domainsWithOffers, settleListing } from '../store/offers/listings';
import { happen } from '../store/orders/orders';
import { readDigest } from '../store/pool/sieves';
import { readResale } from '../store/portfolio/resales';
import { linksOf } from './crawl/page-check';
import { prepareRestore } from './database/restore';
import { importReferrers, previewReferrers } from './files/referrers';
import { lookAtVenue } from './files/venue-preview';
import { lookAtLinks, rememberLinks } from './lists/cut-preview';
import { lookAtList, rememberList } from './lists/preview';
import { confirm } from './lookups/confirm';
import { refit, unfit } from './measures/refit';
import { Valuer } from './measures/worth';
import type { Digest } from './notify/digest';
import type { Outbox } from './orders/outbox';
import { OrderRefused, place, termsOf } from './orders/place';
import { ActSchema, act, idsOf, undoAction, WhichSchema } from './pool/actions';
import type { PoolHost } from './pool/host';
import { readName, subjectsOfNames } from './pool/name-facts';
import type { SieveRunner } from './pool/sieve-runner';
import type { EngineEvent, EngineHealth } from './protocol';
import type { JobRunner } from './runner/runner';
import type { Counter } from './selling/counter';

const Fact = z.enum(FACT_NAMES as [FactName, ...FactName[]]);
const Parts = z.array(z.custom<SievePart>((value) => typeof value === 'object' && value !== null && 'type' in value));
const Query = z.object({
  parts: Parts,
  sorts: z.array(z.object({ fact: Fact, descending: z.boolean() })),
  offset: z.number().int().min(0),
  limit: z.number().int().min(0).max(5_000_000),
  histograms: z.array(z.string()),
  anchor: z.number().int().nullable().optional(),
  withExcluded: z.boolean().optional(),
});
const Members = z.object({
  fact: z.enum(MEMBER_FACTS as [MemberFact, ...MemberFact[]]),
  set: z.number().int(),
  ids: z.array(z.number().int()).nullable(),
  isIn: z.boolean(),
});
const Order: z.ZodType<JobOrder> = z.object({
  kind: z.enum(JOB_KINDS),
  sourceId: z.number().int().nullable(),
  params: z.record(z.string(), z.unknown()),
  get next() {
    return z.array(Order).optional();
  },
});

const ReferrerLook = z.object({
  path: z.string(),
  columns: z.array(z.enum(REFERRER_FIELDS)).optional(),
  cuts: ReferrerCutsSchema,
});
const ReferrerImport = z.object({
  path: z.string(),
  name: z.string(),
  columns: z.array(z.enum(REFERRER_FIELDS)),
  cuts: ReferrerCutsSchema,
  to: z.enum(['seeds', 'pool']),
});

const Preview = z.object({
  path: z.string(),
  given: z.object({
    delimiter: z.string().length(1).optional(),
    hasHeader: z.boolean().optional(),
    columns: z.array(z.enum(LIST_FIELDS)).optional(),
  }),
});

const CutPreview = z.object({
  path: z.string(),
  given: Preview.shape.given.extend({ columns: z.array(z.enum(LINK_FIELDS)).optional() }),
});

const Wish = z.object({
  briefId: z.number().int(),
  domainId: z.number().int(),
  venue: z.string().min(1).max(120),
  kind: z.enum(ORDER_KINDS),
  amountMinor: z.number().int().positive().max(1e12),
  currency: z.string().optional(),
  sendAt: z.number().nullable().optional(),
  clientKey: z.string().max(100).nullable().optional(),
  estimates: z
    .object({ winChance: z.number(), worthLowMinor: z.number(), worthHighMinor: z.number() })
    .partial()
    .optional(),
});
const Outcome = z.object({
  id: z.number().int(),
  outcome: z.enum(['won', 'lost', 'withdrawn']),
  priceMinor: z.number().int().min(0).nullable(),
});
/** How long who gave an order waits for the venue's word; the order goes on without. */
const WORD_MS = 6000;
/** Until an answer has gone out. */
const ANSWERED_MS = 100;

const OFFERS_AT_ONCE = 500;
const MAX_BODY_BYTES = 16 * 1024 * 1024;
const EVENT_PAUSE_MS = 200;
const PAGE_CHECK_MS = 40_000;

/** The engine's own interface: JSON over loopback, for the web process only, which knows the token. */
export class EngineServer {
  private readonly server: Server;
  private readonly listeners = new Set<ServerResponse>();
  /** Latest event of each kind, sent at most every EVENT_PAUSE_MS. */
  private readonly waiting = new Map<string, EngineEvent>();
  private readonly startedAt = Date.now();
  state: EngineHealth['state'] = 'starting';

  private readonly valuer: Valuer;

  /** What ends the engine, so that it starts again with a copy in place. */
  onRestore: (() => void) | null = null;

  constructor(
    private readonly store: Store,
    private readonly pool: PoolHost,
    private readonly runner: JobRunner,
    private readonly sieves: SieveRunner,
    private readonly digest: Digest,
    private readonly venues: { outbox: Outbox; counter: Counter },
    private readonly token: string,
    private readonly log: Logger,
  ) {
    this.valuer = new Valuer(store);
    this.server = createServer((request, response) => void this.serve(request, response));
    runner.on('job', (job) => this.announce(`job ${job.id} ${job.state}`, { type: 'job', job }));
    setInterval(() => this.sendEvents(), EVENT_PAUSE_MS).unref();
  }

  listen(): Promise<number> {
    return new Promise((resolve) =>
      this.server.listen(0, '127.0.0.1', () => resolve((this.server.address() as AddressInfo).port)),
    );
  }

  close(): void {
    this.server.close();
    this.server.closeAllConnections();
  }

  announce(key: string, event: EngineEvent): void {
    this.waiting.set(key, event);
  }

  private sendEvents(): void {
    for (const event of this.waiting.values())
      for (const listener of this.listeners) listener.write(`data: ${JSON.stringify(event)}\n\n`);
    this.waiting.clear();
  }

  private async serve(request: IncomingMessage, response: ServerResponse): Promise<void> {
    if (request.headers.authorization !== `Bearer ${this.token}`)
      return reply(response, 403, refusalOf(new Refusal('wrong-origin', 'wrong token')));
    const url = new URL(request.url ?? '/', 'http://engine');
    try {
      if (request.method === 'GET' && url.pathname === '/events') return this.openEvents(request, response);
      const body = request.method === 'POST' ? JSON.parse(await readText(request)) : null;
      reply(response, 200, await this.answer(url.pathname, body));
    } catch (error) {
      const told = refusalOf(error instanceof z.ZodError ? senseless(error) : error);
      reply(response, REFUSALS[told.code].status, told);
    }
  }

  private async answer(path: string, body: unknown): Promise<unknown> {
    switch (path) {
      case '/health':
        return {
          state: this.state,
          poolSize: this.pool.size,
          poolVersion: this.pool.version,
          jobsRunning: this.runner.runningCount,
          memoryBytes: process.memoryUsage.rss(),
          startedAt: this.startedAt,
        } satisfies EngineHealth;
      case '/pool/query':
        return this.pool.query(Query.parse(body));
      case '/pool/ids': {
        const which = WhichSchema.parse(body);
        return { ids: [...(await idsOf(this.pool, which))] };
      }
      case '/pool/act': {
        const { act: what, which } = z.object({ act: ActSchema, which: WhichSchema }).parse(body);
        const acted = await act(this.store, this.pool, what, which);
        this.announcePool();
        return acted;
      }
      case '/pool/undo': {
        const { action } = z.object({ action: z.number().int() }).parse(body);
        const changed = await undoAction(this.store, this.pool, action);
        if (changed === null) throw new Refusal('not-here', 'there is nothing to undo');
        this.announcePool();
        return { changed };
      }
      case '/pool/members': {
        const { fact, set, ids, isIn } = Members.parse(body);
        if (ids === null) this.pool.dropSet(fact, set);
        else this.pool.setMembers(fact, set, ids, isIn);
        this.announcePool();
        return {};
      }
      case '/sieves/run': {
        const { id } = z.object({ id: z.number().int() }).parse(body);
        const run = await this.sieves.run(id);
        if (!run) throw new Refusal('conflict', 'the sieve is running already, or gone');
        return { total: run.total, fresh: run.fresh.length };
      }
      case '/briefs/changed':
        this.pool.rename();
        return {};
      case '/digest/make': {
        const since = readDigest(this.store)?.at ?? 0;
        return this.digest.make(since);
      }
      case '/lists/preview': {
        const { path: file, given } = Preview.parse(body);
        return lookAtList(this.store, file, given);
      }
      case '/lists/import': {
        const { path: file, given } = Preview.parse(body);
        const look = await lookAtList(this.store, file, given);
        if (given.columns) rememberList(this.store, look, given.columns);
        return look;
      }
      case '/venues/preview': {
        const { url } = z.object({ url: z.url() }).parse(body);
        return lookAtVenue(this.store, readSettings(this.store), url);
      }
      case '/cuts/preview': {
        const { path: file, given } = CutPreview.parse(body);
        return lookAtLinks(this.store, file, given);
      }
      case '/cuts/import': {
        const { path: file, given } = CutPreview.parse(body);
        const look = await lookAtLinks(this.store, file, given);
        if (given.columns) rememberLinks(this.store, look, given.columns);
        return look;
      }
      case '/settings/changed':
        await this.settingsChanged();
        return {};
      case '/pages/links': {
        const { url } = z.object({ url: z.string().max(2000) }).parse(body);
        return linksOf(this.pageContext(), url);
      }
      case '/referrers/preview': {
        const { path: file, cuts, columns } = ReferrerLook.parse(body);
        return previewReferrers(this.store, file, cuts, columns);
      }
      case '/referrers/import':
        return importReferrers(this.store, ReferrerImport.parse(body), (ids, source) => this.taken(ids, source));
      case '/domains/confirm': {
        const { id } = z.object({ id: z.number().int() }).parse(body);
        return confirm(this.store, id);
      }
      case '/orders/terms': {
        const { briefId, domainId } = z.object({ briefId: z.number().int(), domainId: z.number().int() }).parse(body);
        return termsOf(this.store, briefId, domainId);
      }
      case '/orders/place': {
        const order = place(this.store, Wish.parse(body));
        this.taken([order.domainId], null);
        this.pool.setMembers('shortlist', order.briefId, [order.domainId], true);
        const isDue = order.state === 'queued' && (order.sendAt ?? 0) <= this.store.now();
        const after = isDue ? await soon(this.venues.outbox.attend(order.id), order) : order;
        return { order: after ?? order };
      }
      case '/orders/withdraw': {
        const { id } = z.object({ id: z.number().int() }).parse(body);
        return { refusal: await this.venues.outbox.withdraw(id) };
      }
      case '/orders/outcome': {
        const { id, outcome, priceMinor } = Outcome.parse(body);
        const order = happen(this.store, id, { kind: 'hand', outcome }, 'you', null, { finalMinor: priceMinor });
        if (!order) throw new OrderRefused('it is not an order that is done by hand, or it has ended');
        this.taken([order.domainId], null);
        this.announce('orders', { type: 'orders', at: this.store.now() });
        return { order };
      }
      case '/orders/look': {
        const { id } = z.object({ id: z.number().int() }).parse(body);
        return { order: await this.venues.outbox.attend(id) };
      }
      case '/restore': {
        const { name } = z.object({ name: z.string().max(100) }).parse(body);
        const aside = prepareRestore(this.store.folder, name, Date.now());
        setTimeout(() => this.onRestore?.(), ANSWERED_MS);
        return { aside };
      }
      case '/resales/look': {
        const { id } = z.object({ id: z.number().int() }).parse(body);
        const sale = await soon(this.venues.counter.attend(id), null);
        this.announce('orders', { type: 'orders', at: this.store.now() });
        return { sale: sale ?? readResale(this.store, id) };
      }
      case '/resales/withdraw': {
        const { id } = z.object({ id: z.number().int() }).parse(body);
        return { refusal: await this.venues.counter.withdraw(id) };
      }
      case '/names/read': {
        const Name = z.object({ name: z.string().max(253), ending: z.string().max(253) });
        const { names } = z.object({ names: z.array(Name).max(5000) }).parse(body);
        return { readings: names.map(({ name, ending }) => readName(name, ending, this.pool.splits)) };
      }
      case '/names/subjects': {
        const { names } = z.object({ names: z.array(z.string().max(253)).max(5000) }).parse(body);
        return { subjects: subjectsOfNames(names, this.pool.splits) };
      }
      case '/worth/resale': {
        const { names } = z.object({ names: z.array(z.string().max(253)).max(500) }).parse(body);
        return { worths: this.valuer.resale(names, this.pool.splits) };
      }
      case '/spam/refit': {
        const report = refit(this.store);
        this.runner.addOnce({ kind: 'rescore', sourceId: null, params: {} });
        return report;
      }
      case '/spam/unfit':
        unfit(this.store);
        this.runner.addOnce({ kind: 'rescore', sourceId: null, params: {} });
        return {};
      case '/jobs':
        return this.runner.add(Order.parse(body));
      case '/jobs/steer': {
        const { id, action } = z.object({ id: z.number(), action: z.enum(['pause', 'resume', 'cancel']) }).parse(body);
        const job = this.runner.steer(id, action);
        if (typeof job === 'string') throw new Refusal('conflict', job);
        return job;
      }
      default:
        throw new Refusal('not-here', `the engine has no ${path}`);
    }
  }

  private pageContext() {
    const signal = AbortSignal.timeout(PAGE_CHECK_MS);
    setMaxListeners(0, signal); // one listener a request under way
    return {
      store: this.store,
      settings: readSettings(this.store),
      log: this.log,
      signal,
      changed: (ids: Iterable<number>, source?: number) => this.taken(ids, source ?? null),
    };
  }

  /** Prices follow the rates: which of several offers is best, and what the grid sorts by. */
  private async settingsChanged(): Promise<void> {
    this.venues.outbox.forgetClient();
    this.venues.counter.forgetClient();
    const rates = readRates(this.store);
    const ids = domainsWithOffers(this.store);
    for (let start = 0; start < ids.length; start += OFFERS_AT_ONCE) {
      const part = ids.slice(start, start + OFFERS_AT_ONCE);
      write(this.store, () => {
        for (const id of part) settleListing(this.store, id, this.store.now(), rates);
      });
      await new Promise((resolve) => setImmediate(resolve));
    }
    await this.pool.reprice();
    this.announcePool();
  }

  announcePool(): void {
    this.announce('pool', { type: 'pool', version: this.pool.version, size: this.pool.size });
  }

  private taken(ids: Iterable<number>, source: number | null): void {
    this.pool.refresh(ids, source);
    this.announcePool();
  }

  private openEvents(request: IncomingMessage, response: ServerResponse): void {
    response.writeHead(200, { 'content-type': 'text/event-stream', 'cache-control': 'no-store' });
    response.write(': open\n\n');
    this.listeners.add(response);
    const beat = setInterval(() => response.write(': beat\n\n'), 15_000);
    request.on('close', () => {
      clearInterval(beat);
      this.listeners.delete(response);
    });
  }
}

/** What comes of it, or what is known when it takes long. */
function soon<T>(work: Promise<T>, meanwhile: T): Promise<T> {
  return Promise.race([work, new Promise<T>((resolve) => setTimeout(() => resolve(meanwhile), WORD_MS).unref())]);
}

const senseless = (error: z.ZodError) =>
  new Refusal('makes-no-sense', z.prettifyError(error), { issues: issuesOf(error) });

function reply(response: ServerResponse, status: number, value: unknown): void {
  const text = JSON.stringify(value);
  response.writeHead(status, { 'content-type': 'application/json', 'content-length': Buffer.byteLength(text) });
  response.end(text);
}

async function readText(request: IncomingMessage): Promise<string> {
  const chunks: Buffer[] = [];
  let size = 0;
  for await (const chunk of request) {
    size += chunk.length;
    if (size > MAX_BODY_BYTES) throw new Refusal('too-large', 'the request is too large');
    chunks.push(chunk);
  }
  return Buffer.concat(chunks).toString('utf8');
}
