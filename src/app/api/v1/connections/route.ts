import { connectionViews, keepConnection } from '../../../../services/connections/connections';
import { getStore } from '../../../server';
import { answered, route } from '../../respond';

export const GET = route('GET /connections', async () => ({ connections: connectionViews(await getStore()) }));

export const POST = route('POST /connections', async ({ body }) =>
  answered(201, keepConnection(await getStore(), null, body)),
);
