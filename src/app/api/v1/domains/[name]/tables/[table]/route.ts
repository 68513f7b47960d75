import { domainRow } from '../../../../../../../app/api/domain-row';
import { csvLine } from '../../../../../../../core/formats/csv';
import { readReferrers } from '../../../../../../../services/dossier/referrers';
import { EVIDENCE_TABLES, type EvidenceTable, tableOf } from '../../../../../../../services/dossier/tables';
import { notFound, route } from '../../../../../respond';

/** A table of evidence: sorted, searched, a part of it, or all of what was found as CSV or JSON Lines. */
export const GET = route('GET /domains/{name}/tables/{table}', async ({ query, params: { name, table } }) => {
  const { row, store } = await domainRow(name);
  if (!EVIDENCE_TABLES.includes(table as EvidenceTable)) throw notFound(`table "${table.slice(0, 40)}"`);
  const { format, order, ...rest } = query;
  const all = format === 'json' ? rest : { ...rest, offset: 0, limit: Number.MAX_SAFE_INTEGER };
  await readReferrers(store, row);
  const view = tableOf(store, row, table as EvidenceTable, { ...all, descending: order === 'down' });
  if (format === 'json') return view;
  const { columns, rows } = view;
  const cells = rows.map(({ cells: values, note }) => [
    ...values.map((value, n) =>
      columns[n].type === 'time' && typeof value === 'number' ? new Date(value).toISOString() : value,
    ),
    note ?? null,
  ]);
  const titles = [...columns.map(({ key }) => key), 'note'];
  const text =
    format === 'csv'
      ? csvLine(titles) + cells.map(csvLine).join('')
      : cells.map((values) => `${JSON.stringify(Object.fromEntries(values.map((v, n) => [titles[n], v])))}\n`).join('');
  return new Response(text, {
    headers: {
      'content-type': format === 'csv' ? 'text/csv; charset=utf-8' : 'application/jsonl; charset=utf-8',
      'content-disposition': `attachment; filename="${row.name}-${table}.${format}"`,
    },
  });
});
