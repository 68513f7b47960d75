import { z } from 'zod';
import type { LanguageOf } from '../history/language';
import { summarizeCaptures } from '../history/past';
import { type Referring, weighReferrers } from '../links/effective';
import { templatePrint } from '../links/template';
import { registrableDomain } from '../names/domain';
import type { SpamInput } from '../spam/input';
import { pastSigns } from '../spam/past-signs';
import { scoreSpam } from '../spam/scorecard';
import { votesOf } from '../spam/votes';
import { Domain, kind, Text, Time } from './fields';
import { Capture, readCaptures } from './pasts';

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

/** How likely it is that a name was abused, by its links and past. */
export const spam = kind(
  z.object({
    domain: Domain,
    links: z.array(Link).nullish(),
    captures: z.array(Capture).nullish(),
    registeredAt: Time,
    strengthRank: z.number().nullish(),
    trustRank: z.number().nullish(),
  }),
  (profile, _clock, { languageOf }) => {
    const { risk, results } = scoreSpam(spamInputOf(profile, languageOf));
    return {
      risk,
      rules: results
        .filter(({ value }) => value !== null)
        .map(({ rule, points, shown }) => ({ rule, points, measured: shown })),
    };
  },
);

/** A profile as the rules read it. */
export function spamInputOf(
  {
    domain,
    links,
    captures,
    registeredAt,
    strengthRank,
    trustRank,
  }: {
    domain: { name: string };
    links?: readonly JudgedLink[] | null;
    captures?: readonly z.infer<typeof Capture>[] | null;
    registeredAt: number | null;
    strengthRank?: number | null;
    trustRank?: number | null;
  },
  languageOf: LanguageOf,
): SpamInput {
  const given = links ?? [];
  const read = readCaptures(captures ?? [], domain.name, languageOf);
  const past = read.length === 0 ? null : summarizeCaptures({ times: read.map(({ at }) => at), read, registeredAt });
  return {
    name: domain.name,
    links: given.map(({ site, anchor, nofollow, firstSeenAt, pages, text }) => ({
      fromSite: siteOf(site),
      anchor: anchor ?? '',
      nofollow: nofollow ?? false,
      firstSeenAt,
      pages: pages ?? 1,
      text: text ?? null,
    })),
    strengthRank: strengthRank ?? null,
    trustRank: trustRank ?? null,
    drops: past?.drops.length ?? null,
    past: past && pastSigns(read, past),
    votes: given.length === 0 ? null : votesOf(weighReferrers(referringOf(given, domain.name))),
  };
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
