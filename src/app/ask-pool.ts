import type { PoolAnswer, PoolQuery } from '../core/pool/query';
import { readRates } from '../store/database';
import { readDomains } from '../store/domains';
import { shortlistIds } from '../store/shortlist';
import type { DomainView } from '../ui/types';
import { currentBrief, getEngine } from './server';
import { domainView } from './views';

/** Asks the engine for a window of the pool, and draws its rows for the current brief. */
export async function askPool(
  query: Omit<PoolQuery, 'nowSeconds'>,
): Promise<Omit<PoolAnswer, 'ids'> & { rows: DomainView[] }> {
  const { ids, ...answer } = await getEngine().queryPool(query);
  const { store, brief } = await currentBrief();
  const shortlisted = shortlistIds(store, brief.id);
  const rates = readRates(store);
  return { ...answer, rows: readDomains(store, ids).map((row) => domainView(row, shortlisted.has(row.id), rates)) };
}
