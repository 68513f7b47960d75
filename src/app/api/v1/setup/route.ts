import { setupOf } from '../../../../services/setup/setup';
import { getStore } from '../../../server';
import { route } from '../../respond';

export const GET = route('GET /setup', async () => setupOf(await getStore()));
