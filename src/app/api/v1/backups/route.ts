import { existsSync, readdirSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { jobView } from '../../../../services/pool/views';
import { getEngine, getStore } from '../../../server';
import { route } from '../../respond';

/** Copies of the data folder that are kept, the latest first; each can be started with. */
export const GET = route('GET /backups', async () => {
  const folder = join((await getStore()).folder, 'backups');
  const names = existsSync(folder) ? readdirSync(folder).filter((name) => !name.endsWith('.partial')) : [];
  const backups = names
    .sort()
    .reverse()
    .map((name) => ({
      path: join(folder, name),
      databaseBytes: statSync(join(folder, name, 'jam-ladle.sqlite')).size,
    }));
  return { backups };
});

/** Copies the data folder while the product runs. */
export const POST = route('POST /backups', async () => {
  const job = await getEngine().addJob({ kind: 'backup', sourceId: null, params: {} });
  return { job: jobView(job) };
});
