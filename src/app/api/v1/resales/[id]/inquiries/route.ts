import { saleView } from '../../../../../../services/selling/selling';
import { noteInquiry } from '../../../../../../store/portfolio/inquiries';
import { answered, route } from '../../../../respond';
import { resaleOf } from '../../sale-of';

/** Notes by hand that somebody asked, where no venue says so. */
export const POST = route('POST /resales/{id}/inquiries', async ({ params: { id }, body }) => {
  const { store, sale } = await resaleOf(id);
  const inquiry = body;
  noteInquiry(store, sale.id, inquiry);
  return answered(201, { sale: saleView(store, sale) });
});
