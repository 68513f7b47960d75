import { getEngine } from '../../../../server';
import { route } from '../../../respond';

export const GET = route('GET /pool/known', async () => getEngine().knownFacts());
