import { registrableDomain } from '../../../../core/names/domain';
import { readOwnPages } from '../../../../core/redirects/own-pages';
import { crawledPages, ownSources, putOwnPages } from '../../../../store/portfolio/redirects';
import { getStore } from '../../../server';
import { textOf } from '../../bodies';
import { notFound, Problem, route } from '../../respond';

const MOST_BYTES = 40 * 1024 * 1024;
const MOST_PAGES = 50_000;

/** Where own pages are known from. */
export const GET = route('GET /own-pages', async () => ({ sources: ownSources(await getStore()) }));

/** Takes own pages: a sitemap, a table or addresses as the body; or, with `site`, what a crawl has read of a site. */
export const POST = route('POST /own-pages', async ({ request, query: { name, site } }) => {
  const store = await getStore();
  if (site !== null) {
    const domain = registrableDomain(site);
    const pages = domain ? crawledPages(store, domain.name, MOST_PAGES) : [];
    if (!domain || pages.length === 0) throw notFound(`page of "${site.slice(0, 80)}" that a crawl has read`);
    return { taken: putOwnPages(store, pages, domain.name), setAside: 0 };
  }
  const text = await textOf(request, MOST_BYTES, 'A list of pages');
  const { pages, indexes, aside, problem } = readOwnPages(text);
  if (problem)
    throw new Problem(
      400,
      'The file makes no sense',
      problem,
      'Give a sitemap.xml, a table with url and title, or addresses.',
    );
  if (indexes.length > 0)
    throw new Problem(
      400,
      'That is an index of sitemaps',
      `It names ${indexes.length} further sitemaps, such as ${indexes[0]}.`,
      'Send those, one after the other.',
    );
  return { taken: putOwnPages(store, pages, name), setAside: aside };
});
