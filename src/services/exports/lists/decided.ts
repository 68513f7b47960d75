import type { Decision } from '../../../contracts/decision';
import type { EnginePort } from '../../../contracts/engine-port';
import { MOST_DECISIONS } from '../../../core/bids/most-decisions';
import { columnsFor, type ExportColumn } from '../../../core/formats/exports';
import type { DomainView } from '../../../core/pool/domain-view';
import { domainColumns } from '../../../core/pool/export-columns';
import type { Store } from '../../../store/base/database';
import { readDomains } from '../../../store/domains/domains';
import type { Brief } from '../../../store/shortlist/briefs';
import { decisionsOn } from '../../decision/decision';
import { domainView, viewRules } from '../../pool/views';
import { type ExportTable, exportTable } from '../table';

interface Decided {
  view: DomainView;
  decision: Decision;
}

const { number, money, text } = columnsFor<Decided>();
const tenth = (value: number) => Math.round(value * 10) / 10;
const known = ({ fit }: Decision) => fit.score !== null;

/** What the columns Fit and Worth show, as they leave. */
const OF_A_BRIEF: Record<string, readonly ExportColumn<Decided>[]> = {
  fit: [
    number(
      'fit_least',
      ({ decision }) => (known(decision) ? tenth(decision.fit.least) : null),
      'how well it suits the brief, 0 to 100: what is sure',
    ),
    number(
      'fit_most',
      ({ decision }) => (known(decision) ? tenth(decision.fit.most) : null),
      'and what it may be at most',
    ),
  ],
  worth: [
    money(
      'worth_low',
      ({ decision }) => decision.worth?.lowMinor ?? null,
      'what it is worth, six times in ten, at least',
    ),
    money('worth_high', ({ decision }) => decision.worth?.highMinor ?? null, 'and at most'),
    text('worth_by', ({ decision }) => decision.worth?.by ?? null, 'by what: yours, sales, visits or links'),
    text('brief_currency', ({ decision }) => decision.currency, 'of these amounts, ISO 4217'),
  ],
};

/** Whether columns of the pool say something that only a brief knows. */
export const isOfBrief = (shown: readonly string[] | null): shown is readonly string[] =>
  shown?.some((id) => id in OF_A_BRIEF) ?? false;

/** Domains by their numbers with what a decision on each rests on, for the columns of the pool that show it, in their order. */
export function decidedTable(
  store: Store,
  engine: EnginePort,
  brief: Brief,
  ids: readonly number[],
  shown: readonly string[],
): ExportTable {
  const columns = new Map<string, ExportColumn<Decided>>();
  const ofDomain = (column: ExportColumn<DomainView>): ExportColumn<Decided> => ({
    ...column,
    of: ({ view }) => column.of(view),
  });
  for (const id of ['domain', ...shown])
    for (const column of OF_A_BRIEF[id] ?? domainColumns([id]).map(ofDomain))
      if (!columns.has(column.title)) columns.set(column.title, column);
  return exportTable('pool', [...columns.values()], decidedRows(store, engine, brief, ids));
}

async function* decidedRows(
  store: Store,
  engine: EnginePort,
  brief: Brief,
  ids: readonly number[],
): AsyncGenerator<Decided> {
  const rules = viewRules(store);
  for (let at = 0; at < ids.length; at += MOST_DECISIONS) {
    const rows = readDomains(store, ids.slice(at, at + MOST_DECISIONS));
    const decisions = await decisionsOn(store, engine, brief, rows);
    for (const [n, row] of rows.entries()) yield { view: domainView(row, false, rules), decision: decisions[n] };
  }
}
