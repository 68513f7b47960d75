import { z } from 'zod';
import { type Referring, weighReferrers } from '../links/effective';
import { templatePrint } from '../links/template';
import { registrableDomain } from '../names/domain';
import { kind, Text, Time } from './fields';

const Texts = z
  .array(z.string())
  .nullish()
  .transform((list) => list ?? []);

/** A referring domain with its link, or one of its links. */
export const Link = z.object({
  site: z.string().min(1),
  pages: z.coerce.number().nullish(),
  anchor: Text,
  nofollow: z.boolean().nullish(),
  firstSeenAt: Time,
  lapsedTargets: z.coerce.number().nullish(),
  registrant: Text,
  nameServers: Texts,
  addressBlock: Text,
  trackingIds: Texts,
  text: Text,
});
export type JudgedLink = z.infer<typeof Link>;

export const siteOf = (site: string) => registrableDomain(site)?.name ?? site.toLowerCase();

/** Links by the domain they come from, as referrers are weighed. */
export function referringOf(links: readonly JudgedLink[], target: string | null): Referring[] {
  const bySite = new Map<string, JudgedLink[]>();
  for (const link of links) bySite.set(siteOf(link.site), [...(bySite.get(siteOf(link.site)) ?? []), link]);
  return Array.from(bySite, ([site, own]) => {
    const text = own.find((link) => link.text)?.text ?? null;
    return {
      site,
      pages: own.reduce((sum, { pages }) => sum + (pages ?? 1), 0),
      followed: own.some(({ nofollow }) => nofollow !== true),
      indexable: true,
      standing: 'unknown',
      lapsedTargets: Math.max(...own.map(({ lapsedTargets }) => lapsedTargets ?? 0)),
      registrant: own.find(({ registrant }) => registrant)?.registrant ?? null,
      nameServers: own.find(({ nameServers }) => nameServers.length > 0)?.nameServers ?? [],
      addressBlock: own.find(({ addressBlock }) => addressBlock)?.addressBlock ?? null,
      trackingIds: [...new Set(own.flatMap(({ trackingIds }) => trackingIds))],
      fingerprint: text === null ? null : templatePrint(text, target === null ? [site] : [site, target]),
    };
  });
}

/** How many votes referring domains are, and what was taken away for what. */
export const referrers = kind(
  z.object({ referrers: z.array(Link.omit({ anchor: true }).extend({ anchor: Text })) }),
  ({ referrers: links }) => {
    const { effective, networks, referrers: weighed } = weighReferrers(referringOf(links, null));
    const discounts = networks.map(({ sites, signs }) => ({
      reason: `one owner's: ${signs.join('; ')}`,
      domains: sites,
      taken: sites.length - 1,
    }));
    for (const [reason, wanted] of [
      ['its links are nofollow', 'nofollow'],
      ['it links to a great many lapsed domains', 'blanket'],
    ] as const) {
      const hit = weighed.filter((referrer) => referrer.discounts.some((discount) => discount.kind === wanted));
      const taken = hit.reduce((sum, { discounts: own }) => sum + lost(own, wanted), 0);
      if (hit.length > 0)
        discounts.push({ reason, domains: hit.map(({ site }) => site), taken: Math.round(taken * 10) / 10 });
    }
    return { effective, discounts };
  },
);

/** What a discount took of one referrer, by what was left of it before. */
function lost(discounts: readonly { kind: string; factor: number }[], wanted: string): number {
  let left = 1;
  for (const { kind: one, factor } of discounts) {
    if (one === wanted) return left * (1 - factor);
    left *= factor;
  }
  return 0;
}
