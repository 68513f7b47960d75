import { z } from 'zod';
import { type FoundPages, isPageQuestion, type PageQuestion } from '../../core/verdict/page-questions';
import { type Store, write } from '../base/database';
import { all, fromJson, knex, run } from '../base/query';

const Pages = z.array(z.object({ url: z.string(), title: z.string() }));

/** What was said last of each question about a domain. */
export function foundPagesOf(store: Store, domainId: number): Partial<Record<PageQuestion, FoundPages>> {
  const rows = all(
    store,
    knex('found_pages').select('item', 'at', 'who', 'total', 'pages').where('domain_id', domainId),
  );
  return Object.fromEntries(
    rows.flatMap(({ item, pages, ...rest }) =>
      isPageQuestion(item) ? [[item, { ...rest, pages: fromJson(Pages, pages) }]] : [],
    ),
  );
}

/** Keeps an answer in the place of the one before. */
export function keepFoundPages(store: Store, domainId: number, item: PageQuestion, found: FoundPages): void {
  const { at, who, total, pages } = found;
  write(store, () =>
    run(
      store,
      knex('found_pages')
        .insert({ domain_id: domainId, item, at, who, total, pages: JSON.stringify(pages) })
        .onConflict(['domain_id', 'item'])
        .merge(),
    ),
  );
}
