import type { SiteYield } from '../../contracts/sources';

export interface Suggestion {
  site: string;
  /** Lapsed domains per 100 pages read. */
  per100: number;
  /** Pages that are known and were not read. */
  left: number;
}

const FEW_PAGES = 5;
/** Fewer left than this are not worth a word. */
const FEW_LEFT = 10;

/** Sites worth reading deeper: those that gave more than the crawl as a whole and have pages left, best first. */
export function suggestDeeper(sites: SiteYield[], most = 5): Suggestion[] {
  const pages = sites.reduce((sum, site) => sum + site.pages, 0);
  const lapsed = sites.reduce((sum, site) => sum + site.lapsed, 0);
  const average = pages > 0 ? lapsed / pages : 0;
  return sites
    .filter(
      ({ state, pages: read, lapsed: found, queued, beyond }) =>
        state === 'reading' && read >= FEW_PAGES && queued + beyond >= FEW_LEFT && found / read > average,
    )
    .map(({ site, pages: read, lapsed: found, queued, beyond }) => ({
      site,
      per100: (found / read) * 100,
      left: queued + beyond,
    }))
    .sort((a, b) => b.per100 - a.per100)
    .slice(0, most);
}
