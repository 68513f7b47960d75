import { getEngine } from '../../../../server';
import { route } from '../../../respond';

/** Fits the points of the spam rules to the person's marks; all scorecards get the new points. */
export const POST = route('POST /measures/points', async () => ({ report: await getEngine().refit() }));

/** Takes the last fit back. */
export const DELETE = route('DELETE /measures/points', async () => {
  await getEngine().unfit();
  return new Response(null, { status: 204 });
});
