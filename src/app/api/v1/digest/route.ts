import { getEngine } from '../../../server';
import { route } from '../../respond';

export const POST = route('POST /digest', async () => await getEngine().makeDigest());
