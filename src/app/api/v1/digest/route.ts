import { getEngine } from '../../../server';
import { handle } from '../../respond';

export const POST = handle(async () => Response.json(await getEngine().makeDigest()));
