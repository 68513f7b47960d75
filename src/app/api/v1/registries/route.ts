import { queueViews } from '../../../../services/availability/queues';
import { getStore } from '../../../server';
import { route } from '../../respond';

/** Servers that answer questions on domains: how often each may be asked, what it taught, and when its questions will be through. */
export const GET = route('GET /registries', async () => ({ registries: queueViews(await getStore()) }));
