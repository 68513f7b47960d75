import { forgetStore, getEngine } from '../../../../../server';
import { route } from '../../../../respond';

/** Puts a copy in place of what is there now, which is kept as a copy itself. Answers once the engine is back with it. */
export const POST = route('POST /backups/{name}/restore', async ({ params: { name } }) => {
  const { name: restored, aside: kept } = await getEngine().restore(decodeURIComponent(name));
  forgetStore();
  return { restored, kept };
});
