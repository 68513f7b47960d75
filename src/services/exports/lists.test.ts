import { buffer } from 'node:stream/consumers';
import { parse } from 'csv-parse/sync';
import ExcelJS from 'exceljs';
import { parquetReadObjects } from 'hyparquet';
import { beforeEach, describe, expect, it } from 'vitest';
import type { ExportFormat } from '../../core/formats/exports';
import { IDEA_PARTS, type IdeaPart } from '../../core/ideas/score';
import { type Store, write } from '../../store/base/database';
import { addJob, putJobRow } from '../../store/base/jobs';
import { knex, run } from '../../store/base/query';
import { freshStore } from '../../store/base/testing';
import { handSource, putDeadTargets, putPageLook } from '../../store/crawl/pages';
import { putSighting } from '../../store/domains/domains';
import { addNote } from '../../store/domains/notes';
import { addIdeaRun, putIdeas } from '../../store/ideas/ideas';
import { happen, placeOrder } from '../../store/orders/orders';
import { addEntry, addHoldings } from '../../store/portfolio/holdings';
import { addProspects } from '../../store/portfolio/prospects';
import type { Brief } from '../../store/shortlist/briefs';
import { addToShortlist, changeShortlist } from '../../store/shortlist/shortlist';
import { placeScores, putStatement } from '../../store/sources/list-figures';
import { addSource } from '../../store/sources/sources';
import { briefOfTest, domainOfTest, linkOfTest, listingOfTest, sourceOfTest } from '../../store/testing';
import { engineOfTest } from '../testing';
import { decidedTable, isOfBrief } from './lists/decided';
import { domainsTable, shortlistTable } from './lists/domains';
import { entriesTable, holdingsTable, ledgerTable, ordersTable, outcomesTable } from './lists/money';
import {
  batchTable,
  deadlinesTable,
  deadPagesTable,
  ideasTable,
  pageLinksTable,
  planTable,
  prospectsTable,
  sourcesTable,
} from './lists/work';
import type { ExportTable } from './table';

const NAME = 'tarnhives.org';
const AT = Date.UTC(2026, 10, 20, 9);
const DEAD = 'https://pellgatebees.org/queens';
let store: Store;
let brief: Brief;
let id: number;
const engine = engineOfTest({ resaleWorth: async (names) => names.map(() => null) as never });

beforeEach(async () => {
  store = await freshStore();
  brief = briefOfTest(store, { budgetMinor: 90_000 });
  ({ id } = domainOfTest(store, NAME, { phase: 'pending-delete', phase_at: AT, strength: 41.5, registered_at: AT }));
});

type Row = Record<string, unknown>;
/** A list as programs that are not ours read it; empty cells are not there. */
async function read(table: ExportTable, format: ExportFormat): Promise<Row[]> {
  const bytes = await buffer(table.as(format));
  const full = (row: Row): Row =>
    Object.fromEntries(
      Object.entries(row).filter(([, value]) => value !== null && value !== '' && value !== undefined),
    );
  if (format === 'csv' || format === 'tsv')
    return (
      parse(bytes, {
        columns: true,
        delimiter: format === 'csv' ? ',' : '\t',
        quote: format === 'csv' ? '"' : null,
      }) as Row[]
    ).map(full);
  if (format === 'jsonl')
    return bytes.toString().split('\n').filter(Boolean).map((line) => full(JSON.parse(line) as Row)); // biome-ignore format: a line
  if (format === 'parquet') {
    const { buffer: file, byteOffset, length } = bytes;
    return (await parquetReadObjects({ file: file.slice(byteOffset, byteOffset + length) as ArrayBuffer })).map(full);
  }
  const book = new ExcelJS.Workbook();
  await book.xlsx.load(bytes as unknown as ArrayBuffer);
  const rows: unknown[][] = [];
  book.worksheets[0].eachRow((row) => rows.push((row.values as unknown[]).slice(1)));
  const [titles, ...others] = rows;
  return others.map((cells) => full(Object.fromEntries(titles.map((title, n) => [title, cells[n]]))));
}

const same = (value: unknown): unknown => {
  if (Array.isArray(value)) return value.join('; ');
  if (value instanceof Date) return value.toISOString();
  // what a spreadsheet would take for a formula is defused where it is text
  if (typeof value === 'string' && /^'[=+@-]/.test(value)) return value.slice(1);
  return typeof value === 'string' && value.trim() !== '' && !Number.isNaN(Number(value)) ? Number(value) : value;
};

/** The rows of a list, which are the same in every format, and of which each column says what it is. */
async function rowsOf(make: () => ExportTable | Promise<ExportTable>): Promise<Row[]> {
  const { columns } = await make();
  expect(new Set(columns.map(({ title }) => title)).size).toBe(columns.length);
  for (const { title, about } of columns) expect([title, about.length > 2]).toEqual([title, true]);
  const plain = await read(await make(), 'csv');
  for (const format of ['tsv', 'jsonl', 'xlsx', 'parquet'] as const) {
    const rows = await read(await make(), format);
    const told = (list: Row[]) =>
      list.map((row) =>
        Object.fromEntries(
          Object.entries(row).flatMap(([key, value]) => (same(value) === '' ? [] : [[key, same(value)]])),
        ),
      );
    expect([format, told(rows)]).toEqual([format, told(plain)]);
  }
  expect(JSON.stringify(plain)).not.toMatch(/undefined|\[object/);
  return plain;
}

function ordered(outcome: 'won' | 'lost'): void {
  const order = placeOrder(store, {
    briefId: brief.id, domainId: id, venue: 'Saltmarch Exchange', url: 'http://saltmarchexchange.com/lots/1', kind: 'buy',
    amountMinor: 12_000, currency: 'EUR', ratePpm: 1_000_000, feesMinor: 500, closesAt: AT, sendAt: null, way: 'by hand',
    estimates: { winChance: 0.4, worthLowMinor: 10_000, worthHighMinor: 30_000 },
  }); // biome-ignore format: one order
  happen(store, order.id, { kind: 'hand', outcome }, 'you', null, { finalMinor: outcome === 'won' ? 11_000 : null });
}

describe('a list that leaves', () => {
  it('is the pool, with what lists state of a domain, from whom and from when', async () => {
    const source = sourceOfTest(store, 'list', 'Saltmarch export');
    write(store, () => {
      putSighting(store, id, source, AT, null, {});
      putStatement(store, id, source, ',,120,,,85EUR,41', AT);
      placeScores(store, ['Pull']);
    });
    const [row] = await rowsOf(() => domainsTable(store, [id], null, 'pool'));
    expect(row).toMatchObject({
      domain: NAME,
      strength: '41.5',
      list_traffic: '120',
      list_cpc: '0.85',
      list_score: '41',
    });
    expect(row.stated_by).toBe(
      'list_traffic: Saltmarch export, 2026-11-20; list_cpc: Saltmarch export, 2026-11-20; list_score: Pull, Saltmarch export, 2026-11-20',
    );
    expect(Object.keys((await rowsOf(() => domainsTable(store, [id], ['listTraffic', 'pair'], 'pool')))[0])).toEqual([
      'domain', 'list_traffic', 'stated_by', 'strength',
    ]); // biome-ignore format: a list
  });

  it('is the pool with fit and worth for a brief, where its columns show them, in their order', async () => {
    const shown = ['domain', 'worth', 'pair', 'fit'];
    expect([isOfBrief(shown), isOfBrief(['domain', 'pair']), isOfBrief(null)]).toEqual([true, false, false]);
    const ids = [id, ...Array.from({ length: 120 }, (_, n) => domainOfTest(store, `tarn${n}hives.org`, {}).id)];
    addToShortlist(store, brief.id, [id]);
    changeShortlist(store, brief.id, id, { worthLowMinor: 20_000, worthHighMinor: 45_050 });
    const asked = engineOfTest({ resaleWorth: async (names) => names.map(() => null) as never });
    const rows = await rowsOf(() => decidedTable(store, asked, brief, ids, shown));
    expect(rows).toHaveLength(121);
    expect(Object.keys(rows[0])).toEqual([
      'domain', 'worth_low', 'worth_high', 'worth_by', 'brief_currency', 'strength', 'fit_least', 'fit_most',
    ]); // biome-ignore format: a list
    expect(rows[0]).toMatchObject({ domain: NAME, worth_low: '200.00', worth_high: '450.50', worth_by: 'yours' });
    expect(rows[120]).toMatchObject({ domain: 'tarn119hives.org', brief_currency: 'EUR' });
    // a hundred names at a time, in each of five formats
    expect(asked.asked.filter((call) => call === 'resaleWorth')).toHaveLength(2 * 5);
  });

  it('is the shortlist, with what was noted and where the evidence stands', async () => {
    addToShortlist(store, brief.id, [id]);
    addNote(store, id, '=sum(of doubts), ask Mara');
    const [row] = await rowsOf(() => shortlistTable(store, brief, 'http://127.0.0.1:4310'));
    expect(row).toMatchObject({
      domain: NAME,
      stage: 'to inspect',
      evidence: `http://127.0.0.1:4310/domains/${NAME}`,
      notes: "'=sum(of doubts), ask Mara",
    });
  });

  it('is the bid plan', async () => {
    addToShortlist(store, brief.id, [id]);
    listingOfTest(store, id, { venue: 'Quayside Lots', priceMinor: 4000 });
    const [row] = await rowsOf(() => planTable(store, engine, brief));
    expect(row).toMatchObject({
      domain: NAME,
      venue: 'Quayside Lots',
      price: '40.00',
      currency: 'EUR',
      brief_currency: 'EUR',
    });
  });

  it('is what was ordered, what came of it, the ledger and what is owned', async () => {
    ordered('lost');
    ordered('won');
    addHoldings(store, [{ line: 2, name: 'wexcombe.org', ending: 'org', boughtAt: AT, costMinor: 4200, currency: 'GBP', renewsAt: null, renewalMinor: null, seller: '' }]); // biome-ignore format: one
    addEntry(store, id, { at: AT, kind: 'sale', amountMinor: 90_000, currency: 'EUR', words: 'to Mara' });
    expect(await rowsOf(() => ordersTable(store, null))).toMatchObject([
      { domain: NAME, state: 'won', maximum: '120.00', went_for: '110.00', currency: 'EUR', fees: '5.00' },
      { domain: NAME, state: 'lost' },
    ]);
    expect((await rowsOf(() => ordersTable(store, 4711))).length).toBe(0);
    const ledger = await rowsOf(() => ledgerTable(store, [brief]));
    expect(ledger.length).toBeGreaterThan(3);
    expect(ledger.reduce((sum, { amount }) => sum + Math.round(100 * Number(amount)), 0)).toBe(0);
    expect((await rowsOf(() => holdingsTable(store))).map(({ domain, cost }) => [domain, cost])).toEqual(
      expect.arrayContaining([[NAME, '110.00'], ['wexcombe.org', '42.00']]),
    ); // biome-ignore format: two
    expect(await rowsOf(() => entriesTable(store))).toContainEqual(
      expect.objectContaining({ domain: NAME, kind: 'sale', amount: '900.00', words: 'to Mara' }),
    );
    // by hand nothing was sent, so that nothing is learned of it
    expect(await rowsOf(() => outcomesTable(store))).toEqual([]);
    store.raw.prepare('UPDATE orders SET sent_at = ?').run(AT);
    expect(await rowsOf(() => outcomesTable(store))).toMatchObject([
      { domain: NAME, outcome: 'lost', chance: '0.4' },
      { domain: NAME, outcome: 'won', went_for: '110.00', worth_high: '300.00' },
    ]);
  });

  it('is sources, and a batch with the answers that its verdicts rest on', async () => {
    const batch = addSource(store, 'list', 'Pasted', { isBatch: true, depth: 'record', freshMs: 0 });
    write(store, () => {
      putSighting(store, id, batch, AT, 1, {});
      run(store, knex('checks').insert({ domain_id: id, at: AT - 1000, step: 'rdap', server: 'rdap.test', outcome: 'found', detail: 'a record', elapsed_ms: 4 })); // biome-ignore format: one
    });
    expect(await rowsOf(() => sourcesTable(store))).toMatchObject([{ name: 'Pasted', kind: 'list', rows_read: '0' }]);
    const table = () => batchTable(store, batch) as ExportTable;
    expect(await rowsOf(table)).toMatchObject([
      {
        domain: NAME,
        status: 'pending-delete',
        asked: '2026-11-20T09:00:00.000Z',
        evidence: 'rdap rdap.test 2026-11-20T08:59:59.000Z: found, a record',
      },
    ]);
    expect((await read(table(), 'jsonl'))[0]).toMatchObject({ contradictions: [], evidence: [expect.any(String)] });
    expect(batchTable(store, 4711)).toBeNull();
  });

  it('is broken links: dead pages, the work list, and the links of a page that was looked at', async () => {
    const link = {
      url: DEAD, anchor: 'raising queens', nofollow: false, before: '', after: '', domain: 'pellgatebees.org', state: 'dead',
      gone: 'page', status: 404, detail: 'status 404', asked: AT,
    } as const; // biome-ignore format: one link
    domainOfTest(store, 'pellgatebees.org');
    linkOfTest(store, 'quillmere.org', 'pellgatebees.org', { toUrl: DEAD, fromUrl: 'https://quillmere.org/links' });
    putPageLook(store, handSource(store), { url: 'https://quillmere.org/links', title: 'Links', contact: 'mara@quillmere.org', readers: null }, [link]); // biome-ignore format: one
    putDeadTargets(store, [link]);
    addProspects(store, { target: DEAD, domain: 'pellgatebees.org' }, [
      { page: 'https://quillmere.org/links', title: 'Links', anchor: 'raising queens', contact: null },
    ]);
    expect(await rowsOf(() => deadPagesTable(store))).toContainEqual(
      expect.objectContaining({ dead_page: DEAD, linking_page: 'https://quillmere.org/links', nofollow: 'no' }),
    );
    // a file takes its time, and what is done meanwhile is written
    for (let n = 0; n < 1200; n++)
      linkOfTest(store, 'quillmere.org', 'pellgatebees.org', {
        toUrl: DEAD,
        fromUrl: `https://quillmere.org/links/of-the-club/${n}`,
      });
    const file = deadPagesTable(store).as('csv')[Symbol.asyncIterator]();
    await file.next();
    expect(domainOfTest(store, 'written-meanwhile.org').name).toBe('written-meanwhile.org');
    await file.return?.();
    expect(await rowsOf(() => prospectsTable(store))).toMatchObject([{ dead_page: DEAD, state: expect.any(String) }]);
    const job = addJob(store, { kind: 'page', sourceId: null, params: { url: 'https://quillmere.org/links' } });
    write(store, () => {
      putJobRow(store, job, 0, {
        head: { url: 'https://quillmere.org/links', title: 'Links', contact: null, readers: null, inside: 0 },
      });
      putJobRow(store, job, 1, { link });
    });
    expect(await rowsOf(() => pageLinksTable(store, job) as ExportTable)).toMatchObject([
      { link: DEAD, state: 'dead', status: '404', pages_linking: '1201' },
    ]);
    expect(pageLinksTable(store, 4711)).toBeNull();
  });

  it('is ideas with a column for each ending, and deadlines', async () => {
    const pattern = { slots: [], isAnyOrder: false, withTwins: false, joints: ['joined'], endings: ['com', 'org'], mostLetters: 20 } as never; // biome-ignore format: one
    const made = addIdeaRun(store, brief.id, pattern);
    const parts = Object.fromEntries(IDEA_PARTS.map((part) => [part, 0.5])) as Record<IdeaPart, number>;
    const idea = (label: string) => ({ label, words: [label], joint: 'joined', score: 80, parts, readsAs: null, worthLowMinor: 1200, worthHighMinor: null, mark: null }) as never; // biome-ignore format: one
    write(store, () => putIdeas(store, made, [idea('tarnhives'), idea('combfell')], 2));
    expect(await rowsOf(() => ideasTable(store, made) as ExportTable)).toMatchObject([
      { label: 'tarnhives', com: 'not yet checked', org: 'pending-delete', worth_low: '12.00' },
      { label: 'combfell', com: 'not yet checked' },
    ]);
    expect(ideasTable(store, 4711)).toBeNull();
    addToShortlist(store, brief.id, [id]);
    listingOfTest(store, id, { venue: 'Quayside Lots', kind: 'auction', closingAt: store.now() + 3_600_000 });
    const scope = { scope: 'mine', kinds: ['closing'], hours: 24 } as const;
    expect(await rowsOf(() => deadlinesTable(store, engine, scope))).toMatchObject([{ domain: NAME, kind: 'closing' }]);
  });
});
