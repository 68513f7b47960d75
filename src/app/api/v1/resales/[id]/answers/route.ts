import { AnswerSchema } from '../../../../../../contracts/selling';
import { saleView } from '../../../../../../services/selling/selling';
import { readSettings } from '../../../../../../store/base/database';
import { answerBuyer, readResale } from '../../../../../../store/portfolio/resales';
import { getEngine } from '../../../../../server';
import { handle, Problem, readJson } from '../../../../respond';
import { resaleOf } from '../../sale-of';

/** Answers who asked for it: accepts the offer, asks for more, or declines. It is on disk before it is sent. */
export const POST = handle(async (request, { id }) => {
  const { store, sale } = await resaleOf(id);
  const answer = await readJson(request, AnswerSchema);
  if (sale.state !== 'by hand' && readSettings(store).isDryRun)
    throw new Problem(409, 'It was not done', 'The dry run is on (Settings): nothing goes out.');
  answerBuyer(store, sale.id, answer);
  if (sale.state !== 'by hand') await getEngine().resaleLook(sale.id);
  return Response.json({ sale: saleView(store, readResale(store, sale.id) ?? sale) });
});
