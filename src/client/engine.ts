import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { z } from 'zod';
import type { TriedConnectionSchema } from '../contracts/connections';
import { type EngineAddress, EngineAddressSchema, type EngineHealth } from '../contracts/engine';
import { type Asked, ENGINE_CALLS, type EngineAnswer, type EnginePath, type Which } from '../contracts/engine-calls';
import type { EnginePort } from '../contracts/engine-port';
import type { JobOrder, JobRow } from '../contracts/jobs';
import type { RefitReport } from '../contracts/measures';
import type { NameReading, NameToRead } from '../contracts/names';
import type { OrderTerms, StoredOrder } from '../contracts/orders';
import type { Acted, PoolKnown, PoolReply } from '../contracts/pool';
import type { StoredResale } from '../contracts/portfolio';
import type { DigestState } from '../contracts/sieves';
import type { MailboxSchema } from '../contracts/source-forms';
import type { CutLook, ListLook, ReferrerPreview, TriedMailbox, VenueLook } from '../contracts/sources';
import type { Connection } from '../core/connections/connection';
import type { ReferrerCuts, ReferrerField } from '../core/formats/referrer-fields';
import type { Confirmed } from '../core/lifecycle/confirmed';
import type { ChoiceFact, MemberFact } from '../core/pool/facts';
import type { PoolQuery } from '../core/pool/query';
import { REFUSALS, Refusal, type RefusalCode } from '../core/refusal';
import type { Settings } from '../core/settings/settings';
import type { TriedAbility } from '../core/setup/abilities';
import type { Tried } from '../core/setup/tried';
import type { FoundPages, PageQuestion } from '../core/verdict/page-questions';
import { actor } from '../core/work/actor';
import type { ResaleWorth } from '../core/worth/resale';

/** The engine cannot be reached, or refused. */
export class EngineError extends Refusal {}
const away = (message: string, options: ErrorOptions = {}) => new EngineError('engine-away', message, options);

/** What the engine says when it refuses. */
const Told = z.object({
  code: z.enum(Object.keys(REFUSALS) as [RefusalCode, ...RefusalCode[]]),
  message: z.string(),
  advice: z.string().nullable(),
  issues: z.array(z.object({ at: z.string(), message: z.string() })),
});

/** A large copy takes minutes to be read and written. */
const RESTORE_MS = 600_000;

/** Asks the engine of a data folder. Its address is read anew after a failure, since a restarted engine has another. */
export class EngineClient implements EnginePort {
  private address: EngineAddress | null = null;

  constructor(private readonly folder: string) {}

  health(): Promise<EngineHealth> {
    return this.ask('/health');
  }

  queryPool(query: PoolQuery): Promise<PoolReply> {
    return this.ask('/pool/query', query);
  }

  async wordsOfChoice(fact: ChoiceFact, many: number): Promise<string[]> {
    return (await this.ask('/pool/words', { fact, many })).words;
  }

  knownFacts(): Promise<PoolKnown> {
    return this.ask('/pool/known');
  }

  /** Ids of some domains, or of all that pass a sieve. */
  idsOf(which: Which): Promise<{ ids: number[] }> {
    return this.ask('/pool/ids', which);
  }

  /** Does one thing to few or many domains. */
  act(act: Asked<'/pool/act'>['act'], which: Which): Promise<Acted> {
    return this.ask('/pool/act', { act, which });
  }

  undo(action: number): Promise<{ changed: number }> {
    return this.ask('/pool/undo', { action });
  }

  /** Rows of domains were changed beside the index. */
  domainsChanged(ids: number[]): Promise<object> {
    return this.ask('/pool/refresh', { ids });
  }

  /** Domains came into a set or left it; null: the set is gone. */
  setMembers(fact: MemberFact, set: number, ids: number[] | null, isIn: boolean): Promise<object> {
    return this.ask('/pool/members', { fact, set, ids, isIn });
  }

  runSieve(id: number): Promise<{ total: number; fresh: number }> {
    return this.ask('/sieves/run', { id });
  }

  /** The words that briefs name are others. */
  briefsChanged(): Promise<object> {
    return this.ask('/briefs/changed', {});
  }

  /** Makes the digest of what is new now. */
  makeDigest(): Promise<DigestState> {
    return this.ask('/digest/make', {});
  }

  /** Recognises delimiter, header and columns of a file; `given` corrects any of it. */
  previewList(path: string, given: Asked<'/lists/preview'>['given']): Promise<ListLook> {
    return this.ask('/lists/preview', { path, given });
  }

  /** The same, once the person has said what the columns mean: that is kept for the next file with this header. */
  settleList(path: string, given: Asked<'/lists/import'>['given']): Promise<ListLook> {
    return this.ask('/lists/import', { path, given });
  }

  /** Fetches what a venue hands out and recognises it. Takes seconds. */
  previewVenue(url: string): Promise<VenueLook> {
    return this.ask('/venues/preview', { url });
  }

  /** Recognises a link export; `given` corrects any of it. */
  previewCut(path: string, given: Partial<Pick<CutLook, 'delimiter' | 'hasHeader' | 'columns'>>): Promise<CutLook> {
    return this.ask('/cuts/preview', { path, given });
  }

  /** The same, once the person has said what the columns mean. */
  settleCut(path: string, given: Partial<Pick<CutLook, 'delimiter' | 'hasHeader' | 'columns'>>): Promise<CutLook> {
    return this.ask('/cuts/import', { path, given });
  }

  /** Prices anew after the currency or the rates were changed. */
  settingsChanged(): Promise<object> {
    return this.ask('/settings/changed', {});
  }

  /** Asks an outside service one real question. Takes seconds. */
  tryAbility(ability: TriedAbility, settings: Partial<Settings>, question: string): Promise<Tried> {
    return this.ask('/setup/try', { ability, settings, question });
  }

  /** Asks a described service one real question. Takes seconds. */
  tryConnection(connection: Connection, question: string): Promise<z.infer<typeof TriedConnectionSchema>> {
    return this.ask('/connections/try', { connection, question });
  }

  /** Looks into a mail folder. Takes seconds. */
  tryMailbox(question: z.infer<typeof MailboxSchema>): Promise<TriedMailbox> {
    return this.ask('/mailbox/try', question);
  }

  /** Asks a described service which pages show, list or mention a domain. Takes seconds. */
  askPages(item: PageQuestion, name: string): Promise<FoundPages> {
    return this.ask('/pages/ask', { item, name });
  }

  /** Reads one page for its links. Takes seconds. */
  linksOf(url: string): Promise<{ contact: string | null; links: string[] }> {
    return this.ask('/pages/links', { url });
  }

  previewReferrers(path: string, cuts: ReferrerCuts, columns: ReferrerField[] | undefined): Promise<ReferrerPreview> {
    return this.ask('/referrers/preview', { path, cuts, columns });
  }

  /** Takes what the cuts leave of a referrer file: into the pool, or as seeds. */
  importReferrers(order: {
    path: string;
    name: string;
    columns: ReferrerField[];
    cuts: ReferrerCuts;
    to: 'seeds' | 'pool';
  }): Promise<{ sourceId: number | null; seeds: string[]; file: string }> {
    return this.ask('/referrers/import', order);
  }

  /** Takes a verdict again, down to the registrar. Takes seconds. */
  confirm(id: number): Promise<Confirmed> {
    return this.ask('/domains/confirm', { id });
  }

  /** All ways to have a domain, on the terms of this moment. Asks venues; takes a moment. */
  orderTerms(briefId: number, domainId: number): Promise<OrderTerms> {
    return this.ask('/orders/terms', { briefId, domainId });
  }

  /** Gives an order; it is on disk when this answers, and mostly has its venue's word. */
  async placeOrder(wish: Asked<'/orders/place'>): Promise<StoredOrder> {
    return (await this.ask('/orders/place', wish)).order;
  }

  /** @returns why it cannot be taken back; null: it is. */
  async withdrawOrder(id: number): Promise<string | null> {
    return (await this.ask('/orders/withdraw', { id })).refusal;
  }

  /**
   * Puts a copy of the data folder in place of what is there, which is kept as a copy itself. The engine starts again for it.
   *
   * @param wanted `newest`: the newest that is whole.
   * @returns its name, and that of the copy that is kept.
   */
  async restore(wanted: string): Promise<{ name: string; aside: string }> {
    const before = (await this.health()).startedAt;
    const prepared = await this.ask('/restore', { name: wanted });
    const until = Date.now() + RESTORE_MS;
    for (;;) {
      await new Promise((rest) => setTimeout(rest, 200));
      const health = await this.health().catch(() => null);
      if (health?.state === 'ready' && health.startedAt !== before) return prepared;
      if (Date.now() > until) throw away('The engine has not come back yet; look again in a moment.');
    }
  }

  /** Deals with a sale at once: offers it, carries answers, hears how it stands. */
  async resaleLook(id: number): Promise<StoredResale | null> {
    return (await this.ask('/resales/look', { id })).sale;
  }

  /** Takes a domain off sale. @returns why it cannot be; null: it is. */
  async resaleWithdraw(id: number): Promise<string | null> {
    return (await this.ask('/resales/withdraw', { id })).refusal;
  }

  /** What came of an order that was done by hand. */
  async recordOutcome(
    id: number,
    outcome: 'won' | 'lost' | 'withdrawn',
    priceMinor: number | null,
  ): Promise<StoredOrder> {
    return (await this.ask('/orders/outcome', { id, outcome, priceMinor })).order;
  }

  /** Asks the venue at once where an order stands. */
  async lookAtOrder(id: number): Promise<StoredOrder | null> {
    return (await this.ask('/orders/look', { id })).order;
  }

  /** What a name says by itself: its words, how it is said and written, its subject. */
  async readName(name: string, ending: string): Promise<NameReading> {
    const [reading] = await this.readNames([{ name, ending }]);
    return reading;
  }

  async readNames(names: readonly NameToRead[]): Promise<NameReading[]> {
    return (await this.ask('/names/read', { names })).readings;
  }

  /** The subject that each name tells, `area.subject`; null: none that shows. */
  async subjectsOfNames(names: readonly string[]): Promise<(string | null)[]> {
    return (await this.ask('/names/subjects', { names })).subjects;
  }

  /** What names would bring by those that were sold; null: too few sales are known. */
  async resaleWorth(names: readonly string[]): Promise<(ResaleWorth | null)[]> {
    return (await this.ask('/worth/resale', { names })).worths;
  }

  /** Fits the points of the spam rules to the person's own marks. */
  refit(): Promise<RefitReport> {
    return this.ask('/spam/refit', {});
  }

  /** Takes the last fit back. */
  unfit(): Promise<object> {
    return this.ask('/spam/unfit', {});
  }

  addJob(order: JobOrder): Promise<JobRow> {
    return this.ask('/jobs', order);
  }

  steerJob(id: number, action: 'pause' | 'resume' | 'cancel'): Promise<JobRow> {
    return this.ask('/jobs/steer', { id, action });
  }

  /** The engine's stream of events, as it comes. */
  async events(signal: AbortSignal): Promise<ReadableStream<Uint8Array>> {
    const response = await this.send('/events', null, signal);
    if (!response.body) throw away('The engine sent no events.');
    return response.body;
  }

  private async ask<Path extends EnginePath>(path: Path, body: Asked<Path> | null = null): Promise<EngineAnswer<Path>> {
    const response = await this.send(path, body);
    const value = await response.json();
    if (!response.ok) {
      const { code, message, advice, issues } = Told.parse(value);
      throw new EngineError(code, message, { advice, issues });
    }
    // the schema is that of the same path
    return ENGINE_CALLS[path].answer.parse(value) as EngineAnswer<Path>;
  }

  private async send(path: string, body: unknown, signal?: AbortSignal): Promise<Response> {
    for (let attempt = 0; ; attempt++) {
      try {
        this.address ??= EngineAddressSchema.parse(JSON.parse(readFileSync(join(this.folder, 'engine.json'), 'utf8')));
        const response = await fetch(`http://127.0.0.1:${this.address.port}${path}`, {
          method: body === null ? 'GET' : 'POST',
          headers: {
            authorization: `Bearer ${this.address.token}`,
            'content-type': 'application/json',
            // in whose name it is asked; names are not ASCII everywhere
            'x-actor': encodeURIComponent(actor()),
          },
          body: body === null ? undefined : JSON.stringify(body),
          signal,
          cache: 'no-store',
        });
        if (response.status !== 403) return response;
        this.address = null;
        if (attempt > 0) throw away('The engine does not know us; start Jam Ladle again.');
      } catch (error) {
        if (error instanceof EngineError || signal?.aborted) throw error;
        this.address = null;
        // a request that may have been carried out is not sent twice
        if (attempt > 0 || path.startsWith('/jobs'))
          throw away('The engine is not running. It restarts by itself within seconds.', {
            cause: error,
          });
      }
    }
  }
}
