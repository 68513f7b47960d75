import type { Cell, ExportColumn } from '../formats/exports';
import { LIST_FIGURES } from '../formats/list-figures';
import type { DomainView } from './domain-view';
import { FACTS, factSpec, SHOWN_NUMBERS, type ShownNumber } from './facts';

/** Shown by the columns of the pool with these ids. */
interface PoolExport extends ExportColumn<DomainView> {
  shownBy: readonly string[];
}

/** Which list states which figure: `list_traffic: Saltmarch export, 2026-11-03`. */
function statedBy({ stated }: DomainView): string[] | null {
  if (stated === null) return null;
  return LIST_FIGURES.flatMap((figure) => {
    const one = stated[figure];
    return one
      ? `${exportKey(figure)}: ${one.name ? `${one.name}, ` : ''}${one.source}, ${new Date(one.at).toISOString().slice(0, 10)}`
      : [];
  });
}
const exportKey = (fact: ShownNumber) =>
  factSpec(fact).exportKey ?? fact.replace(/[A-Z]/g, (letter) => `_${letter.toLowerCase()}`);

const made = (
  title: string,
  kind: ExportColumn<DomainView>['kind'],
  field: keyof DomainView,
  shownBy: string,
  about: string,
): PoolExport => ({ title, kind, of: (row) => row[field] as Cell, shownBy: shownBy.split(' '), about });

/** Columns of domains, in order. */
const MADE: PoolExport[] = [
  made('domain', 'text', 'name', 'domain', 'the name, as addresses hold it'),
  made('status', 'text', 'phase', 'phase', 'where it stands in its life'),
  made('status_source', 'text', 'phaseSource', 'phase', 'who said so'),
  made('status_at', 'date', 'phaseAt', 'phase phaseAsked', 'when that was asked'),
  made('registered', 'date', 'registeredAt', 'age', 'when it was registered'),
  made('expires', 'date', 'expiresAt', 'expires', 'when its registration ends'),
  made('drop_expected', 'date', 'dropAt', 'drop', 'when it is expected to drop'),
  made('first_seen', 'date', 'firstSeenAt', 'life', 'the first capture in an archive'),
  made('captures', 'number', 'captures', 'life captures', 'captures in the archives'),
  made('backlinks', 'number', 'backlinks', 'referrers', 'pages that link to it'),
  made('referring_domains', 'number', 'referringDomains', 'referrers', 'domains that link to it'),
  made('strength', 'number', 'strength', 'pair', '0 to 100, by its links'),
  made('trust', 'number', 'trust', 'pair', '0 to 100, by links from trusted sites'),
  made('judged', 'text', 'judged', 'judged', 'what was decided of it'),
  made('judged_reason', 'text', 'judgedReason', 'judged', 'and why'),
  made('spam_risk', 'number', 'spamRisk', 'spam', '0 to 100'),
  made('effective_referring_domains', 'number', 'effective', 'effective', FACTS.effective.about),
  made('spam_mass', 'number', 'spamMass', 'spamMass', FACTS.spamMass.about),
  made('years_with_content', 'number', 'contentYears', 'contentYears', 'years in which it had content'),
  made('drops', 'number', 'drops', 'drops', 'times it dropped before'),
  made('topic_change', 'number', 'drift', 'drift', FACTS.drift.about),
  made('language', 'text', 'language', 'language', 'of its captures, ISO 639-1'),
  made('subject', 'text', 'subject', 'subject', 'what its captures were about'),
  made('subject_confidence', 'number', 'subjectConfidence', 'subject', '0 to 1'),
  made('forwards_to', 'text', 'forwardsTo', 'forwardsTo', 'where it forwards to'),
  made('trademarks', 'number', 'wordMarks', 'wordMarks', FACTS.wordMarks.about),
  made('links_measured', 'date', 'linksAt', 'linksMeasured', 'when its links were measured'),
  made('listing', 'text', 'listing', 'listing', 'how it is offered'),
  made('venue', 'text', 'venue', 'ask venue', 'where'),
  made('price', 'money', 'priceMinor', 'ask', 'for what'),
  made('currency', 'text', 'currency', 'ask', 'of the price, ISO 4217'),
  made('price_home', 'money', 'homeMinor', 'ask', 'the price in your currency'),
  { title: 'home_currency', kind: 'text', of: (row) => (row.homeMinor === null ? null : row.homeCurrency), shownBy: ['ask'], about: 'your currency, ISO 4217' },
  made('bids', 'number', 'bids', 'bids', 'bids so far'),
  made('closes', 'date', 'closingAt', 'closes', 'when it closes'),
  made('listing_url', 'text', 'listingUrl', 'ask', 'the page of the offer'),
  made('offer_read', 'date', 'listingAt', 'offerRead', 'when the offer was read'),
  made('tld', 'text', 'ending', 'ending', 'what stands behind the label'),
  made('length', 'number', 'length', 'length', 'characters before the TLD'),
  made('registrar', 'text', 'registrar', 'registrar', 'where it is or was registered'),
  made('last_seen', 'date', 'lastSeenAt', 'lastSeen', 'the last capture in an archive'),
  made('history_read', 'date', 'pastAt', 'pastRead', 'when the archive was asked'),
  made('area', 'text', 'area', 'subject', 'the area of its subject'),
  { title: 'trust_share', kind: 'number', of: (row) => (row.trust === null || !row.strength ? null : Number((row.trust / row.strength).toFixed(3))), shownBy: ['trustShare'], about: 'trust over strength' },
  made('first_found', 'date', 'addedAt', 'added', 'when a source named it first'),
]; // biome-ignore format: a column a line
const TITLES = new Set(MADE.map(({ title }) => title));
/** Figures of the table of facts that have no place among them follow. */
const DOMAIN_COLUMNS: PoolExport[] = [
  ...MADE,
  ...SHOWN_NUMBERS.filter((fact) => !TITLES.has(exportKey(fact))).map((fact) =>
    made(exportKey(fact), 'number', fact, fact, factSpec(fact).about ?? factSpec(fact).label),
  ),
  {
    title: 'stated_by',
    kind: 'list',
    of: statedBy,
    shownBy: LIST_FIGURES,
    about: 'which list states each of its figures, and when that was read',
  },
];

/** Columns of domains: all of them, or those that columns of the pool show, in their order. */
export function domainColumns(shown: readonly string[] | null): ExportColumn<DomainView>[] {
  if (shown === null) return DOMAIN_COLUMNS;
  const found = new Set<PoolExport>(DOMAIN_COLUMNS.slice(0, 1));
  for (const id of shown) for (const column of DOMAIN_COLUMNS) if (column.shownBy.includes(id)) found.add(column);
  return [...found];
}
