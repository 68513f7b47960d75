import { domainRow } from '../../../../../../app/api/domain-row';
import { recordAct } from '../../../../../../store/domains/acts';
import { addMarkReview, markReviewsOf } from '../../../../../../store/domains/word-marks';
import { route } from '../../../../respond';

/** Keeps what the person decided about trademarks that are like the name. Earlier decisions stay on record. */
export const POST = route('POST /domains/{name}/marks', async ({ params: { name }, body }) => {
  const { verdict, note } = body;
  const { store, row } = await domainRow(name);
  const { act } = recordAct(
    store,
    { kind: 'marks', words: `${row.name}: trademarks judged ${verdict}` },
    [{ table: 'mark_reviews', where: { domain_id: row.id } }],
    () => addMarkReview(store, row.id, verdict, note),
  );
  return { reviews: markReviewsOf(store, row.id), act };
});
