import { ResaleRefused, readResale } from '../../../../store/resales';
import { getStore } from '../../../server';
import { notFound, Problem, readId } from '../../respond';

/** What the rules of a sale refuse is a conflict, in words. */
export function refusals<T>(act: () => T): T {
  try {
    return act();
  } catch (error) {
    if (!(error instanceof ResaleRefused)) throw error;
    throw new Problem(409, 'It was not done', `${error.message[0].toUpperCase()}${error.message.slice(1)}.`);
  }
}

/** The sale that an address names. @throws Problem where there is none. */
export async function resaleOf(id: string) {
  const store = await getStore();
  const sale = readResale(store, readId(id));
  if (!sale) throw notFound(`sale ${id.slice(0, 20)}`);
  return { store, sale };
}
