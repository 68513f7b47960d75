import { registrableDomain } from '../../core/names/domain';
import { MOST_COMPARED } from '../../services/comparison/comparison';
import type { Store } from '../../store/base/database';
import { readDomains } from '../../store/domains/domains';

/** The domains that an address wants compared, each once, and what is wrong with the others. */
export function comparedNames(asked: readonly string[]): { names: string[]; problems: string[] } {
  const names: string[] = [];
  const problems: string[] = [];
  for (const text of asked.flatMap((one) => one.split(/[\s,]+/)).filter(Boolean)) {
    const domain = registrableDomain(text);
    if (!domain) problems.push(`"${text.slice(0, 80)}" is no registrable domain.`);
    else if (!names.includes(domain.name)) names.push(domain.name);
  }
  if (names.length > MOST_COMPARED)
    problems.push(`${MOST_COMPARED} domains stand side by side; ${names.length} were named.`);
  return { names: names.slice(0, MOST_COMPARED), problems };
}

/** Names of domains by their numbers, as the pool hands them over; numbers of none are passed over. */
export function namesOfIds(store: Store, ids: readonly string[]): string[] {
  const numbers = ids.filter((id) => /^\d{1,15}$/.test(id)).map(Number);
  return readDomains(store, numbers.slice(0, MOST_COMPARED + 1)).map(({ name }) => name);
}
