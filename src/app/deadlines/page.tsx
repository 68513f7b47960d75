import type { Metadata } from 'next';
import { intoDays, zonedTime } from '../../core/deadlines/days';
import { DEADLINE_KINDS, DEADLINE_SCOPES, type Deadline, type DeadlineKind } from '../../core/deadlines/deadline';
import { count, plural, shortDay, weekday } from '../../core/wording/format';
import { deadlinesIn } from '../../services/deadlines/deadlines';
import { readSettings } from '../../store/base/settings';
import { countWatched } from '../../store/lifecycle/watching';
import { CalendarLink } from '../../ui/deadlines/calendar-link';
import { DayTrack } from '../../ui/deadlines/day-track';
import { KIND_TITLES } from '../../ui/deadlines/kinds';
import { ExportMenu } from '../../ui/export-menu';
import Link, { DomainLink } from '../../ui/link';
import { PlainTable, plainColumnsFor } from '../../ui/parts/plain-table';
import { parametersOf, type SearchParams } from '../search-params';
import { getEngine, getStore } from '../server';

export const metadata: Metadata = { title: 'Deadlines' };

const HOURS = 24 * 60;

/** What wants action and when, by the days of the user's zone. */
export default async function DeadlinesPage({ searchParams }: { searchParams: SearchParams }) {
  const query = await parametersOf(searchParams);
  const store = await getStore();
  const now = store.now();
  const { timeZone, reminderMinutes } = readSettings(store);
  const scope = DEADLINE_SCOPES.find((one) => one === query.get('scope')) ?? 'mine';
  const isList = query.get('view') === 'list';
  const asked = query.get('kinds')?.split(',') ?? [...DEADLINE_KINDS];
  const kinds = DEADLINE_KINDS.filter((kind) => asked.includes(kind));
  const { deadlines, total } = await deadlinesIn(store, getEngine(), { scope, kinds, hours: HOURS });
  const watched = countWatched(store);
  const address = (change: Record<string, string | null>) => {
    const next = new URLSearchParams(query);
    for (const [key, value] of Object.entries(change)) value === null ? next.delete(key) : next.set(key, value);
    return `/deadlines?${next}`;
  };
  const toggled = (kind: DeadlineKind) => {
    const next = kinds.includes(kind) ? kinds.filter((one) => one !== kind) : [...kinds, kind];
    return address({ kinds: next.length === DEADLINE_KINDS.length ? null : next.join(',') });
  };
  return (
    <div className="mx-auto max-w-[1180px] px-6 py-6">
      <div className="flex flex-wrap items-baseline gap-4">
        <h1>Deadlines</h1>
        <p className="text-muted">
          {scope !== 'all'
            ? `${plural(total, 'deadline')} of what is ${scope === 'mine' ? 'watched by hand or shortlisted' : 'watched or shortlisted'}, 60 days ahead`
            : `${plural(total, 'domain')} of the whole pool with a closing or a drop within 60 days; the first ${count(Math.min(total, deadlines.length))} deadlines`}
        </p>
        <ExportMenu
          address={`/api/v1/export?${new URLSearchParams({ what: 'deadlines', scope, kinds: kinds.join(',') })}`}
          label="these deadlines"
          className="quiet ml-auto"
        />
        <CalendarLink reminderMinutes={reminderMinutes} />
      </div>
      <nav aria-label="What is shown" className="mt-2 flex flex-wrap items-center gap-x-5 gap-y-[6px]">
        <span className="flex flex-wrap gap-x-3 gap-y-[6px]">
          <Choice href={address({ scope: null })} isOn={scope === 'mine'}>
            Mine
          </Choice>
          <Choice href={address({ scope: 'near' })} isOn={scope === 'near'}>
            Watched automatically, too
          </Choice>
          <Choice href={address({ scope: 'all' })} isOn={scope === 'all'}>
            Whole pool
          </Choice>
        </span>
        <span className="flex flex-wrap gap-x-3 gap-y-[6px] border-l border-rule pl-5">
          <Choice href={address({ view: null })} isOn={!isList}>
            By day
          </Choice>
          <Choice href={address({ view: 'list' })} isOn={isList}>
            List
          </Choice>
        </span>
        <span className="flex flex-wrap gap-x-3 gap-y-[6px] border-l border-rule pl-5">
          {DEADLINE_KINDS.map((kind) => (
            <Choice key={kind} href={toggled(kind)} isOn={kinds.includes(kind)}>
              {KIND_TITLES[kind]}
            </Choice>
          ))}
        </span>
        <span className="small ml-auto">
          {timeZone} time · {plural(watched.byHand, 'name')} watched by hand, {count(watched.nearMisses)} automatically
          ·{' '}
          <Link className="set" href="/check">
            the watch
          </Link>
        </span>
      </nav>
      {deadlines.length === 0 ? (
        <p className="mt-4 border-t border-rule pt-4">
          {scope !== 'all'
            ? 'Nothing of yours is due. Watch a name in the pool with w, or put it on the shortlist: its closings, drops and expiries then stand here.'
            : 'No closing and no drop is known within 60 days. Load a drop list or a venue.'}
        </p>
      ) : isList ? (
        <List deadlines={deadlines} zone={timeZone} />
      ) : (
        <Days deadlines={deadlines} zone={timeZone} now={now} />
      )}
    </div>
  );
}

function Choice({ href, isOn, children }: { href: string; isOn: boolean; children: React.ReactNode }) {
  return (
    <Link
      href={href}
      aria-current={isOn ? 'true' : undefined}
      className={isOn ? 'border-b border-damson font-semibold' : 'text-muted hover:text-ink'}
    >
      {children}
    </Link>
  );
}

function Days({ deadlines, zone, now }: { deadlines: Deadline[]; zone: string; now: number }) {
  return intoDays(deadlines, zone).map(({ key, from, to, items }) => {
    const rechecks = items.filter(({ kind }) => kind === 're-check');
    const noon = noonOf(key);
    return (
      <section
        key={key}
        aria-labelledby={`day-${key}`}
        className="mt-4 grid grid-cols-1 lg:grid-cols-[130px_1fr] gap-x-6 border-t border-rule pt-3"
      >
        <h2 id={`day-${key}`} className="font-normal">
          <span className="block font-serif text-[18px] font-semibold leading-tight">{shortDay(noon)}</span>
          <span className="small">
            {now >= from && now < to ? 'today' : weekday(noon)}
            {to - from !== 86_400_000 && `, ${(to - from) / 3_600_000} hours long`}
          </span>
        </h2>
        <div className="min-w-0">
          <DayTrack from={from} to={to} now={now} zone={zone} items={items} />
          <PlainTable
            label={`Deadlines of ${key}`}
            isHeadless
            className="mt-1 table-fixed"
            rows={items.filter(({ kind }) => kind !== 're-check')}
            rowId={({ uid }) => uid}
            rowProps={({ kind }) => ({ 'data-deadline': kind })}
            columns={columnsOf(zone, key)}
            last={
              rechecks.length === 0 ? undefined : (
                <>
                  From {zonedTime(rechecks[0].at, zone).time} on{' '}
                  {rechecks.length === 1
                    ? `${rechecks[0].name} is asked about again`
                    : `${plural(rechecks.length, 'watched name')} are asked about again: ${rechecks
                        .slice(0, 3)
                        .map(({ name }) => name)
                        .join(', ')}${rechecks.length > 3 ? ' …' : ''}`}
                </>
              )
            }
          />
        </div>
      </section>
    );
  });
}

function List({ deadlines, zone }: { deadlines: Deadline[]; zone: string }) {
  return (
    <PlainTable
      label="Deadlines"
      className="mt-3 table-fixed"
      rows={deadlines}
      rowId={({ uid }) => uid}
      rowProps={({ kind }) => ({ 'data-deadline': kind })}
      columns={columnsOf(zone, null)}
    />
  );
}

/** The middle of a day (`2026-11-26`), ms since 1970 UTC. */
const noonOf = (key: string) => Date.parse(`${key}T12:00:00Z`);
const dayWords = (key: string) => shortDay(noonOf(key));

const column = plainColumnsFor<Deadline>();

/** @param day whose time alone is told; null: with its day. */
function columnsOf(zone: string, day: string | null) {
  return [
    column(
      'When',
      ({ at, until }) => {
        const begins = zonedTime(at, zone);
        const ends = until === null ? null : zonedTime(until, zone);
        return (
          <>
            {day === null && <span className="mr-2">{dayWords(begins.day)}</span>}
            {begins.time}
            {ends && (
              <span className="text-muted">
                {' '}
                to {ends.day === begins.day ? '' : `${dayWords(ends.day)} `}
                {ends.time}
              </span>
            )}
          </>
        );
      },
      { className: day === null ? 'w-52 whitespace-nowrap' : 'w-44 whitespace-nowrap' },
    ),
    column('Domain', ({ name }) => <DomainLink name={name} />, { className: 'w-64 truncate' }),
    column('What', ({ words }) => <span title={words}>{words}</span>, { className: 'truncate' }),
    column('Where it comes from', ({ origin }) => <span title={origin}>{origin}</span>, {
      className: 'small truncate',
    }),
  ];
}
