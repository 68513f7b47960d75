import type { PoolAnswer, PoolQuery } from '../core/pool/query';
import { readRates } from '../store/database';
import { readDomains } from '../store/domains';
import { noteVisit } from '../store/marks';
import { shortlistIds } from '../store/shortlist';
import { freshSieves } from '../store/sieves';
import type { DomainView } from '../ui/types';
import { currentBrief, getEngine } from './server';
import { domainView } from './views';

/** Asks the engine for a window of the pool, and draws its rows for the current brief. */
export async function askPool(query: PoolQuery): Promise<Omit<PoolAnswer, 'ids' | 'names'> & { rows: DomainView[] }> {
  const { store, brief } = await currentBrief();
  noteVisit(store, store.now());
  const { ids, names, said, ...answer } = await getEngine().queryPool(query);
  const shortlisted = shortlistIds(store, brief.id);
  const rates = readRates(store);
  const fresh = freshSieves(store, ids);
  const byId = new Map(ids.map((id, index) => [id, { ...names[index], said: said[index] }]));
  const rows = readDomains(store, ids).map((row) =>
    domainView(row, shortlisted.has(row.id), rates, {
      starts: byId.get(row.id)?.starts ?? [],
      matches: byId.get(row.id)?.matches ?? [],
      freshIn: fresh.get(row.id) ?? [],
      sayability: byId.get(row.id)?.said?.sayability ?? null,
      nameSubject: byId.get(row.id)?.said?.subject ?? null,
    }),
  );
  return { ...answer, rows };
}
