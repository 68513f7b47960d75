import { write } from '../../store/base/database';
import { freshStore } from '../../store/base/testing';
import { putDomain } from '../../store/domains/domains';
import { type listBriefs, saveBrief } from '../../store/shortlist/briefs';
import { PoolHost } from './host';

/** A pool of some bare domains. */
export async function poolOf(many: number) {
  const store = await freshStore();
  const ids = write(store, () =>
    Array.from({ length: many }, (_, i) => putDomain(store, { name: `vale${i}.org`, ending: 'org' }, true, 5000).id),
  );
  const pool = new PoolHost(store);
  pool.rebuild();
  return { store, pool, ids };
}

export function addBriefForTest(store: Parameters<typeof listBriefs>[0]): number {
  return saveBrief(store, {
    name: 'Bees',
    purpose: 'rebuild',
    subjectWords: [],
    trustedSites: [],
    excludedEndings: [],
    budgetMinor: null,
    currency: 'EUR',
  });
}
