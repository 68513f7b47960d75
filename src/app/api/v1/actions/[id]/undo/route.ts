import { getEngine } from '../../../../../server';
import { readId, route } from '../../../../respond';

export const POST = route('POST /actions/{id}/undo', async ({ params: { id } }) => await getEngine().undo(readId(id)));
