import { z } from 'zod';

/** What a person can be told of. */
export const NEWS_KINDS = ['hits', 'changes', 'orders', 'deadlines'] as const;
export type NewsKind = (typeof NEWS_KINDS)[number];

/** How it reaches them, beside the calendar and the daily digest. */
export const NEWS_WAYS = ['browser', 'mail', 'webhook'] as const;
export type NewsWay = (typeof NEWS_WAYS)[number];

export const NEWS_WORDS: Record<NewsKind, string> = {
  hits: 'new names in sieves of the digest',
  changes: 'changes of watched and shortlisted names',
  orders: 'what came of orders',
  deadlines: 'deadlines that come near',
};

const Ways = z.array(z.enum(NEWS_WAYS)).max(NEWS_WAYS.length);
/** Which kind reaches a person by which ways. */
export const Tells = z.object({ hits: Ways, changes: Ways, orders: Ways, deadlines: Ways });
export type Tells = z.infer<typeof Tells>;
export const NO_TELLS: Tells = { hits: [], changes: [], orders: [], deadlines: ['browser'] };

/** One thing that happened. */
export const NewsSchema = z.object({
  /** The same each time that it is told. */
  id: z.string(),
  kind: z.enum(NEWS_KINDS),
  /** When it happened; of a deadline when it is. ms since 1970 UTC. */
  at: z.number(),
  domain: z.string(),
  words: z.string(),
});
export type News = z.infer<typeof NewsSchema>;

/** Kinds that a way is chosen for. */
export function kindsBy(tells: Tells, way: NewsWay): NewsKind[] {
  return NEWS_KINDS.filter((kind) => tells[kind].includes(way));
}

/** What a webhook is sent, as text: the address of each name with it. @param base the address by which the product is reached. */
export function webhookBody(news: readonly News[], base: string, at: number): string {
  return JSON.stringify({
    from: 'Jam Ladle',
    at: new Date(at).toISOString(),
    events: news.map(({ id, kind, at: when, domain, words }) => ({
      id,
      kind,
      at: new Date(when).toISOString(),
      domain,
      words,
      link: `${base}/domains/${domain}`,
    })),
  });
}
