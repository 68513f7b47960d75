import type { ListLook } from '../../contracts/sources';
import { type Given, previewList } from '../../core/formats/list-columns';
import type { ListField } from '../../core/formats/list-fields';
import { headerKey } from '../../core/formats/referrers';
import type { Store } from '../../store/base/database';
import { rememberColumns, rememberedColumns } from '../../store/sources/mappings';
import { plainTable } from '../files/plain-table';
import { lookAtFile } from '../files/text-file';

/** What a person has corrected, and which sheet it is to be. */
export type ListGiven = Given & { sheet?: string | null };

/** Recognises a list from its start; columns that its header was read with before come first. @throws JobError */
export async function lookAtList(store: Store, path: string, corrected: ListGiven): Promise<ListLook> {
  const { sheet: wanted, ...given } = corrected;
  const table = await plainTable(path, wanted);
  const { sample, charset, gzip } = await lookAtFile(table.path);
  const now = store.now();
  const guess = previewList(sample, given, now);
  const known = given.columns ? null : rememberedColumns(store, listKey(guess.header));
  const remembered = known !== null && known.length === guess.columns.length;
  const preview = remembered ? previewList(sample, { ...given, columns: known as ListField[] }, now) : guess;
  return { ...preview, charset, gzip, remembered, sheets: table.sheets, sheet: table.sheet };
}

/** Keeps what the columns of a list mean, for the next file with its header. */
export function rememberList(store: Store, { header }: ListLook, columns: readonly ListField[]): void {
  if (header) rememberColumns(store, listKey(header), 'list', columns);
}

/** A referrer file may have the same header and mean something else by it. */
function listKey(header: string[] | null): string {
  return header ? `list: ${headerKey(header)}` : '';
}
