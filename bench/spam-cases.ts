import { judgeCapture } from '../src/core/history/capture';
import { type LanguageOf, loadLanguages } from '../src/core/history/language';
import { summarizeCaptures } from '../src/core/history/past';
import { type Referring, weighReferrers } from '../src/core/links/effective';
import { buildGraph } from '../src/core/links/graph';
import { strengthAndTrust } from '../src/core/links/pagerank';
import { simhash } from '../src/core/links/simhash';
import type { SpamInput } from '../src/core/spam/input';
import { pastSigns } from '../src/core/spam/past-signs';
import { votesOf } from '../src/core/spam/votes';
import { subjectClassifier } from '../src/core/topics/classifier';
import type { LabelledDomain, LabelledLink, LabelledWorld } from '../standins/labelled-worlds';

/** A labelled domain as the rules read it. */
export interface SpamCase {
  kind: string;
  isSpam: boolean;
  input: SpamInput;
}

/** The same way as the product goes: walks over all links, referrers weighed, captures judged. */
export async function casesOf(world: LabelledWorld): Promise<SpamCase[]> {
  const languageOf = await loadLanguages();
  const places = new Map<string, number>();
  const place = (name: string): number => {
    const known = places.get(name);
    if (known !== undefined) return known;
    places.set(name, places.size);
    return places.size - 1;
  };
  for (const site of world.sites) place(site);
  const from = world.edges.map(([source]) => source);
  const to = world.edges.map(([, target]) => target);
  for (const { name, links } of world.domains)
    for (const link of links)
      if (!link.nofollow) {
        from.push(place(link.from.name));
        to.push(place(name));
      }
  const graph = buildGraph(places.size, Uint32Array.from(from), Uint32Array.from(to));
  const trusted = Array.from({ length: world.trusted }, (_, n) => n);
  const { strength, trust } = strengthAndTrust(graph, trusted);
  return world.domains.map((domain) => {
    const at = places.get(domain.name);
    return {
      kind: domain.kind,
      isSpam: domain.isSpam,
      input: {
        name: domain.name,
        links: domain.links.map((link) => ({
          fromSite: link.from.name,
          anchor: link.anchor,
          nofollow: link.nofollow,
          firstSeenAt: link.firstSeenAt,
        })),
        strengthRank: at === undefined ? null : strength.rank[at],
        trustRank: at === undefined || !trust ? null : trust.rank[at],
        ...pastOf(domain, languageOf),
        votes: votesOf(weighReferrers(referringOf(domain.links))),
      },
    };
  });
}

function pastOf(
  { name, captures, registeredAt }: LabelledDomain,
  languageOf: LanguageOf,
): Pick<SpamInput, 'past' | 'drops'> {
  const read = captures.map(({ at, status, location, html }) => {
    const view = judgeCapture({ status, location, html, site: name }, languageOf);
    const verdict = subjectClassifier().classify(view.terms, view.language);
    return { ...view, at, subject: verdict.confidence >= 0.5 ? verdict.subject : null };
  });
  const past = summarizeCaptures({ times: read.map(({ at }) => at), read, registeredAt });
  return { past: pastSigns(read, past), drops: past.drops.length };
}

function referringOf(links: readonly LabelledLink[]): Referring[] {
  const bySite = new Map<string, LabelledLink[]>();
  for (const link of links) bySite.set(link.from.name, [...(bySite.get(link.from.name) ?? []), link]);
  return Array.from(bySite, ([site, own]) => ({
    site,
    pages: own.length,
    followed: own.some(({ nofollow }) => !nofollow),
    indexable: true,
    standing: 'unknown' as const,
    lapsedTargets: own[0].from.lapsedTargets,
    registrant: own[0].from.registrant,
    nameServers: own[0].from.nameServers,
    addressBlock: own[0].from.addressBlock,
    trackingIds: own[0].from.trackingIds,
    fingerprint: simhash(own[0].from.text),
  }));
}
