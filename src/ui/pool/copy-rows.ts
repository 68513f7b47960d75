'use client';

import { toast } from 'sonner';
import type { PoolView } from '../../core/pool/conditions';
import type { DomainView } from '../../core/pool/domain-view';
import { count } from '../../core/wording/format';
import { shownColumns } from './columns';
import { exportWhich, type Selection } from './selection';

interface Copied {
  view: PoolView;
  address: string;
  selection: Selection;
  /** How many rows are selected, of how many. */
  selected: number;
  total: number;
  rowAt(index: number): DomainView | undefined;
  now: number;
}

/** Puts the selected rows on the clipboard, tab-separated, with the columns that are shown; what is not there to be read comes from the export. */
export async function copyRows({ view, address, selection, selected, total, rowAt, now }: Copied): Promise<void> {
  try {
    const columns = shownColumns(view.columns).map(({ column }) => column);
    const rows: DomainView[] = [];
    for (let i = 0; i < total && rows.length < selected; i++) {
      const row = rowAt(i);
      if (!row) break;
      if (selection.all ? !selection.except.has(row.id) : selection.ids.has(row.id)) rows.push(row);
    }
    const isThere = rows.length === selected && !columns.some(({ isAside }) => isAside);
    const text = isThere
      ? rows.map((row) => columns.map((column) => column.text(row, now)).join('\t')).join('\n')
      : await exported(
          exportWhich(selection, address),
          columns.map(({ id }) => id),
        );
    await navigator.clipboard.writeText(text);
    toast(`${count(selected)} ${selected === 1 ? 'row' : 'rows'} copied`);
  } catch (error) {
    toast(`Not copied: ${(error as Error).message}`);
  }
}

/** The rows as the file has them, without its heads. */
async function exported(which: string, columns: string[]): Promise<string> {
  const form = new FormData();
  form.set('format', 'tsv');
  form.set('which', which);
  form.set('columns', `0|${columns.join(',')}`);
  const answer = await fetch('/api/v1/export', { method: 'POST', body: form });
  if (!answer.ok) throw new Error('the rows could not be read');
  return (await answer.text())
    .replace(/\r?\n$/, '')
    .split(/\r?\n/)
    .slice(1)
    .join('\n');
}
