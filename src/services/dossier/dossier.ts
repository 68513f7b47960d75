import { connectionFor } from '../../core/connections/connection';
import { CPC, chooseFigures, LIST_FIGURES, scoreNameAt } from '../../core/formats/list-figures';
import { type LifeInput, lifeOf, widenLife } from '../../core/history/life';
import type { RegistrationRecord } from '../../core/lifecycle/phase';
import { policyFor } from '../../core/lifecycle/policies';
import type { AnchorKind } from '../../core/links/anchor-kind-names';
import { anchorKind } from '../../core/links/anchor-kinds';
import { isOpen, priceAt } from '../../core/listings/listing';
import { homeMinor } from '../../core/listings/rates';
import type { SourceCount } from '../../core/measures/counts';
import { displayName, nameFacts } from '../../core/names/domain';
import type { SpamCard } from '../../core/spam/scorecard';
import { subjectTitle, subjectWords } from '../../core/topics/subjects';
import { type DiligenceFacts, diligenceOf } from '../../core/verdict/diligence';
import { PAGE_QUESTIONS, questionLink } from '../../core/verdict/page-questions';
import { type ReasonFacts, reasonsOf } from '../../core/verdict/reasons';
import type { Store } from '../../store/base/database';
import { readSettings } from '../../store/base/settings';
import {
  contradictionsOf,
  type DomainRow,
  findDomain,
  type StoredSighting,
  sightingsOf,
  statementsIn,
  trustPathOf,
} from '../../store/domains/domains';
import { judgedBy } from '../../store/domains/fact-changes';
import { foundPagesOf } from '../../store/domains/found-pages';
import { tagsOf } from '../../store/domains/marks';
import { notesOf, ticksOf } from '../../store/domains/notes';
import { placeOf } from '../../store/lifecycle/question-queues';
import { checksOf, eventsOf, recordOf } from '../../store/lifecycle/verdicts';
import { anchorsOf } from '../../store/links/links';
import { lastMeasurement, spamCardOf } from '../../store/links/measures';
import { changesOf } from '../../store/offers/listing-changes';
import { listingsOf } from '../../store/offers/listings';
import { listBriefs } from '../../store/shortlist/briefs';
import { shortlistedFor } from '../../store/shortlist/shortlist';
import { waysFor } from '../orders/ways';
import { domainView, type ViewRules, viewRules } from '../pool/views';
import { historyOf } from './history';
import { type Measured, measuredOf } from './measured';
import { readReferrers } from './referrers';

const NO_RECORD: RegistrationRecord = {
  statuses: [],
  registeredAt: null,
  expiresAt: null,
  changedAt: null,
  registrar: null,
  nameServers: [],
};
const ANCHORS_SHOWN = 100;

/** All that is known of one domain; null when it is not known at all. Where many link to it, others are answered meanwhile. */
export async function readDossier(store: Store, name: string, briefId: number) {
  const row = findDomain(store, name);
  if (!row) return null;
  await readReferrers(store, row);
  const shortlisted = shortlistedFor(store, row.id);
  const entry = shortlisted.find((one) => one.briefId === briefId);
  const brief = listBriefs(store).find(({ id }) => id === briefId);
  const rules = viewRules(store);
  const { rates } = rules;
  const sightings = sightingsOf(store, row.id);
  const measured = measuredOf(store, row, saidCounts(sightings));
  const spam = spamCardOf(store, row.id);
  const words = row.subject ? subjectWords(row.subject) : new Set<string>();
  // without a record, what a list says of the registration
  const record = {
    ...(recordOf(row) ?? { ...NO_RECORD, registeredAt: row.registered_at, expiresAt: row.expires_at }),
    at: row.record_at,
    source: row.record_source,
  };
  const now = store.now();
  const settings = readSettings(store);
  const events = eventsOf(store, row.id);
  const checks = checksOf(store, row.id);
  const anchors = anchorsOf(store, row.id, ANCHORS_SHOWN).map((entry) => ({
    ...entry,
    kind: anchorKind(entry.anchor, row.name, words),
  }));
  const ticks = ticksOf(store, row.id);
  const view = domainView(row, entry !== undefined, rules);
  return {
    ...view,
    inPool: row.in_pool === 1,
    judgedBy: judgedBy(store, row.id),
    nameFacts: { ...nameFacts(row), display: displayName(row.name) },
    phaseConfidence: row.phase_confidence,
    lastSeenAt: row.last_seen_at,
    record,
    trustPath: trustPathOf(row),
    listings: listingsOf(store, row.id).map((listing) => ({
      ...listing,
      homeMinor: homeMinor(priceAt(listing, now), listing.currency, rates),
      isOpen: isOpen(listing, now),
    })),
    // the cheapest in all first, costs in the currency of the brief
    ways: brief ? waysFor(store, brief, [{ domain: row, said: entry }])[0] : [],
    waysCurrency: brief?.currency ?? rates.home,
    policy: policyFor(row.ending, settings.policies),
    phaseSince: row.phase_since,
    contradictions: contradictionsOf(row),
    askAt: row.ask_at,
    events,
    place: placeOf(store, row.id),
    listingChanges: changesOf(store, row.id),
    checks,
    sightings,
    statements: statedOf(row, rules),
    ...measured,
    anchors,
    spam,
    reasons: reasonsOf(factsFor(row, now, spam?.card ?? null, measured)),
    measurement: lastMeasurement(store),
    shortlist: shortlisted,
    tags: tagsOf(store, row.id),
    life: widenLife(
      lifeOf({
        ...view,
        now,
        // where a list alone says when it dropped, that is what is known
        dropFrom: view.window && !view.window.isConditional ? view.window.from : row.drop_at,
        dropTo: view.window && !view.window.isConditional ? view.window.to : row.drop_at,
        mainSubject: view.subject,
        past: measured.past,
        observations: observationsOf(row, measured, { events, checks, sightings }),
      }),
      measured.profile.spans,
    ),
    diligence: diligenceOf(
      diligenceFacts(row, now, {
        measured,
        checks,
        anchors,
        spamAt: spam?.at ?? null,
        foundPages: foundPagesOf(store, row.id),
      }),
      ticks,
      (item) => ({
        who: connectionFor(settings.connections, PAGE_QUESTIONS[item])?.title ?? null,
        link: questionLink(item, row.name, settings.searchPage),
      }),
    ),
    notes: notesOf(store, row.id),
    history: historyOf(store, row, { sightings, ticks, reviews: measured.marksFound.reviews }).slice(0, HISTORY_SHOWN),
  };
}
const HISTORY_SHOWN = 300;
const MINUTE = 60_000;

/** What we saw ourselves, and when: what came within a minute is one look. */
function observationsOf(
  row: DomainRow,
  measured: Measured,
  known: {
    events: ReturnType<typeof eventsOf>;
    checks: ReturnType<typeof checksOf>;
    sightings: readonly StoredSighting[];
  },
): LifeInput['observations'] {
  const seen: { at: number; what: string; detail: string }[] = [
    ...known.sightings.map(({ at, sourceName }) => ({ at, what: 'found', detail: `in ${sourceName}` })),
    ...known.events.map(({ at, words }) => ({ at, what: 'seen', detail: words })),
    ...known.checks.map(({ at, step, outcome }) => ({
      at,
      what: 'asked',
      detail: `${step.toUpperCase()}: ${outcome}`,
    })),
  ];
  const took = (at: number | null, what: string, detail: string) => at !== null && seen.push({ at, what, detail });
  took(measured.past?.at ?? null, 'captures read', `${measured.past?.read ?? 0} of them`);
  took(measured.weighing?.lookedAt ?? null, 'links looked at', `${measured.looked} sites, ${measured.gone} gone`);
  took(measured.frontAt, 'front page asked', measured.front?.note ?? '');
  took(measured.marksFound.at, 'trademarks looked for', `${measured.marksFound.matches.length} like it`);
  took(row.judged_at, 'marked', row.judged ?? '');
  const looks = new Map<string, { at: number; what: string; detail: string }>();
  for (const one of seen.sort((a, b) => a.at - b.at)) {
    const key = `${Math.floor(one.at / MINUTE)} ${one.what}`;
    const look = looks.get(key);
    if (!look) looks.set(key, one);
    else if (!look.detail.includes(one.detail)) look.detail = `${look.detail}; ${one.detail}`;
  }
  return [...looks.values()];
}

/** What the list of due diligence is filled in from. */
function diligenceFacts(
  row: DomainRow,
  now: number,
  known: {
    measured: Measured;
    checks: ReturnType<typeof checksOf>;
    anchors: { kind: AnchorKind; domains: number }[];
    spamAt: number | null;
    foundPages: DiligenceFacts['foundPages'];
  },
): DiligenceFacts {
  const { measured, checks } = known;
  const anchors: DiligenceFacts['anchors'] = {};
  for (const { kind, domains } of known.anchors) anchors[kind] = (anchors[kind] ?? 0) + domains;
  const registrar = checks.find(({ step }) => step === 'registrar');
  const review = measured.marksFound.reviews[0] ?? null;
  return {
    now,
    phase: row.phase,
    phaseAt: row.phase_at,
    registrarSaid: registrar ? registrar.detail || registrar.outcome : null,
    recordAt: row.record_at,
    registeredAt: row.registered_at,
    drops: row.drops ?? null,
    capturesAt: row.captures_at ?? null,
    contentYears: row.content_years ?? null,
    drift: row.drift ?? null,
    languageSwitches: measured.past?.languageSwitches ?? null,
    subjectSwitches: measured.past?.subjectSwitches ?? null,
    effective: row.effective ?? null,
    referringDomains: row.referring_domains,
    linksAt: row.links_at,
    referrersAt: row.referrers_at ?? null,
    looked: measured.looked,
    gone: measured.gone,
    networkSites: measured.weighing?.networks[0]?.sites.length ?? 0,
    anchors,
    forwardsTo: row.forward_to ?? null,
    frontAt: measured.frontAt,
    spamRisk: row.spam_risk,
    spamAt: known.spamAt,
    judged: row.judged,
    judgedAt: row.judged_at,
    wordMarks: row.marks_found ?? null,
    marksAt: measured.marksFound.at,
    markVerdict: review?.verdict ?? null,
    markVerdictAt: review?.at ?? null,
    foundPages: known.foundPages,
  };
}

/** What speaks for and against a domain is reckoned from these. */
function factsFor(row: DomainRow, now: number, card: SpamCard | null, measured: Measured): ReasonFacts {
  const worst = card?.results.toSorted((a, b) => b.points - a.points)[0];
  return {
    phase: row.phase,
    phaseConfidence: row.phase_confidence,
    ageYears: row.registered_at === null ? null : (now - row.registered_at) / YEAR_MS,
    referringDomains: row.referring_domains,
    effective: row.effective ?? null,
    strength: row.strength,
    trust: row.trust,
    spamMass: measured.spamMass,
    spamRisk: row.spam_risk,
    worstRule: worst && worst.points > 0 ? worst.title : null,
    judged: row.judged,
    contentYears: row.content_years ?? null,
    drops: row.drops ?? null,
    drift: row.drift ?? null,
    subject: row.subject ? subjectTitle(row.subject) : null,
    subjectConfidence: row.subject_confidence ?? null,
    languageSwitches: measured.past?.languageSwitches ?? null,
    forwardsTo: row.forward_to ?? null,
    wordMarks: measured.marksFound.reviews[0]?.verdict === 'clear' ? 0 : (row.marks_found ?? null),
    countFactor: row.count_factor ?? null,
    networkSites: measured.weighing?.networks[0]?.sites.length ?? 0,
  };
}
const YEAR_MS = 365.2425 * 86_400_000;

/** What lists state in figures, each figure with all who state it, the one that counts first. */
function statedOf(row: DomainRow, rules: ViewRules) {
  const statements = statementsIn(row);
  const chosen = chooseFigures(statements, rules.countRule);
  return LIST_FIGURES.flatMap((figure, n) => {
    const best = chosen[figure];
    if (!best) return [];
    const by = [best.from, ...statements.filter((one) => one !== best.from && !Number.isNaN(one.figures.values[n]))];
    const name = scoreNameAt(figure, rules.scoreNames) ?? null;
    return {
      figure,
      name,
      by: by.map(({ sourceId, source, at, figures }) => ({
        sourceId,
        source,
        at,
        value: figures.values[n],
        currency: n === CPC ? figures.currency : null,
      })),
    };
  });
}

/** What lists say of the links, each for itself. */
function saidCounts(sightings: readonly StoredSighting[]): SourceCount[] {
  const number = (value: unknown) => (typeof value === 'number' ? value : null);
  return sightings.flatMap(({ sourceId, sourceName, at, said }) => {
    const [backlinks, referringDomains] = [number(said.backlinks), number(said.referringDomains)];
    if (backlinks === null && referringDomains === null) return [];
    return [
      { sourceId, source: sourceName, kind: 'list', at, backlinks, referringDomains, nofollow: null, coverage: null },
    ];
  });
}

export type Dossier = NonNullable<Awaited<ReturnType<typeof readDossier>>>;
