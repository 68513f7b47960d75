import type { EnginePort } from '../../contracts/engine-port';
import { homeMinor } from '../../core/listings/rates';
import { profitBy } from '../../core/money/profit';
import { askingPrice } from '../../core/selling/asking';
import { type SellingFacts, sellingSentences } from '../../core/selling/listing-text';
import { adviseAnswer } from '../../core/selling/talk';
import { TAKEN } from '../../core/verdict/reasons';
import type { Store } from '../../store/base/database';
import { readRates, readSettings } from '../../store/base/settings';
import type { DomainRow } from '../../store/domains/domains';
import { holdingOf, moneyEntries } from '../../store/portfolio/holdings';
import { answersOf, inquiriesOf } from '../../store/portfolio/inquiries';
import { type Resale, resaleLog, resalesOf } from '../../store/portfolio/resale-rows';
import { type Brief, listBriefs } from '../../store/shortlist/briefs';
import { type Dossier, readDossier } from '../dossier/dossier';
import { inCurrency } from '../plan/currency';
import { rebuildFor } from '../plan/worth';

/** What venues mostly keep of a price, until it is said otherwise. */
const VENUE_PERCENT = 10;
const AGAINST = 5;

/** All that is needed to sell a domain on: what to ask and why, what may be said of it, where it is offered, and who asked. */
export async function salePlan(store: Store, engine: EnginePort, brief: Brief, row: DomainRow) {
  const holding = holdingOf(store, row.id);
  const own = listBriefs(store).find(({ id }) => id === holding?.briefId) ?? brief;
  const dossier = await readDossier(store, row.name, own.id);
  if (!dossier) return null;
  const rates = readRates(store);
  const settings = readSettings(store);
  const sales = resalesOf(store, row.id);
  const [worth] = await engine.resaleWorth([row.name]).catch(() => [null]);
  const entries = moneyEntries(store).filter(({ domain }) => domain === row.name);
  const [money] = profitBy(entries, 'domain');
  const inputs = {
    lowMinor: worth?.lowMinor ?? null,
    highMinor: worth?.highMinor ?? null,
    costMinor: money?.costMinor ?? 0,
    renewalMinor: homeMinor(holding?.renewalMinor ?? null, holding?.briefCurrency ?? null, rates),
    venuePercent: VENUE_PERCENT,
    marginPercent: own.marginPercent,
  };
  return {
    holding: holding && { status: holding.status, boughtAt: holding.boughtAt, seller: holding.seller },
    currency: rates.home,
    inputs,
    price: askingPrice(inputs),
    near: (worth?.near ?? []).slice(0, 5).map(({ sale, distance, adjustedMinor }) => ({
      name: sale.name,
      priceMinor: sale.priceMinor,
      at: sale.at,
      distance,
      adjustedMinor,
    })),
    sentences: sellingSentences(await factsOf(store, engine, row, dossier, own)),
    against: dossier.reasons.against
      .map(({ words }) => words)
      .filter((words) => words !== TAKEN)
      .slice(0, AGAINST),
    venues: settings.accounts
      .filter(({ venue }) => venue !== settings.registrarAccount)
      .map(({ venue, currency }) => ({
        venue,
        currency,
        /** What one unit of the user's currency is there; null: no rate is set. */
        perHome: inCurrency(rates, currency)(1_000_000, null),
      })),
    isDryRun: settings.isDryRun,
    sales: sales.map((sale) => saleView(store, sale)),
  };
}

/** A sale with who asked, what to answer, and what was done. */
export function saleView(store: Store, sale: Resale) {
  const { key: _, ...shown } = sale;
  const answers = answersOf(store, sale.id);
  return {
    ...shown,
    inquiries: inquiriesOf(store, sale.id).map((inquiry) => ({
      ...inquiry,
      advice: inquiry.state === 'open' ? adviseAnswer(inquiry, sale.askMinor, sale.floorMinor) : null,
      isAnswering: answers.some((answer) => answer.inquiry === inquiry.inquiry && answer.state === 'to send'),
    })),
    log: resaleLog(store, sale.id),
  };
}

async function factsOf(
  store: Store,
  engine: EnginePort,
  row: DomainRow,
  dossier: Dossier,
  brief: Brief,
): Promise<SellingFacts> {
  const reading = await engine
    .readNames([{ name: row.name, ending: row.ending }])
    .then(([one]) => one)
    .catch(() => null);
  const rebuilt = rebuildFor(store, row, brief);
  const isRead = dossier.past !== null && !dossier.past.isPartial;
  return {
    name: row.name,
    words: reading && reading.split.confidence >= 0.8 ? reading.split.words : [],
    label: reading?.label ?? row.name.slice(0, row.name.indexOf('.')),
    registeredAt: row.record_at === null ? null : row.registered_at,
    firstSeenAt: row.first_seen_at,
    contentYears: isRead ? (row.content_years ?? null) : null,
    subject: dossier.subjectWhy?.title ?? null,
    subjectConfidence: dossier.subjectWhy?.confidence ?? null,
    effective: row.effective ?? null,
    referringDomains: row.referring_domains,
    seenLinking: dossier.referrers.filter(({ standing }) => standing === 'there').map(({ site }) => site),
    visits: rebuilt?.visits ?? null,
    visitSource: rebuilt?.sources.join(', ') ?? null,
    wordMarks: dossier.marksFound.at === null ? null : dossier.marksFound.matches.length,
    drops: isRead ? (row.drops ?? null) : null,
    drift: row.drift ?? null,
    linksAt: row.links_at,
    pastAt: dossier.past?.at ?? row.past_at,
    recordAt: row.record_at,
    marksAt: dossier.marksFound.at,
    visitsAt: rebuilt?.asOf ?? null,
  };
}
