import { getEngine } from '../../../../../server';
import { handle, readId } from '../../../../respond';

export const POST = handle(async (_request, { id }) => Response.json(await getEngine().undo(readId(id))));
