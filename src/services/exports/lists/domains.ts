import { columnsFor, type ExportColumn } from '../../../core/formats/exports';
import type { DomainView } from '../../../core/pool/domain-view';
import { domainColumns } from '../../../core/pool/export-columns';
import type { Store } from '../../../store/base/database';
import { readDomains } from '../../../store/domains/domains';
import { notesOf } from '../../../store/domains/notes';
import { type Brief, listBriefs } from '../../../store/shortlist/briefs';
import { readShortlist } from '../../../store/shortlist/shortlist';
import { domainView, viewRules } from '../../pool/views';
import { type ExportTable, exportTable } from '../table';

const CHUNK = 1000;

/** Domains by their numbers, in that order. @param shown columns of the pool that are wanted; null: all. */
export function domainsTable(
  store: Store,
  ids: readonly number[],
  shown: readonly string[] | null,
  name: string,
): ExportTable {
  return exportTable(name, domainColumns(shown), domainRows(store, ids));
}

async function* domainRows(store: Store, ids: readonly number[]): AsyncGenerator<DomainView> {
  const rules = viewRules(store);
  for (let at = 0; at < ids.length; at += CHUNK)
    for (const row of readDomains(store, ids.slice(at, at + CHUNK))) yield domainView(row, false, rules);
}

/** A shortlist: a row a name, with what was decided and noted of it, and where its evidence stands. @param home where pages of the product are found. */
export function shortlistTable(store: Store, brief: Pick<Brief, 'id' | 'currency'>, home: string): ExportTable {
  const rules = viewRules(store);
  const rows = readShortlist(store, brief.id).map((entry) => ({ view: domainView(entry.domain, true, rules), entry }));
  type Row = (typeof rows)[number];
  const { text, money, list } = columnsFor<Row>();
  const ofDomain = domainColumns(null).map(
    (column): ExportColumn<Row> => ({ ...column, of: ({ view }) => column.of(view) }),
  );
  return exportTable(
    'shortlist',
    [
      ...ofDomain,
      text('stage', ({ entry }) => entry.stage, 'how far it is'),
      money('maximum_bid', ({ entry }) => entry.maximumBidMinor, 'what you would pay at most'),
      text('note', ({ entry }) => entry.note, 'what you noted with the bid'),
      money('worth_low', ({ entry }) => entry.worthLowMinor, 'what it is worth to you at least'),
      money('worth_high', ({ entry }) => entry.worthHighMinor, 'and at most'),
      text('brief_currency', () => brief.currency, 'of these amounts, ISO 4217'),
      list(
        'notes',
        ({ entry }) => notesOf(store, entry.domainId).map(({ text: words }) => words),
        'what you noted of the domain, the latest first',
      ),
      text('evidence', ({ view }) => `${home}/domains/${view.name}`, 'where its evidence stands'),
    ],
    rows,
  );
}

/** The brief of a number. */
export const briefOf = (store: Store, id: number): Brief | null =>
  listBriefs(store).find((brief) => brief.id === id) ?? null;
