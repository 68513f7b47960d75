import { domainRow } from '../../../../../../../app/api/domain-row';
import type { ExportColumn } from '../../../../../../../core/formats/exports';
import { readReferrers } from '../../../../../../../services/dossier/referrers';
import { EVIDENCE_TABLES, type EvidenceTable, tableOf } from '../../../../../../../services/dossier/tables';
import { exportTable } from '../../../../../../../services/exports/table';
import { exportAnswer } from '../../../../../export-answer';
import { notFound, route } from '../../../../../respond';

/** A table of evidence: sorted, searched, a part of it, or all of what was found as a file. */
export const GET = route('GET /domains/{name}/tables/{table}', async ({ query, params: { name, table } }) => {
  const { row, store } = await domainRow(name);
  if (!EVIDENCE_TABLES.includes(table as EvidenceTable)) throw notFound(`table "${table.slice(0, 40)}"`);
  const { format, order, ...rest } = query;
  const all = format === 'json' ? rest : { ...rest, offset: 0, limit: Number.MAX_SAFE_INTEGER };
  await readReferrers(store, row);
  const view = tableOf(store, row, table as EvidenceTable, { ...all, descending: order === 'down' });
  if (format === 'json') return view;
  const { columns, rows } = view;
  const kinds = { text: 'text', number: 'number', time: 'date' } as const;
  const file = exportTable(
    table,
    [
      ...columns.map(
        ({ key, title, type }, n): ExportColumn<(typeof rows)[number]> => ({
          title: key,
          kind: kinds[type],
          of: ({ cells }) => cells[n],
          about: title,
        }),
      ),
      { title: 'note', kind: 'text', of: ({ note }) => note ?? null, about: 'what more is known of it' },
    ],
    rows,
  );
  return exportAnswer(file, format, `${row.name}-${table}`);
});
