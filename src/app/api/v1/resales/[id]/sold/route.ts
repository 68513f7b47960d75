import { actor } from '../../../../../../core/work/actor';
import { saleView } from '../../../../../../services/selling/selling';
import { inquiriesOf } from '../../../../../../store/portfolio/inquiries';
import { readResale } from '../../../../../../store/portfolio/resale-rows';
import { takeNews } from '../../../../../../store/portfolio/resales';
import { Problem, route } from '../../../../respond';
import { resaleOf } from '../../sale-of';

/** Says by hand that it is sold, for how much, and what the venue kept. */
export const POST = route('POST /resales/{id}/sold', async ({ params: { id }, body }) => {
  const { store, sale } = await resaleOf(id);
  const { finalMinor, feesMinor } = body;
  if (sale.state !== 'by hand') throw new Problem(409, 'It was not done', 'Its venue says whether it is sold.');
  const news = { state: 'sold' as const, finalMinor, feesMinor, reason: null, inquiries: inquiriesOf(store, sale.id) };
  takeNews(store, sale.id, news, actor());
  return { sale: saleView(store, readResale(store, sale.id) ?? sale) };
});
