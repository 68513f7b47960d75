import type { ListLook } from '../../contracts/sources';
import { type ListShape, previewList } from '../../core/formats/list-columns';
import type { ListField } from '../../core/formats/list-fields';
import { headerKey } from '../../core/formats/referrers';
import type { Store } from '../../store/base/database';
import { rememberColumns, rememberedColumns } from '../../store/sources/mappings';
import { lookAtFile } from '../files/text-file';
import { asTextFile } from '../files/workbook';

/** Recognises a list from its start; columns that its header was read with before come first. @throws JobError */
export async function lookAtList(store: Store, path: string, given: Partial<ListShape>): Promise<ListLook> {
  const { sample, charset, gzip } = await lookAtFile(await asTextFile(path));
  const guess = previewList(sample, given);
  const known = given.columns ? null : rememberedColumns(store, listKey(guess.header));
  const remembered = known !== null && known.length === guess.columns.length;
  const preview = remembered ? previewList(sample, { ...given, columns: known as ListField[] }) : guess;
  return { ...preview, charset, gzip, remembered };
}

/** Keeps what the columns of a list mean, for the next file with its header. */
export function rememberList(store: Store, { header }: ListLook, columns: readonly ListField[]): void {
  if (header) rememberColumns(store, listKey(header), 'list', columns);
}

/** A referrer file may have the same header and mean something else by it. */
function listKey(header: string[] | null): string {
  return header ? `list: ${headerKey(header)}` : '';
}
