import { readResale } from '../../../../store/portfolio/resale-rows';
import { getStore } from '../../../server';
import { notFound, readId } from '../../respond';

/** The sale that an address names. @throws Problem where there is none. */
export async function resaleOf(id: string) {
  const store = await getStore();
  const sale = readResale(store, readId(id));
  if (!sale) throw notFound(`sale ${id.slice(0, 20)}`);
  return { store, sale };
}
