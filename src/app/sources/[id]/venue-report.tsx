import type { ListingKind } from '../../../core/formats/list-fields';
import { nextStep } from '../../../core/listings/listing';
import { homeMinor, type Rates } from '../../../core/listings/rates';
import { displayName } from '../../../core/names/domain';
import {
  ago,
  changeWords,
  closing,
  count,
  duration,
  KIND_WORDS,
  moment,
  money,
  RESERVE_WORDS,
} from '../../../core/wording/format';
import type { Store } from '../../../store/base/database';
import { changesOfSource, type StoredChange } from '../../../store/offers/listing-changes';
import { openListings, type StoredListing } from '../../../store/offers/listings';
import type { SourceRow } from '../../../store/sources/sources';
import { watchOfSource } from '../../../store/sources/watches';
import Link, { DomainLink } from '../../../ui/link';
import type { ColumnLook } from '../../../ui/parts/columns';
import { NUMBER, PlainTable, plainColumnsFor } from '../../../ui/parts/plain-table';

const SHOWN = 100;
const CHANGES = 40;
const PRESSING_MS = 3 * 3_600_000;

const PRICE: ColumnLook = { isNumber: true, className: 'whitespace-nowrap' };
const column = plainColumnsFor<ReturnType<typeof openListings>['rows'][number]>();

/** A venue's open offers, the next to change first, and what its readings have changed. */
export function VenueReport({
  store,
  source,
  rates,
  now,
  kind,
  offset,
}: {
  store: Store;
  source: SourceRow;
  rates: Rates;
  now: number;
  /** null: all kinds. */
  kind: ListingKind | null;
  offset: number;
}) {
  const { rows, kinds } = openListings(store, source.id, kind, offset, SHOWN);
  const changes = changesOfSource(store, source.id, CHANGES);
  const watch = watchOfSource(store, source.id);
  const readAt = typeof source.detail.readAt === 'number' ? source.detail.readAt : null;
  const all = kinds.reduce((sum, entry) => sum + entry.listings, 0);
  const isForeign = rows.some(({ currency }) => currency !== null && currency !== rates.home);
  const shown = kind ? (kinds.find((entry) => entry.kind === kind)?.listings ?? 0) : all;
  const page = (query: { kind?: string | null; offset?: number }) => {
    const params = new URLSearchParams();
    const next = { kind, offset, ...query };
    if (next.kind) params.set('kind', next.kind);
    if (next.offset) params.set('offset', String(next.offset));
    return `/sources/${source.id}${params.size > 0 ? `?${params}` : ''}`;
  };
  return (
    <div className="grid grid-cols-1 lg:grid-cols-[1fr_360px] gap-10">
      <section aria-labelledby="offers">
        <h2 id="offers">Open listings</h2>
        <p className="small">
          Read {ago(readAt, now)}
          {source.detail.wasUnchanged === true && ', as it was before'}
          {watch && (watch.isOn ? `; read again every ${duration(watch.everyMs)}` : '; not read by itself any more')}.
          The next to change come first.
        </p>
        <nav aria-label="Kinds of listing" className="my-2 flex flex-wrap gap-x-4 gap-y-1">
          {[{ kind: null, listings: all }, ...kinds].map((entry) => (
            <Link
              key={entry.kind ?? 'all'}
              href={page({ kind: entry.kind, offset: 0 })}
              aria-current={entry.kind === kind ? 'true' : undefined}
              className={entry.kind === kind ? 'border-b-2 border-damson font-semibold' : 'text-muted hover:underline'}
            >
              {entry.kind ? KIND_WORDS[entry.kind] : 'all'} <span className="small">{count(entry.listings)}</span>
            </Link>
          ))}
        </nav>
        <PlainTable
          label="Open listings"
          rows={rows}
          rowId={({ name, kind }) => `${name} ${kind}`}
          empty="It offers nothing at the moment."
          columns={[
            column('Domain', ({ name }) => <DomainLink name={name}>{displayName(name)}</DomainLink>, {
              className: 'max-w-64 truncate',
            }),
            column('Kind', ({ kind, reserve }) => (
              <>
                {KIND_WORDS[kind]}
                {reserve && <span className="small"> {RESERVE_WORDS[reserve]}</span>}
              </>
            )),
            column('Price', ({ priceMinor, currency }) => money(priceMinor, currency) || 'on request', PRICE),
            ...(isForeign
              ? [
                  column(
                    `in ${rates.home}`,
                    ({ priceMinor, currency }) =>
                      money(homeMinor(priceMinor, currency, rates), null) || (priceMinor !== null && 'no rate'),
                    PRICE,
                  ),
                ]
              : []),
            column('Bids', ({ bids }) => count(bids), NUMBER),
            column('Next', (row) => <Next row={row} now={now} />, { className: 'whitespace-nowrap' }),
          ]}
        />
        {shown > SHOWN && (
          <p className="mt-2 flex gap-4">
            {count(offset + 1)} to {count(offset + rows.length)} of {count(shown)}
            {offset > 0 && (
              <Link className="set" href={page({ offset: Math.max(0, offset - SHOWN) })}>
                earlier
              </Link>
            )}
            {offset + rows.length < shown && (
              <Link className="set" href={page({ offset: offset + SHOWN })}>
                later
              </Link>
            )}
          </p>
        )}
      </section>
      <section aria-labelledby="changes">
        <h2 id="changes">What changed</h2>
        {changes.length === 0 && <p className="small">Nothing since it was read first.</p>}
        {byListing(changes).map((group) => (
          <div key={`${group[0].name} ${group[0].kind} ${group[0].at}`} className="border-t border-rule py-1">
            <Link href={`/domains/${group[0].name}`} className="block truncate font-semibold hover:underline">
              {displayName(group[0].name)}
            </Link>
            {group.map((change) => changeWords(change, now)).join('; ')}{' '}
            <span className="small">{moment(group[0].at, now)}</span>
          </div>
        ))}
      </section>
    </div>
  );
}

/** Changes of one listing by one reading belong together; they lie side by side. */
function byListing(changes: StoredChange[]): StoredChange[][] {
  const groups: StoredChange[][] = [];
  for (const change of changes) {
    const last = groups.at(-1)?.[0];
    if (last && last.name === change.name && last.kind === change.kind && last.at === change.at)
      groups.at(-1)?.unshift(change);
    else groups.push([change]);
  }
  return groups;
}

/** What happens next to an offer by itself. */
function Next({ row, now }: { row: StoredListing; now: number }) {
  const step = nextStep(row, now);
  if (step)
    return (
      <>
        {money(step.priceMinor, null)} {closing(step.at, now)}
      </>
    );
  if (row.closingAt === null) return null;
  return (
    <span
      className={row.closingAt - now < PRESSING_MS ? 'rounded-[3px] bg-quince px-1' : ''}
      title={moment(row.closingAt, now)}
    >
      closes {closing(row.closingAt, now)}
    </span>
  );
}
