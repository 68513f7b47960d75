import { forgetStore, getEngine } from '../../../../../server';
import { handle } from '../../../../respond';

/** Puts a copy in place of what is there now, which is kept as a copy itself. Answers once the engine is back with it. */
export const POST = handle(async (_, { name }) => {
  const kept = await getEngine().restore(decodeURIComponent(name));
  forgetStore();
  return Response.json({ restored: name, kept });
});
