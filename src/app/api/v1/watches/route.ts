import { isAbsolute } from 'node:path';
import { WatchSchema } from '../../../../contracts/sources';
import { addWatch, listWatches, readWatch } from '../../../../store/sources/watches';
import { getStore } from '../../../server';
import { handle, Problem, readJson } from '../../respond';

const MINUTE = 60_000;

export const GET = handle(async () => Response.json({ watches: listWatches(await getStore()) }));

/** Watches a folder or an address; it is looked at at once, and again and again. */
export const POST = handle(async (request) => {
  const { kind, target, name, everyMinutes, excludedEndings, checkAfter } = await readJson(request, WatchSchema);
  if (kind === 'folder' && !isAbsolute(target))
    throw new Problem(400, 'Not a path', 'A folder is named by its whole path, from the root.');
  if (kind === 'address' && !/^https?:\/\/[^/]/i.test(target))
    throw new Problem(400, 'Not an address', 'An address begins with http:// or https://.');
  const store = await getStore();
  const options = { excludedEndings, checkAfter };
  const watch = { kind, target, name, options, sourceId: null, everyMs: everyMinutes * MINUTE };
  return Response.json({ watch: readWatch(store, addWatch(store, watch, store.now())) }, { status: 201 });
});
