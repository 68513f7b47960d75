import type { Metadata } from 'next';
import { worthOfWaiting } from '../../core/lifecycle/near-miss';
import { displayName } from '../../core/names/domain';
import { ago, count, day, plural, score, span } from '../../core/wording/format';
import { statusName } from '../../core/wording/status';
import { queueViews } from '../../services/availability/queues';
import type { Store } from '../../store/base/database';
import { readSettings } from '../../store/base/settings';
import type { DomainRow } from '../../store/domains/domains';
import { lookupProblems } from '../../store/lifecycle/lookup-problems';
import { waitingNames } from '../../store/lifecycle/suspended-questions';
import { recentEvents } from '../../store/lifecycle/verdicts';
import { countWatched, watchedDomains } from '../../store/lifecycle/watching';
import { funnelOf, listBatches } from '../../store/sources/batches';
import { LookupProblems } from '../../ui/check/lookup-problems';
import { PasteBatch } from '../../ui/check/paste-batch';
import { Registries } from '../../ui/check/registries';
import { EventLines } from '../../ui/event-lines';
import Link from '../../ui/link';
import { RefreshOnJobs } from '../../ui/sources/refresh';
import { parametersOf, type SearchParams } from '../search-params';
import { getStore } from '../server';

export const metadata: Metadata = { title: 'Check' };

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
            <table className="mt-4 w-full">
              <thead className="small">
                <tr className="text-left">
                  <th className="font-normal">Batch</th>
                  <th className="text-right font-normal">Domains</th>
                  <th className="text-right font-normal">Free</th>
                  <th className="text-right font-normal">Lapsing</th>
                  <th className="text-right font-normal">Waiting</th>
                  <th className="text-right font-normal">When</th>
                </tr>
              </thead>
              <tbody>
                {batches.map((batch) => {
                  const cells = funnelOf(store, batch);
                  const sum = (is: (cell: (typeof cells)[number]) => boolean) =>
                    cells.reduce((total, cell) => total + (is(cell) ? cell.count : 0), 0);
                  return (
                    <tr key={batch.id} className="border-t border-rule">
                      <td className="py-1.5 pr-3">
                        <Link href={`/check/${batch.id}`} className="font-semibold hover:underline">
                          {batch.name}
                        </Link>
                      </td>
                      <td className="text-right">{count(sum(() => true))}</td>
                      <td className="text-right">{count(sum(({ phase, waits }) => phase === 'free' && !waits))}</td>
                      <td className="text-right">
                        {count(sum(({ phase }) => ['auto-renew', 'redemption', 'pending-delete'].includes(phase)))}
                      </td>
                      <td className="text-right">{count(sum(({ waits }) => waits !== null))}</td>
                      <td className="small text-right">{ago(batch.created_at, now)}</td>
                    </tr>
                  );
                })}
              </tbody>
            </table>
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
        <table className="w-full table-fixed">
          <thead className="small">
            <tr className="text-left">
              <th className="font-normal">Domain</th>
              <th className="w-28 font-normal">Status</th>
              <th className="w-44 font-normal">Free, as expected, UTC</th>
              <th className="w-20 text-right font-normal">Str · trust</th>
              <th
                className="w-16 text-right font-normal"
                title="trust and strength less spam risk, halved with every 30 days of waiting"
              >
                Worth
              </th>
              <th className="w-28 text-right font-normal">Looked at</th>
              <th className="w-24 text-right font-normal">Again</th>
            </tr>
          </thead>
          <tbody>
            {rows.map((row) => (
              <tr key={row.id} className="border-t border-faint" data-watched={row.name}>
                <td className="truncate py-1 pr-2">
                  <Link href={`/domains/${row.name}`} className="font-semibold hover:underline">
                    {displayName(row.name)}
                  </Link>
                  {row.watch_reason === 'by hand' && <span className="small ml-1.5">by hand</span>}
                </td>
                <td>{statusName(row.phase)}</td>
                <td
                  className="truncate"
                  title={row.drop_reasons ? (JSON.parse(row.drop_reasons) as string[]).join('; ') : undefined}
                >
                  {freeWhen(row, now)}
                </td>
                <td className="text-right">
                  {score(row.strength)} · {score(row.trust)}
                </td>
                <td className="text-right">
                  {score(
                    worthOfWaiting(
                      {
                        phase: row.phase,
                        strength: row.strength,
                        trust: row.trust,
                        spamRisk: row.spam_risk,
                        freeAt: row.drop_to ?? row.drop_at,
                      },
                      now,
                    ),
                  )}
                </td>
                <td className="small text-right">{ago(row.phase_at, now)}</td>
                <td className="small text-right">
                  {row.ask_at === null ? '' : row.ask_at <= now ? 'now' : inTime(row.ask_at - now)}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  );
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
