import { pathOf } from '../../core/redirects/address';
import { type OldAddress, type OwnPage, proposeRedirects } from '../../core/redirects/match';
import { carried, patternsOf, problemsOf } from '../../core/redirects/rules';
import { clearSubject, subjectClassifier } from '../../core/topics/classifier';
import { subjectTitle } from '../../core/topics/subjects';
import { termsOf } from '../../core/topics/terms';
import type { Store } from '../../store/base/database';
import type { DomainRow } from '../../store/domains/domains';
import { capturesOf } from '../../store/links/captures';
import { listProspects, mentionsOf } from '../../store/portfolio/prospects';
import { linksByAddress, ownSources, readOwnPages, readRules } from '../../store/portfolio/redirects';
import { readReferrers, referrersOf } from '../dossier/referrers';

const MOST_LINKS = 200_000;
const MOST_ADDRESSES = 2000;
const ANCHORS = 8;
const MENTIONS = 60;

/** Where a domain's old addresses could move: proposals, patterns, what is decided, and what that carries. */
export async function redirectPlan(store: Store, row: DomainRow) {
  const old = await oldAddressesOf(store, row);
  const own = readOwnPages(store);
  const proposals = proposeRedirects(
    old.map((address) => ({ ...address, subject: subjectOf(address) })),
    own.length > MOST_TOLD ? own : own.map((page) => ({ ...page, subject: subjectOfPage(page) })),
  );
  const rules = readRules(store, row.id);
  const listed = new Set(listProspects(store).flatMap(({ domain, page }) => (domain === row.name ? [page] : [])));
  return {
    proposals,
    rules,
    patterns: patternsOf(proposals),
    problems: problemsOf(rules, row.name),
    carried: carried(rules, proposals),
    sources: ownSources(store),
    mentions: mentionsOf(store, row.id, MENTIONS).map((mention) => ({
      ...mention,
      isListed: listed.has(mention.page),
    })),
  };
}

/** Of more pages than these no subject is told: somebody waits. */
const MOST_TOLD = 3000;

const subjectOf = ({ path, title, anchors }: OldAddress) =>
  titleOf(`${title ?? ''} ${anchors.join(' ')} ${path.replace(/[^\p{L}\p{N}]+/gu, ' ')}`);
const subjectOfPage = ({ url, title, text }: OwnPage) =>
  titleOf(`${title} ${text} ${new URL(url).pathname.replace(/[^\p{L}\p{N}]+/gu, ' ')}`);

function titleOf(text: string): string | null {
  const subject = clearSubject(subjectClassifier().classify(termsOf(text), null));
  return subject === null ? null : subjectTitle(subject);
}

/** Old addresses of a domain, from links and captures, the heaviest first. */
export async function oldAddressesOf(store: Store, row: DomainRow): Promise<OldAddress[]> {
  await readReferrers(store, row);
  const weights = new Map(referrersOf(store, row).list.map(({ fromId, weight }) => [fromId, weight]));
  const found = new Map<string, { anchors: Set<string>; from: Set<number>; title: string | null }>();
  const entryOf = (address: string) => {
    const path = pathOf(address);
    if (path === null) return null;
    const known = found.get(path) ?? { anchors: new Set(), from: new Set(), title: null };
    found.set(path, known);
    return known;
  };
  for (const { url, fromId, anchor } of linksByAddress(store, row.id, MOST_LINKS)) {
    const entry = entryOf(url);
    entry?.from.add(fromId);
    if (anchor && entry && entry.anchors.size < ANCHORS) entry.anchors.add(anchor);
  }
  for (const { url, title, kind } of capturesOf(store, row.id))
    if (kind === 'content') {
      const entry = entryOf(url);
      if (entry && title) entry.title = title;
    }
  return [...found]
    .map(
      ([path, { anchors, from, title }]): OldAddress => ({
        path,
        anchors: [...anchors],
        title,
        domains: from.size,
        weight: Math.round(100 * [...from].reduce((sum, id) => sum + (weights.get(id) ?? 0), 0)) / 100,
      }),
    )
    .sort((a, b) => b.weight - a.weight || b.domains - a.domains || a.path.localeCompare(b.path))
    .slice(0, MOST_ADDRESSES);
}
