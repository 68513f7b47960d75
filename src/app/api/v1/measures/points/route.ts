import { getEngine } from '../../../../server';
import { handle } from '../../../respond';

/** Fits the points of the spam rules to the person's marks; all scorecards get the new points. */
export const POST = handle(async () => Response.json({ report: await getEngine().refit() }, { status: 201 }));

/** Takes the last fit back. */
export const DELETE = handle(async () => {
  await getEngine().unfit();
  return new Response(null, { status: 204 });
});
