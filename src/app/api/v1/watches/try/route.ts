import { getEngine } from '../../../../server';
import { route } from '../../../respond';

/** Looks into a mail folder that need not be watched. */
export const POST = route('POST /watches/try', ({ body }) => getEngine().tryMailbox(body));
