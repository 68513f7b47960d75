import { readTypedLine } from '../../../../../services/pool/typed-line';
import { getEngine, getStore } from '../../../../server';
import { route } from '../../../respond';

export const POST = route('POST /pool/line', async ({ body: { text } }) =>
  readTypedLine(await getStore(), getEngine(), text),
);
