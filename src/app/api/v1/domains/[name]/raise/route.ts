import { domainRow } from '../../../../../../app/api/domain-row';
import { write } from '../../../../../../store/base/database';
import { placeOf } from '../../../../../../store/lifecycle/question-queues';
import { addQuestions, NOBODY } from '../../../../../../store/lifecycle/questions';
import { route } from '../../../../respond';

/** Asks about a domain before all others. Answers with its place in the queue. */
export const POST = route('POST /domains/{name}/raise', async ({ params: { name } }) => {
  const { store, row } = await domainRow(name);
  write(store, () => addQuestions(store, NOBODY, [row.id], 'record', 'raised'));
  return { place: placeOf(store, row.id) };
});
