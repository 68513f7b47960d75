import type { EnginePort } from '../../contracts/engine-port';
import type { SievePart } from '../../core/pool/conditions';
import { letterFor, mailAddress } from '../../core/prospecting/letter';
import { nextStep, prospectTally } from '../../core/prospecting/prospects';
import { pathOf } from '../../core/redirects/address';
import { type Candidate, proposeRedirects } from '../../core/redirects/match';
import type { Store } from '../../store/base/database';
import { type DeadTarget, deadTargets } from '../../store/crawl/pages';
import { listHoldings } from '../../store/portfolio/holdings';
import { contactOf, lapsedTargets, linksToTarget, listProspects, standInOf } from '../../store/portfolio/prospects';
import { ownSources, readOwnPages } from '../../store/portfolio/redirects';

const SHOWN = 300;
/** Lapsed domains whose addresses are looked at, the most linked to first. */
const LAPSED_LOOKED_AT = 300;
const MOST_LINKS = 2000;

/** A dead page, or a page of a domain that is gone as a whole, that others still link to. */
export interface TargetShown extends Omit<DeadTarget, 'checkedAt'> {
  isWholeDomain: boolean;
  checkedAt: number | null;
  /** Pages of it on the work list. */
  onList: number;
}

const LAPSED: SievePart[] = [
  { type: 'choice', fact: 'phase', values: ['free', 'pending-delete', 'redemption'], not: false, keepUnknown: false },
  { type: 'range', fact: 'referringDomains', min: 1, max: null, keepUnknown: false },
];

/** Dead targets of page checks and of crawls, the most linking domains first. */
export async function targetsFor(store: Store, engine: EnginePort): Promise<TargetShown[]> {
  const listed = new Map<string, number>();
  for (const { target } of listProspects(store)) listed.set(target, (listed.get(target) ?? 0) + 1);
  const found = await engine
    .queryPool({
      parts: LAPSED,
      sorts: [{ fact: 'referringDomains', descending: true }],
      offset: 0,
      limit: LAPSED_LOOKED_AT,
      histograms: [],
    })
    .catch(() => ({ ids: [] as number[] }));
  const looked = deadTargets(store, SHOWN).map((target) => ({ ...target, isWholeDomain: false }));
  const known = new Set(looked.map(({ url }) => url));
  const lapsed = lapsedTargets(store, [...found.ids], SHOWN)
    .filter(({ url }) => !known.has(url))
    .map((target) => ({ ...target, isWholeDomain: true, status: null, outcome: 'the domain lapsed', checkedAt: null }));
  return [...looked, ...lapsed]
    .map((target) => ({ ...target, onList: listed.get(target.url) ?? 0 }))
    .sort((a, b) => b.domains - a.domains || b.pages - a.pages || a.url.localeCompare(b.url))
    .slice(0, SHOWN);
}

/** A target with who links to it and how to reach them, and the own pages that could stand in. */
export function targetDetail(store: Store, url: string, domain: string) {
  const links = linksToTarget(store, url, domain, MOST_LINKS);
  const path = pathOf(url) ?? '/';
  const anchors = [...new Set(links.map(({ anchor }) => anchor).filter(Boolean))].slice(0, 12);
  const old = { path, anchors, title: null, weight: 0, domains: 0 };
  const [{ candidates }] = proposeRedirects([old], readOwnPages(store));
  const standIn = standInOf(store, url);
  const listed = new Set(listProspects(store).flatMap((one) => (one.target === url ? [one.page] : [])));
  return {
    links: links.map(({ sourceId, ...link }) => {
      const site = link.contact === null ? contactOf(store, sourceId, link.page) : null;
      return {
        ...link,
        contact: link.contact ?? site?.contact ?? null,
        contactPage: site?.at ?? null,
        isListed: listed.has(link.page),
      };
    }),
    candidates: candidates as Candidate[],
    standIn,
    hasOwnPages: ownSources(store).length > 0,
  };
}

/** The work list: each page with what is next, and its letter. */
export function workList(store: Store) {
  const now = store.now();
  const titles = new Map(readOwnPages(store).map(({ url, title }) => [url, title || null]));
  const outcomes = new Map(
    deadTargets(store, 5000).map(({ url, outcome, checkedAt }) => [url, { outcome, checkedAt }]),
  );
  const owned = new Set(listHoldings(store).map(({ name }) => name));
  const rows = listProspects(store);
  return {
    tally: prospectTally(rows),
    rows: rows.map((row) => {
      const next = nextStep(row, { hasContact: row.contact !== null, hasStandIn: row.standIn !== null }, now);
      const seen = outcomes.get(row.target) ?? { outcome: 'its domain has lapsed', checkedAt: row.addedAt };
      const letter = row.standIn
        ? letterFor({
            pageUrl: row.page,
            pageTitle: row.title,
            anchor: row.anchor,
            deadUrl: row.target,
            outcome: seen.outcome,
            checkedAt: seen.checkedAt,
            ownUrl: row.standIn,
            ownTitle: titles.get(row.standIn) ?? null,
            isMoved: owned.has(row.domain),
          })
        : null;
      return { ...row, next, letter, mail: letter && mailAddress(row.contact, letter) };
    }),
  };
}
