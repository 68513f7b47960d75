import { saleView } from '../../../../../../services/selling/selling';
import { readSettings } from '../../../../../../store/base/settings';
import { answerBuyer } from '../../../../../../store/portfolio/inquiries';
import { readResale } from '../../../../../../store/portfolio/resale-rows';
import { getEngine } from '../../../../../server';
import { Problem, route } from '../../../../respond';
import { resaleOf } from '../../sale-of';

/** Answers who asked for it: accepts the offer, asks for more, or declines. It is on disk before it is sent. */
export const POST = route('POST /resales/{id}/answers', async ({ params: { id }, body }) => {
  const { store, sale } = await resaleOf(id);
  const answer = body;
  if (sale.state !== 'by hand' && readSettings(store).isDryRun)
    throw new Problem(409, 'It was not done', 'The dry run is on (Settings): nothing goes out.');
  answerBuyer(store, sale.id, answer);
  if (sale.state !== 'by hand') await getEngine().resaleLook(sale.id);
  return { sale: saleView(store, readResale(store, sale.id) ?? sale) };
});
