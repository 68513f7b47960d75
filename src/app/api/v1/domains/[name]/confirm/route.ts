import { getEngine } from '../../../../../server';
import { domainRow } from '../../../../domain-row';
import { handle } from '../../../../respond';

/** Takes the verdict again now, down to the registrar, before all other questions. Answers with what it was and is. Takes seconds. */
export const POST = handle(async (_request, { name }) => {
  const { row } = await domainRow(name);
  return Response.json(await getEngine().confirm(row.id));
});
