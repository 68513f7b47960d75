import { InquirySchema } from '../../../../../../contracts/selling';
import { saleView } from '../../../../../../services/selling/selling';
import { noteInquiry } from '../../../../../../store/portfolio/resales';
import { handle, readJson } from '../../../../respond';
import { resaleOf } from '../../sale-of';

/** Notes by hand that somebody asked, where no venue says so. */
export const POST = handle(async (request, { id }) => {
  const { store, sale } = await resaleOf(id);
  const inquiry = await readJson(request, InquirySchema);
  noteInquiry(store, sale.id, inquiry);
  return Response.json({ sale: saleView(store, sale) }, { status: 201 });
});
