import { laneViews } from '../../../../services/availability/lanes';
import { getStore } from '../../../server';
import { handle } from '../../respond';

/** Servers that answer questions on domains: how often each may be asked, what it taught, and when its questions will be through. */
export const GET = handle(async () => Response.json({ registries: laneViews(await getStore()) }));
