import { jobView } from '../../../../../services/pool/views';
import { getEngine } from '../../../../server';
import { route } from '../../../respond';

/** Reads which captures the files of web archives hold. */
export const POST = route('POST /setup/warc', async () => ({
  job: jobView(await getEngine().addJob({ kind: 'warc', sourceId: null, params: {} })),
}));
