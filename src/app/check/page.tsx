import type { Metadata } from 'next';
import { worthOfWaiting } from '../../core/lifecycle/near-miss';
import { displayName } from '../../core/names/domain';
import { count, day, plural, span } from '../../core/wording/format';
import { queueViews } from '../../services/availability/queues';
import type { Store } from '../../store/base/database';
import { readSettings } from '../../store/base/settings';
import type { DomainRow } from '../../store/domains/domains';
import { lookupProblems } from '../../store/lifecycle/lookup-problems';
import { waitingNames } from '../../store/lifecycle/suspended-questions';
import { recentEvents } from '../../store/lifecycle/verdicts';
import { countWatched, watchedDomains } from '../../store/lifecycle/watching';
import { type Batch, funnelOf, listBatches } from '../../store/sources/batches';
import { type BatchLine, BatchTable } from '../../ui/check/batch-table';
import { LookupProblems } from '../../ui/check/lookup-problems';
import { PasteBatch } from '../../ui/check/paste-batch';
import { Registries } from '../../ui/check/registries';
import { type WatchedLine, WatchTable } from '../../ui/check/watch-table';
import { EventLines } from '../../ui/event-lines';
import Link from '../../ui/link';
import { RefreshOnJobs } from '../../ui/sources/refresh';
import { parametersOf, type SearchParams } from '../search-params';
import { getStore } from '../server';

export const metadata: Metadata = { title: 'Availability' };

const WATCHED_SHOWN = 60;
const DAY = 86_400_000;

/** Is it free, and if not, when: batches of names, the watch, and the servers that answer. */
export default async function CheckPage({ searchParams }: { searchParams: SearchParams }) {
  const query = await parametersOf(searchParams);
  const store = await getStore();
  const now = store.now();
  const batches = listBatches(store, 12);
  const { registrar } = readSettings(store);
  return (
    <div className="mx-auto grid max-w-[1240px] grid-cols-1 lg:grid-cols-[1fr_440px] gap-x-10 px-6 py-6">
      <RefreshOnJobs />
      <div className="flex min-w-0 flex-col gap-7">
        <section aria-labelledby="batches">
          <h1 id="batches">Is it available, and if not, when?</h1>
          <p className="small mb-2">
            Names are asked for in DNS first, at the servers of their ending; only what is not delegated goes on to its
            registry’s record, and only what is free there to the registrar.
          </p>
          <PasteBatch hasRegistrar={registrar !== ''} />
          {batches.length > 0 && (
            <div className="mt-4">
              <BatchTable rows={batches.map((batch) => batchLine(store, batch))} />
            </div>
          )}
        </section>
        <Watch
          store={store}
          now={now}
          isByHand={query.get('watch') === 'by-hand'}
          page={Math.max(0, Math.floor(Number(query.get('page')) || 0))}
        />
      </div>
      <div className="flex min-w-0 flex-col gap-7">
        <LookupProblems problems={lookupProblems(store)} waiting={waitingNames(store)} now={now} />
        <Registries queues={queueViews(store)} now={now} />
        <Happened store={store} now={now} />
      </div>
    </div>
  );
}

/** Watched names by when they should be free, with what they are worth waiting for. */
function Watch({ store, now, isByHand, page }: { store: Store; now: number; isByHand: boolean; page: number }) {
  const { byHand, nearMisses, due } = countWatched(store);
  const total = isByHand ? byHand : byHand + nearMisses;
  const rows = watchedDomains(store, isByHand, WATCHED_SHOWN, page * WATCHED_SHOWN);
  const address = (hand: boolean, at = 0) =>
    `/check?${new URLSearchParams({ ...(hand && { watch: 'by-hand' }), ...(at > 0 && { page: String(at) }) })}#watch`;
  return (
    <section aria-labelledby="watch">
      <h1 id="watch">The watch</h1>
      <p className="small mb-2">
        {plural(byHand, 'name')} by hand, {plural(nearMisses, 'name')} automatically: lapsing names ranked by trust,
        strength and spam risk against the time until they are free. {due > 0 && `${count(due)} due now.`}
      </p>
      <p className="mb-1 flex gap-3">
        <Link href={address(false)} className={isByHand ? 'text-muted' : 'border-b border-damson font-semibold'}>
          all {count(byHand + nearMisses)}
        </Link>
        <Link href={address(true)} className={isByHand ? 'border-b border-damson font-semibold' : 'text-muted'}>
          by hand {count(byHand)}
        </Link>
        {total > WATCHED_SHOWN && (
          <span className="small ml-auto flex gap-3">
            {page > 0 && <Link href={address(isByHand, page - 1)}>earlier</Link>}
            {count(page * WATCHED_SHOWN + 1)} to {count(Math.min(total, (page + 1) * WATCHED_SHOWN))}
            {(page + 1) * WATCHED_SHOWN < total && <Link href={address(isByHand, page + 1)}>later</Link>}
          </span>
        )}
      </p>
      {rows.length === 0 ? (
        <p className="border-t border-rule py-3">
          Nothing is watched yet. Press w on a domain in the pool; lapsing names that you almost kept are watched
          automatically once they are measured.
        </p>
      ) : (
        <WatchTable rows={rows.map((row) => watchedLine(row, now))} />
      )}
    </section>
  );
}

function batchLine(store: Store, batch: Batch): BatchLine {
  const cells = funnelOf(store, batch);
  const sum = (is: (cell: (typeof cells)[number]) => boolean) =>
    cells.reduce((total, cell) => total + (is(cell) ? cell.count : 0), 0);
  return {
    id: batch.id,
    name: batch.name,
    names: sum(() => true),
    free: sum(({ phase, waits }) => phase === 'free' && !waits),
    lapsing: sum(({ phase }) => ['auto-renew', 'redemption', 'pending-delete'].includes(phase)),
    waiting: sum(({ waits }) => waits !== null),
    createdAt: batch.created_at,
  };
}

function watchedLine(row: DomainRow, now: number): WatchedLine {
  const freeAt = row.drop_to ?? row.drop_at;
  const { phase, strength, trust } = row;
  return {
    id: row.id,
    name: row.name,
    display: displayName(row.name),
    isByHand: row.watch_reason === 'by hand',
    phase,
    freeWords: freeWhen(row, now),
    reasons: row.drop_reasons ? (JSON.parse(row.drop_reasons) as string[]).join('; ') : '',
    freeAt,
    strength,
    trust,
    waitWorth: worthOfWaiting({ phase, strength, trust, spamRisk: row.spam_risk, freeAt }, now),
    lookedAt: row.phase_at,
    againAt: row.ask_at,
    againWords: row.ask_at === null ? '' : row.ask_at <= now ? 'now' : inTime(row.ask_at - now),
  };
}

function freeWhen(row: DomainRow, now: number): string {
  if (row.phase === 'free') return 'free now';
  if (row.phase === 'active') return row.expires_at === null ? '' : `registered until ${day(row.expires_at, now)}`;
  if (row.drop_from !== null && row.drop_to !== null) {
    const words = span(row.drop_from, row.drop_to, now);
    return row.drop_conditional ? `${words}, if not renewed` : words;
  }
  return row.drop_at === null ? '' : `${day(row.drop_at, now)}, as a list says`;
}

function inTime(ms: number): string {
  return ms < 3_600_000
    ? `in ${Math.max(1, Math.round(ms / 60_000))} min`
    : ms < 2 * DAY
      ? `in ${Math.round(ms / 3_600_000)} h`
      : `in ${Math.round(ms / DAY)} days`;
}

function Happened({ store, now }: { store: Store; now: number }) {
  const events = recentEvents(store, now - 14 * DAY, 20);
  return (
    <section aria-labelledby="happened">
      <h1 id="happened">What happened</h1>
      <p className="small mb-1">to watched and shortlisted names, the last two weeks</p>
      {events.length === 0 && <p className="border-t border-rule py-2">Nothing yet.</p>}
      <EventLines events={events} now={now} />
    </section>
  );
}
