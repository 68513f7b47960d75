import type { CutLook, LinkReading } from '../../contracts/sources';
import { guessLinkColumns, type LinkField } from '../../core/formats/link-rows';
import { previewList } from '../../core/formats/list-columns';
import { headerKey } from '../../core/formats/referrers';
import { registrableDomain } from '../../core/names/domain';
import type { Store } from '../../store/base/database';
import { rememberColumns, rememberedColumns } from '../../store/sources/mappings';
import { asTextFile } from '../files/plain-table';
import { lookAtFile } from '../files/text-file';

/** Recognises a link export from its start; columns that its header was read with before come first. @throws JobError */
export async function lookAtLinks(
  store: Store,
  path: string,
  given: { delimiter?: string; hasHeader?: boolean; columns?: LinkField[] },
): Promise<CutLook> {
  const { sample, charset, gzip } = await lookAtFile(await asTextFile(path));
  const {
    columns: _,
    readings: __,
    ...shape
  } = previewList(sample, {
    delimiter: given.delimiter,
    hasHeader: given.hasHeader,
  });
  const { header, rows } = shape;
  const known = given.columns || !header ? null : (rememberedColumns(store, linksKey(header)) as LinkField[] | null);
  const guess = header ? guessLinkColumns(header, rows) : guessByAddresses(rows);
  const columns = given.columns ?? known ?? guess;
  const readings = rows.map((row) => readLink(row, columns));
  return { ...shape, columns, readings, remembered: known !== null, charset, gzip };
}

/** Keeps what the columns of a link export mean, for the next file with its header. */
export function rememberLinks(store: Store, { header }: CutLook, columns: readonly LinkField[]): void {
  if (header) rememberColumns(store, linksKey(header), 'cut', columns);
}

function linksKey(header: string[]): string {
  return `links: ${headerKey(header)}`;
}

/** Without a header: the first two columns of addresses are from and to. */
function guessByAddresses(rows: string[][]): LinkField[] {
  const width = Math.max(0, ...rows.map((row) => row.length));
  let found = 0;
  return Array.from({ length: width }, (_, column) => {
    const hits = rows.filter((row) => /^(https?:)?\/\//i.test(row[column] ?? '')).length;
    return hits * 2 > rows.length && found < 2 ? (['from', 'to'] as const)[found++] : 'ignore';
  });
}

function readLink(row: string[], columns: readonly LinkField[]): LinkReading {
  const domainOf = (field: LinkField) => registrableDomain(row[columns.indexOf(field)] ?? '')?.name ?? null;
  const [from, to] = [domainOf('from'), domainOf('to')];
  return { from, to, isInside: from !== null && from === to };
}
