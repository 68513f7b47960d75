import { registrableDomain } from '../../core/names/domain';
import { write } from '../../store/base/database';
import { addSource } from '../../store/sources/sources';
import { putWatchedFile, type Watch, type WatchedFile } from '../../store/sources/watches';
import { lookAtList } from '../lists/preview';
import { type JobContext, JobError } from '../runner/context';

/**
 * Makes a source of a file and orders its import.
 *
 * @param file as what it is remembered; left out: it is not.
 * @param leastDomains how many domains its first rows have to hold: a text that nobody meant as a list has one or two.
 * @returns what happened, in words.
 * @throws JobError when it is no list.
 */
export async function importWatched(
  { store, order }: JobContext,
  watch: Watch,
  path: string,
  name: string,
  hash: string,
  file?: WatchedFile,
  leastDomains = 0,
): Promise<string> {
  const look = await lookAtList(store, path, {});
  const { columns, delimiter, hasHeader, headRows, sheet, format, keys, rows } = look;
  const at = columns.indexOf('domain');
  if (at < 0) throw new JobError('no column looks like it holds domains');
  const domains = rows.filter((row) => registrableDomain(row[at] ?? '') !== null).length;
  if (domains < leastDomains) throw new JobError('no list of domains is in it');
  const sourceId = addSource(store, 'list', name, { columns, delimiter, hasHeader, watch: watch.id, hash });
  if (file) write(store, () => putWatchedFile(store, watch.id, file, sourceId));
  const { excludedEndings, checkAfter } = watch.options;
  const check = { kind: 'check', sourceId, params: { sourceId } } as const;
  order({
    kind: 'list',
    sourceId,
    params: { path, format, keys, delimiter, hasHeader, headRows, sheet, columns, excludedEndings },
    next: checkAfter ? [{ ...check, next: [{ kind: 'measure', sourceId, params: { sourceId } }] }] : [],
  });
  return `${name} is new and is being read`;
}
