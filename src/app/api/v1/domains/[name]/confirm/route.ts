import { domainRow } from '../../../../../../app/api/domain-row';
import { getEngine } from '../../../../../server';
import { route } from '../../../../respond';

/** Takes the verdict again now, down to the registrar, before all other questions. Answers with what it was and is. Takes seconds. */
export const POST = route('POST /domains/{name}/confirm', async ({ params: { name } }) => {
  const { row } = await domainRow(name);
  return await getEngine().confirm(row.id);
});
