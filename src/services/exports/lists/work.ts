import type { EnginePort } from '../../../contracts/engine-port';
import type { IdeaView } from '../../../contracts/ideas';
import type { CheckedLink } from '../../../contracts/page-check';
import type { PlanEntry } from '../../../contracts/plan';
import { columnsFor } from '../../../core/formats/exports';
import type { Store } from '../../../store/base/database';
import { deadTargets, type LinkingPage, linkingPages } from '../../../store/crawl/pages';
import { type DomainRow, readDomains } from '../../../store/domains/domains';
import { readIdeaRun } from '../../../store/ideas/ideas';
import { checksOf, type StoredCheck, windowOf } from '../../../store/lifecycle/verdicts';
import { type Brief, listBriefs } from '../../../store/shortlist/briefs';
import { idsOfBatch, readBatch } from '../../../store/sources/batches';
import { listSources, type SourceRow } from '../../../store/sources/sources';
import { pageCheckView } from '../../crawl/page-check';
import { type DeadlineScope, deadlinesIn } from '../../deadlines/deadlines';
import { ideaViews } from '../../ideas/ideas';
import { planFor } from '../../plan/plan';
import { workList } from '../../prospecting/prospects';
import { type ExportTable, exportTable } from '../table';

const CHUNK = 500;

/** Where names come from, with what became of their rows. */
export function sourcesTable(store: Store): ExportTable {
  const { text, number, date } = columnsFor<SourceRow>();
  return exportTable(
    'sources',
    [
      number('source', (row) => row.id, 'its number here'),
      text('kind', (row) => row.kind, 'what it is'),
      text('name', (row) => row.name, 'what it is called'),
      date('added', (row) => row.created_at, 'when it came'),
      number('rows_read', (row) => row.rows_read, 'rows that were read of it'),
      number('rows_taken', (row) => row.rows_taken, 'of them taken'),
      number('rows_repeated', (row) => row.rows_repeated, 'named by it before'),
      number('rows_excluded', (row) => row.rows_excluded, 'left out, as you wanted'),
      number('rows_set_aside', (row) => row.rows_set_aside, 'that made no sense'),
      number('domains_new', (row) => row.domains_new, 'domains that nobody had named before'),
      date('undone', (row) => row.undone_at, 'when it was undone'),
    ],
    listSources(store),
  );
}

/** A batch of names in the order they stood, each with its verdict and the answers that it rests on; null: there is no such batch. */
export function batchTable(store: Store, batchId: number): ExportTable | null {
  const batch = readBatch(store, batchId);
  if (!batch) return null;
  const { text, number, date, list } = columnsFor<{ row: DomainRow; checks: StoredCheck[] }>();
  return exportTable(
    `batch-${batch.id}`,
    [
      text('domain', ({ row }) => row.name, 'the name'),
      text(
        'status',
        ({ row }) => (row.phase_at === null ? 'not yet checked' : row.phase),
        'where it stands in its life',
      ),
      number('confidence', ({ row }) => row.phase_confidence, '0 to 1'),
      text('reason', ({ row }) => row.phase_reason, 'why'),
      list(
        'contradictions',
        ({ row }) => (row.contradictions ? JSON.parse(row.contradictions) : []),
        'what speaks against it',
      ),
      date('asked', ({ row }) => row.phase_at, 'when that was asked'),
      date('registered', ({ row }) => row.registered_at, 'when it was registered'),
      date('expires', ({ row }) => row.expires_at, 'when its registration ends'),
      text('registrar', ({ row }) => row.registrar, 'where it is or was registered'),
      date('drop_from', ({ row }) => windowOf(row)?.from ?? null, 'when it is expected to drop at the earliest'),
      date('drop_to', ({ row }) => windowOf(row)?.to ?? null, 'and at the latest'),
      list('drop_reasons', ({ row }) => windowOf(row)?.reasons ?? [], 'what that is counted from'),
      list(
        'evidence',
        ({ checks }) =>
          checks.map(
            ({ step, server, at, outcome, detail }) =>
              `${step} ${server} ${new Date(at).toISOString()}: ${outcome}, ${detail}`,
          ),
        'who answered what, and when',
      ),
    ],
    batchRows(store, batch.id),
  );
}

async function* batchRows(store: Store, batchId: number): AsyncGenerator<{ row: DomainRow; checks: StoredCheck[] }> {
  for (let offset = 0; ; offset += CHUNK) {
    const ids = idsOfBatch(store, batchId, null, CHUNK, offset);
    if (ids.length === 0) return;
    for (const row of readDomains(store, ids)) yield { row, checks: lastLook(row, checksOf(store, row.id)) };
    await new Promise((resolve) => setImmediate(resolve));
  }
}

/** The answers that the verdict rests on: those of one look, not what was said months before. */
function lastLook(row: DomainRow, checks: StoredCheck[]): StoredCheck[] {
  const steps = new Set<string>();
  return checks
    .filter(({ step, at }) => at <= (row.phase_at ?? 0) && !steps.has(step) && steps.add(step))
    .sort((a, b) => a.at - b.at);
}

/** The plan of a brief, what is in it first. */
export async function planTable(store: Store, engine: EnginePort, brief: Brief): Promise<ExportTable> {
  const plan = await planFor(store, engine, brief);
  const bids = new Map(plan.bids.map((bid) => [bid.id, bid]));
  const rows = plan.entries.map((entry) => ({ entry, bid: bids.get(entry.id) ?? null, way: wayOf(entry) }));
  const { text, number, date, money, list } = columnsFor<(typeof rows)[number]>();
  return exportTable(
    'bid-plan',
    [
      text('domain', ({ entry }) => entry.name, 'what is to be had'),
      text('stage', ({ entry }) => entry.stage, 'how far it is'),
      text(
        'in_plan',
        ({ bid }) => (bid === null ? null : bid.isIn ? 'yes' : 'no'),
        'whether the budget reaches for it',
      ),
      text('why', ({ bid }) => bid?.why ?? null, 'why, or why not'),
      text('venue', ({ way }) => way?.venue ?? null, 'where it is to be had'),
      text('way', ({ way }) => way?.offered ?? null, 'how it is offered'),
      money('price', ({ way }) => way?.priceMinor ?? null, 'for what, there'),
      text('currency', ({ way }) => way?.currency ?? null, 'of the price, ISO 4217'),
      date('closes', ({ way }) => way?.closesAt ?? null, 'when it closes'),
      money('bid', ({ bid }) => bid?.bidMinor ?? null, 'what to bid at most'),
      money('maximum', ({ entry }) => entry.maximum?.maximumMinor ?? null, 'what it may cost at most, as it is worth'),
      money('most_in_all', ({ entry }) => entry.mostMinor, 'what it costs then, fees and all'),
      money('worth_low', ({ entry }) => entry.worthLowMinor, 'what it is worth to you at least'),
      money('worth_high', ({ entry }) => entry.worthHighMinor, 'and at most'),
      money('sales_low', ({ entry }) => entry.resale?.lowMinor ?? null, 'what names like it brought at least'),
      money('sales_high', ({ entry }) => entry.resale?.highMinor ?? null, 'and at most'),
      text('brief_currency', () => brief.currency, 'of all amounts but the price, ISO 4217'),
      number('chance', ({ bid }) => bid?.winChance ?? null, 'of winning at that bid, 0 to 1'),
      text('order', ({ entry }) => entry.order, 'where your last order stands'),
      list('concerns', ({ entry }) => entry.concerns, 'what should be known before money moves'),
    ],
    rows.sort((a, b) => Number(b.bid?.isIn ?? false) - Number(a.bid?.isIn ?? false)),
  );
}
const wayOf = ({ ways, way }: PlanEntry) => (way === null ? null : (ways[way] ?? null));

/** The ideas of a run, the best first; null: there is no such run. */
export function ideasTable(store: Store, runId: number): ExportTable | null {
  const run = readIdeaRun(store, runId);
  const brief = run && listBriefs(store).find(({ id }) => id === run.briefId);
  if (!run || !brief) return null;
  const { endings } = run.pattern;
  const { text, number, money, list } = columnsFor<IdeaView>();
  return exportTable(
    `ideas-${run.id}`,
    [
      number('rank', (row) => row.rank, 'the best is 1'),
      text('label', (row) => row.label, 'the name without its TLD'),
      text('words', (row) => row.words.join(' '), 'what it was made from'),
      number('score', (row) => row.score, 'how good the name is'),
      number('fit', (row) => row.fit.score, 'how well it suits the brief, 0 to 100'),
      text('reads_as', (row) => row.readsAs, 'what else it reads as'),
      money('worth_low', (row) => row.worthLowMinor, 'what names like it brought at least, in your currency'),
      money('worth_high', (row) => row.worthHighMinor, 'and at most'),
      text('word_mark', (row) => row.mark, 'a trademark that it is like'),
      ...endings.map((ending, n) =>
        text(ending, (row) => row.endings[n]?.phase ?? 'not yet checked', `where it stands under .${ending}`),
      ),
      list(
        'taken_under',
        (row) => row.sisters.map(({ name, phase }) => `${name} ${phase}`),
        'other TLDs that somebody has',
      ),
    ],
    ideaRows(store, { id: run.id, endings, brief }),
  );
}

function* ideaRows(store: Store, run: Parameters<typeof ideaViews>[1]): Generator<IdeaView> {
  for (let offset = 0; ; offset += CHUNK) {
    const { rows } = ideaViews(store, run, offset, CHUNK);
    yield* rows;
    if (rows.length < CHUNK) return;
  }
}

/** Deadlines in order of time. */
export async function deadlinesTable(store: Store, engine: EnginePort, scope: DeadlineScope): Promise<ExportTable> {
  const { deadlines } = await deadlinesIn(store, engine, scope);
  const { text, date } = columnsFor<(typeof deadlines)[number]>();
  return exportTable(
    'deadlines',
    [
      date('at', (row) => row.at, 'when'),
      date('until', (row) => row.until, 'the end of the time in which it falls'),
      text('domain', (row) => row.name, 'of which domain'),
      text('kind', (row) => row.kind, 'what it is'),
      text('words', (row) => row.words, 'what happens'),
      text('origin', (row) => row.origin, 'where that comes from'),
    ],
    deadlines,
  );
}

/** Dead pages on living domains, with every page that links to one. */
export function deadPagesTable(store: Store): ExportTable {
  const { text, number } = columnsFor<LinkingPage>();
  return exportTable(
    'dead-targets',
    [
      text('dead_page', (row) => row.target, 'the page that is gone'),
      number('status', (row) => row.status, 'what its server said, HTTP'),
      text('linking_page', (row) => row.page, 'a page that links to it'),
      text('title', (row) => row.title, 'of the linking page'),
      text('anchor', (row) => row.anchor, 'the words of the link'),
      text('nofollow', (row) => (row.nofollow ? 'yes' : 'no'), 'whether the link is nofollow'),
      text('contact', (row) => row.contact, 'how to reach whoever runs that page'),
    ],
    eachLinkingPage(store),
  );
}

/** Target by target, the one that most domains link to first. */
function* eachLinkingPage(store: Store): Generator<LinkingPage> {
  for (const { url } of deadTargets(store, Number.MAX_SAFE_INTEGER)) yield* linkingPages(store, url);
}

/** The work list of pages that link to dead targets. */
export function prospectsTable(store: Store): ExportTable {
  const { rows } = workList(store);
  const { text, date } = columnsFor<(typeof rows)[number]>();
  return exportTable(
    'broken-links',
    [
      text('dead_page', (row) => row.target, 'what it links to, and is gone'),
      text('domain', (row) => row.domain, 'the domain of it'),
      text('linking_page', (row) => row.page, 'whose link may be mended'),
      text('title', (row) => row.title, 'of the linking page'),
      text('anchor', (row) => row.anchor, 'the words of the link'),
      text('contact', (row) => row.contact, 'how to reach whoever runs it'),
      text('state', (row) => row.state, 'how far you are'),
      text('own_page', (row) => row.standIn, 'what you offer instead'),
      date('written', (row) => row.writtenAt, 'when you wrote'),
      date('answered', (row) => row.answeredAt, 'when they answered'),
      date('added', (row) => row.addedAt, 'when it came onto the list'),
      text('note', (row) => row.note, 'what you noted'),
    ],
    rows,
  );
}

/** The links of a page that was looked at; null: it was not. */
export function pageLinksTable(store: Store, checkId: number): ExportTable | null {
  const view = pageCheckView(store, checkId);
  if (!view) return null;
  const { text, number } = columnsFor<CheckedLink>();
  return exportTable(
    `links-of-page-${checkId}`,
    [
      text('link', (row) => row.url, 'where it leads'),
      text('anchor', (row) => row.anchor, 'its words'),
      text('nofollow', (row) => (row.nofollow ? 'yes' : 'no'), 'whether it is nofollow'),
      text('domain', (row) => row.domain, 'whose page that is'),
      text('state', (row) => row.state, 'whether it works'),
      text('gone', (row) => row.gone, 'what is gone, the page or its domain'),
      number('status', (row) => row.status, 'what its server said, HTTP'),
      text('detail', (row) => row.detail, 'in words'),
      text('domain_status', (row) => row.phase, 'where the domain stands in its life'),
      number('pages_linking', (row) => row.known?.toPage ?? null, 'known pages that link to it'),
      number('pages_linking_to_domain', (row) => row.known?.toDomain ?? null, 'known pages that link to its domain'),
    ],
    view.links,
  );
}
