import type { JobView } from '../../contracts/jobs';
import { chooseFigures, LIST_FIGURES, type ListFigure, poolFigure, scoreNameAt } from '../../core/formats/list-figures';
import { homeMinor, type Rates } from '../../core/listings/rates';
import { type CountRule, readCountRule } from '../../core/measures/counts';
import { displayName } from '../../core/names/domain';
import type { DomainView } from '../../core/pool/domain-view';
import { columnOf, type ShownNumber, STORED_NUMBERS } from '../../core/pool/facts';
import { type PartRow, ROW_FIELDS, type RowField } from '../../core/pool/row-columns';
import { ratesOf } from '../../core/settings/settings';
import { areaTitle, subjectTitle } from '../../core/topics/subjects';
import type { Store } from '../../store/base/database';
import type { JobRow } from '../../store/base/jobs';
import { readSettings } from '../../store/base/settings';
import { capturesByYearOf, type DomainRow, phaseReasonOf, statementsIn } from '../../store/domains/domains';
import { UNASKED, windowOf } from '../../store/lifecycle/verdicts';
import { scoreNamesOf } from '../../store/sources/list-figures';

type Extras = Pick<DomainView, 'starts' | 'matches' | 'freshIn' | 'sayability' | 'nameSubject'>;
/** What is known of a row beside what is stored in it. */
interface Given extends Extras {
  isShortlisted: boolean;
  rules: ViewRules;
}

/** What figures are shown by: rates of currencies, which list's figures count, and the names of their scores. */
export interface ViewRules {
  rates: Rates;
  countRule: CountRule;
  scoreNames: readonly string[];
}

export function viewRules(store: Store): ViewRules {
  const settings = readSettings(store);
  return {
    rates: ratesOf(settings),
    countRule: readCountRule(settings.countRule),
    scoreNames: scoreNamesOf(store),
  };
}

/** The figures of lists that count for a row. */
function chosenOf(row: DomainRow, { countRule }: ViewRules): ReturnType<typeof chooseFigures> {
  return row.stated === '[]' ? {} : chooseFigures(statementsIn(row), countRule);
}

const NO_EXTRAS: Extras = { starts: [], matches: [], freshIn: [], sayability: null, nameSubject: null };

/** A field of a row: the columns that it is made of, and how. */
interface Field<F extends keyof DomainView = keyof DomainView> {
  columns: readonly (keyof DomainRow)[];
  of(row: DomainRow, given: Given): DomainView[F];
}

const made = <F extends keyof DomainView>(
  of: (row: DomainRow, given: Given) => DomainView[F],
  ...columns: (keyof DomainRow)[]
): Field<F> => ({ columns, of });
/** As it stands in its column; a column of what was not measured is unknown. */
const stored = <C extends keyof DomainRow>(column: C) => ({
  columns: [column],
  of: (row: DomainRow) => (row[column] ?? null) as NonNullable<DomainRow[C]> | null,
});
const told = <F extends keyof Extras>(field: F) => ({
  columns: [],
  of: (_: DomainRow, given: Given) => given[field],
});

const listed = (figure: ListFigure) => ({
  columns: ['stated'],
  of: (row: DomainRow, { rules }: Given) => {
    const chosen = chosenOf(row, rules)[figure];
    return chosen ? poolFigure(figure, chosen, rules.rates) : null;
  },
});

const FIGURES = Object.fromEntries([
  ...STORED_NUMBERS.map((fact) => [fact, stored(columnOf(fact))]),
  ...LIST_FIGURES.map((figure) => [figure, listed(figure)]),
]) as unknown as { [F in ShownNumber]: Field<F> };

const FIELDS: { [F in keyof DomainView]: Field<F> } = {
  ...FIGURES,
  id: made(({ id }) => id, 'id'),
  name: made(({ name }) => name, 'name'),
  display: made(({ name }) => displayName(name), 'name'),
  ending: made(({ ending }) => ending, 'ending'),
  phase: made(({ phase }) => phase, 'phase'),
  phaseReason: made(phaseReasonOf, 'phase_reason', 'phase_source'),
  phaseSource: made(
    ({ phase_source: source }) => (source?.startsWith(UNASKED) ? source.slice(UNASKED.length) || null : source),
    'phase_source',
  ),
  phaseAt: stored('phase_at'),
  isUnasked: made(({ phase_source: source }) => source?.startsWith(UNASKED) ?? false, 'phase_source'),
  registeredAt: stored('registered_at'),
  expiresAt: stored('expires_at'),
  dropAt: stored('drop_at'),
  window: made(windowOf, 'drop_from', 'drop_to', 'drop_conditional', 'drop_reasons'),
  isOwn: made(({ own }) => own === 1, 'own'),
  watched: made(
    (row) => (row.watched_at === null ? null : (row.watch_reason as DomainView['watched'])),
    'watched_at',
    'watch_reason',
  ),
  firstSeenAt: stored('first_seen_at'),
  capturesByYear: made(capturesByYearOf, 'captures_by_year'),
  pastAt: stored('past_at'),
  pastSource: stored('past_source'),
  countFrom: stored('count_from'),
  language: stored('language'),
  subject: made(({ subject }) => (subject ? subjectTitle(subject) : null), 'subject'),
  area: made(({ subject }) => (subject ? areaTitle(subject) : null), 'subject'),
  subjectConfidence: stored('subject_confidence'),
  forwardsTo: stored('forward_to'),
  forwardsNow: made((row) => row.forward_now === 1, 'forward_now'),
  strengthWith: stored('strength_with'),
  capturesAt: stored('captures_at'),
  capturesRead: stored('captures_read'),
  referrersAt: stored('referrers_at'),
  linksAt: stored('links_at'),
  listing: made((row) => row.listing as DomainView['listing'], 'listing'),
  venue: stored('venue'),
  priceMinor: stored('price_minor'),
  currency: stored('currency'),
  homeMinor: made((row, { rules }) => homeMinor(row.price_minor, row.currency, rules.rates), 'price_minor', 'currency'),
  homeCurrency: made((_, { rules }) => rules.rates.home),
  closingAt: stored('closing_at'),
  listingUrl: stored('listing_url'),
  listingAt: stored('listing_at'),
  registrar: stored('registrar'),
  lastSeenAt: stored('last_seen_at'),
  addedAt: made((row) => row.added_at, 'added_at'),
  length: made(({ length }) => length, 'length'),
  recordAt: stored('record_at'),
  judged: made((row) => (row.judged ?? 'not-yet') as DomainView['judged'], 'judged'),
  judgedReason: stored('judged_reason'),
  judgedAt: stored('judged_at'),
  snoozedUntil: stored('snoozed_until'),
  shortlisted: made((_, given) => given.isShortlisted),
  stated: made((row, { rules }) => {
    const chosen = Object.entries(chosenOf(row, rules));
    if (chosen.length === 0) return null;
    const nameOf = (figure: string) => scoreNameAt(figure, rules.scoreNames) ?? null;
    return Object.fromEntries(
      chosen.map(([figure, { from }]) => [figure, { source: from.source, at: from.at, name: nameOf(figure) }]),
    );
  }, 'stated'),
  starts: told('starts'),
  matches: told('matches'),
  freshIn: told('freshIn'),
  sayability: told('sayability'),
  nameSubject: told('nameSubject'),
};

/** Columns that rows with these fields are made of. */
export const columnsOf = (fields: readonly RowField[]): (keyof DomainRow)[] => [
  ...new Set<keyof DomainRow>(['id', 'name', ...fields.flatMap((field) => FIELDS[field].columns)]),
];

/**
 * Draws rows with some fields, of which at least the columns were read. Each row begins as a copy of one that has all their names: an
 * object that gets dozens of names one after another becomes a hash table.
 */
export function drawerOf(fields: readonly RowField[]): (row: DomainRow, given: Given) => PartRow {
  const names = ['id', 'name', ...fields] as (keyof DomainView)[];
  const empty: Record<string, unknown> = JSON.parse(
    JSON.stringify(Object.fromEntries(names.map((name) => [name, null]))),
  );
  const parts = names.map((name) => ({ name, of: FIELDS[name].of }));
  return (row, given) => {
    const view = { ...empty };
    for (const { name, of } of parts) view[name] = of(row, given);
    return view as unknown as PartRow;
  };
}

const draw = drawerOf(ROW_FIELDS);

/** A stored row as screens and the interface show it. */
export function domainView(
  row: DomainRow,
  shortlisted: boolean,
  rules: ViewRules,
  extras: Extras = NO_EXTRAS,
): DomainView {
  return draw(row, { ...extras, isShortlisted: shortlisted, rules }) as DomainView;
}

export function jobView(job: JobRow): JobView {
  const { id, kind, sourceId, state, progress, error, createdAt, startedAt, finishedAt } = job;
  return { id, kind, sourceId, state, progress, error, createdAt, startedAt, finishedAt };
}

/** What is known of a domain, in a line of text. */
export function domainLine(row: DomainRow): string {
  const facts = [phaseNames[row.phase] ?? row.phase];
  if (row.referring_domains !== null) facts.push(`${row.referring_domains} referring domains`);
  if (row.strength !== null) facts.push(`strength ${Math.round(row.strength)}`);
  if (row.trust !== null) facts.push(`trust ${Math.round(row.trust)}`);
  if (row.spam_risk !== null) facts.push(`spam risk ${row.spam_risk} of 100`);
  return facts.join(', ');
}

const phaseNames: Record<string, string> = {
  'pending-delete': 'pending delete',
  'auto-renew': 'auto-renew period',
  'not-registrable': 'not registrable',
};
