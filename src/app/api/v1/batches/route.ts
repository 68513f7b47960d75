import { Readable } from 'node:stream';
import { jobView } from '../../../../services/pool/views';
import { listBatches } from '../../../../store/sources/batches';
import { addSource } from '../../../../store/sources/sources';
import { getEngine, getStore } from '../../../server';
import { Problem, route } from '../../respond';
import { saveUpload, uploadPath } from '../../uploads';

/** Batches that were checked, the latest first. */
export const GET = route('GET /batches', async () => ({ batches: listBatches(await getStore()) }));

/** Names or addresses in a text, between spaces, commas, semicolons or lines: kept as a source, then checked. */
export const POST = route('POST /batches', async ({ body }) => {
  const { text, name, depth, freshMinutes } = body;
  const pieces = text.split(/[\s,;|]+/).filter(Boolean);
  if (pieces.length === 0)
    throw new Problem(400, 'Nothing to check', 'There is no name in the text.', 'Paste domains or addresses.');
  const store = await getStore();
  const upload = await saveUpload(Readable.from(eachLine(pieces)));
  const shape = { delimiter: ',', hasHeader: false, columns: ['domain' as const] };
  const path = uploadPath(upload);
  const freshMs = freshMinutes * 60_000;
  const sourceId = addSource(store, 'list', name ?? `Batch of ${pieces.length.toLocaleString('en')}`, {
    ...shape,
    isBatch: true,
    depth,
    freshMs,
  });
  const check = { kind: 'check' as const, sourceId, params: { sourceId, freshMs, depth } };
  const job = await getEngine().addJob({
    kind: 'list',
    sourceId,
    params: { ...shape, path, format: 'table', keys: [], venue: null, excludedEndings: [] },
    next: [check],
  });
  return { id: sourceId, pieces: pieces.length, job: jobView(job) };
});

function* eachLine(pieces: string[]): Generator<Buffer> {
  for (let at = 0; at < pieces.length; at += 2000) yield Buffer.from(`${pieces.slice(at, at + 2000).join('\n')}\n`);
}
