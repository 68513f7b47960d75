import { domainRow } from '../../../../../../app/api/domain-row';
import { getEngine } from '../../../../../server';
import { handle } from '../../../../respond';

/** Takes the verdict again now, down to the registrar, before all other questions. Answers with what it was and is. Takes seconds. */
export const POST = handle(async (_request, { name }) => {
  const { row } = await domainRow(name);
  return Response.json(await getEngine().confirm(row.id));
});
