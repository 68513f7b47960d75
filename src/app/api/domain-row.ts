import { registrableDomain } from '../../core/names/domain';
import type { Store } from '../../store/base/database';
import { type DomainRow, findDomain } from '../../store/domains/domains';
import { getStore } from '../server';
import { notFound } from './respond';

/** Domains of the pool by their names, in the same order. @throws Problem with the first that is not known. */
export function namedRows(store: Store, names: readonly string[]): DomainRow[] {
  return names.map((name) => {
    const domain = registrableDomain(name);
    const row = domain && findDomain(store, domain.name);
    if (!row) throw notFound(`domain "${name.slice(0, 80)}" in the pool`);
    return row;
  });
}

/** The domain that an address names, with its store. @throws Problem where it is not known. */
export async function domainRow(name: string): Promise<{ store: Store; row: DomainRow }> {
  const store = await getStore();
  const [row] = namedRows(store, [decodeURIComponent(name)]);
  return { store, row };
}
