import { decisionsOn } from '../../../../services/decision/decision';
import { currentBrief } from '../../../server';
import { namedRows } from '../../domain-row';
import { route } from '../../respond';

/** What a decision on domains rests on. */
export const POST = route('POST /decisions', async ({ body }) => {
  const { store, engine, briefs, brief: current } = await currentBrief();
  const brief = briefs.find(({ id }) => id === body.brief) ?? current;
  return { decisions: await decisionsOn(store, engine, brief, namedRows(store, body.names)) };
});
