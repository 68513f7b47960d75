/**
 * Rows of the pool as the index takes them in. Hand-written SQL, read by a checked layout: three million rows come at a start without a
 * snapshot, and rows by name, as a query builder gives them, take three times as long (200,000 rows: 10 s against 3).
 */
import {
  chooseFigures,
  LIST_FIGURES,
  type ListStatement,
  poolFigure,
  unpackFigures,
} from '../../core/formats/list-figures';
import { languageName } from '../../core/history/language-name';
import { homeMinor, type Rates } from '../../core/listings/rates';
import type { CountRule } from '../../core/measures/counts';
import { bareRow, FACT_NAMES, type FactName, factSpec, type PoolRow } from '../../core/pool/facts';
import { areaTitle, subjectTitle } from '../../core/topics/subjects';
import type { Store } from '../base/database';
import { statement } from '../base/statement';
import { figureRule, statementsOf } from '../sources/list-figures';

type Cell = number | string | null;

/** Where the index wants something else than the column says. */
const EXPRESSIONS: Partial<Record<FactName, string>> = {
  // a person's mark overrules what was computed
  spamRisk: "CASE judged WHEN 'spam' THEN 100 WHEN 'clean' THEN 0 ELSE spam_risk END",
  drop: 'CASE WHEN drop_conditional = 0 THEN drop_from ELSE drop_at END',
};
/** How words of the database become those that are sifted by; absent: they are the same. */
const WORDS: Partial<Record<FactName, (value: Cell) => string | null>> = {
  judged: (value) => (value === null ? 'not-yet' : String(value)),
  language: (value) => (value === null ? null : languageName(String(value))),
  subject: (value) => (value === null ? null : subjectTitle(String(value))),
};
/** What the row has before its facts. */
const KEYS = ['d.id', 'd.name', 'd.ending', 'd.currency', 'd.price_minor', 'i.subject'];

const seconds = (ms: Cell) => (ms === null || Number(ms) < 1000 ? null : Math.floor(Number(ms) / 1000));

const readerOf = (fact: FactName): ((value: Cell) => Cell) =>
  factSpec(fact).kind === 'time' ? seconds : (WORDS[fact] ?? ((value) => value));

/** Facts that are read one for one, each with its column and how that is read. */
const READ = FACT_NAMES.flatMap((fact) => {
  const { column } = factSpec(fact);
  if (column === undefined || fact === 'ending' || fact === 'price') return [];
  return { fact, sql: EXPRESSIONS[fact] ?? (column.startsWith('i.') ? column : `d.${column}`), read: readerOf(fact) };
});
const COLUMNS = [...KEYS, ...READ.map(({ sql }) => sql)].join(', ');
const FROM = 'FROM domains d LEFT JOIN inspections i ON i.domain_id = d.id';

/** @param cells KEYS, then READ; then when the domain was last named, where that was asked for. */
function rowOf(cells: readonly Cell[], rates: Rates): PoolRow {
  const [id, name, ending, currency, priceMinor, subject] = cells;
  const row = bareRow(Number(id), String(name), String(ending));
  const values: Record<string, unknown> = row;
  for (let n = 0; n < READ.length; n++) values[READ[n].fact] = READ[n].read(cells[KEYS.length + n]);
  const price = homeMinor(priceMinor as number | null, currency as string | null, rates);
  row.price = price === null ? null : price / 100;
  row.area = subject === null ? null : areaTitle(String(subject));
  if (cells.length > KEYS.length + READ.length) row.named = seconds(cells[KEYS.length + READ.length]);
  return row;
}

/** All domains of the pool, by id, after one; prices in the user's currency. When each was last named is not in them. */
export function* eachPoolRow(store: Store, rates: Rates, after = 0): Generator<PoolRow> {
  const rows = store.raw.prepare(`SELECT ${COLUMNS} ${FROM} WHERE in_pool = 1 AND d.id > ? ORDER BY d.id`).raw();
  const rule = figureRule(store);
  const stated = eachStated(store, after)[Symbol.iterator]();
  let next = stated.next();
  try {
    for (const cells of rows.iterate(after)) {
      const row = rowOf(cells as Cell[], rates);
      while (!next.done && next.value.domainId < row.id) next = stated.next();
      if (!next.done && next.value.domainId === row.id) takeFigures(row, next.value.statements, rule, rates);
      yield row;
    }
  } finally {
    stated.return?.();
  }
}

interface Stated {
  domainId: number;
  statements: ListStatement[];
}

/** Domains that lists state figures of, by id, after one, with what each list states. */
function* eachStated(store: Store, after: number): Iterable<Stated> {
  const names = new Map(
    store.raw.prepare("SELECT id, name FROM sources WHERE json_array_length(detail, '$.stated') > 0").raw().all() as [
      number,
      string,
    ][],
  );
  if (names.size === 0) return;
  const rows = store.raw
    .prepare(
      `SELECT domain_id, source_id, coalesce(figures_at, at), figures FROM sightings
       WHERE domain_id > ? AND figures IS NOT NULL ORDER BY domain_id`,
    )
    .raw();
  let domain: Stated = { domainId: 0, statements: [] };
  for (const cells of rows.iterate(after)) {
    const [domainId, sourceId, at, figures] = cells as [number, number, number, string];
    if (domain.domainId !== domainId) {
      if (domain.domainId > 0) yield domain;
      domain = { domainId, statements: [] };
    }
    domain.statements.push({ sourceId, source: names.get(sourceId) ?? '', at, figures: unpackFigures(figures) });
  }
  if (domain.domainId > 0) yield domain;
}

/** Gives a row the figures of lists that count; the price of a click in the user's currency. */
function takeFigures(row: PoolRow, statements: ListStatement[], rule: CountRule, rates: Rates): void {
  const chosen = chooseFigures(statements, rule);
  for (const figure of LIST_FIGURES) if (chosen[figure]) row[figure] = poolFigure(figure, chosen[figure], rates);
}

/** One domain of the pool; null when it is not in it. */
export function readPoolRow(store: Store, id: number, rates: Rates): PoolRow | null {
  const cells = statement(
    store.raw,
    `SELECT ${COLUMNS}, (SELECT max(at) FROM sightings WHERE domain_id = d.id) ${FROM} WHERE d.id = ? AND in_pool = 1`,
  )
    .raw()
    .get(id);
  if (!cells) return null;
  const row = rowOf(cells as Cell[], rates);
  const statements = statementsOf(store, id);
  if (statements.length > 0) takeFigures(row, statements, figureRule(store), rates);
  return row;
}

/** Sources and the domains they named, with the time in ms since 1970. */
export function* eachMembership(store: Store): Generator<[source: number, domain: number, at: number]> {
  const rows = store.raw.prepare('SELECT source_id, domain_id, at FROM sightings').raw();
  for (const entry of rows.iterate()) yield entry as [number, number, number];
}

/** Sets that rows of the pool belong to beside their sources, as pairs of set and domain. */
const MEMBERSHIPS = {
  tag: 'SELECT tag_id, domain_id FROM domain_tags',
  shortlist: 'SELECT brief_id, domain_id FROM shortlist',
  fresh: 'SELECT sieve_id, domain_id FROM sieve_hits WHERE fresh = 1',
} as const;
export type Membership = keyof typeof MEMBERSHIPS;

export function* eachMember(store: Store, fact: Membership): Generator<[set: number, domain: number]> {
  for (const pair of store.raw.prepare(MEMBERSHIPS[fact]).raw().iterate()) yield pair as [number, number];
}
