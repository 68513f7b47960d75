import type { ServerQueue } from '../../contracts/lookups';
import { ago, count, moment } from '../../core/wording/format';
import { ForgetBudget } from './forget-budget';

const pace = (ms: number) =>
  ms <= 0
    ? 'at once'
    : ms < 1000
      ? `${count(1000 / ms)} a second`
      : ms < 60_000
        ? `one in ${Math.round(ms / 100) / 10} s`
        : `${count(3_600_000 / ms)} an hour`;

/** The servers that answer, each with its budget, what taught it, and when what waits will be through. */
export function Registries({ queues, now }: { queues: ServerQueue[]; now: number }) {
  return (
    <section aria-labelledby="registries">
      <h1 id="registries">Who is asked, and how often</h1>
      {queues.length === 0 && <p className="mt-1 border-t border-rule py-2">No registry has been asked yet.</p>}
      {queues.map((lane) => (
        <div key={lane.server} className="border-t border-rule py-1.5" data-lane={lane.server}>
          <div className="flex items-baseline gap-3">
            <span className="min-w-0 truncate font-semibold">{lane.server.replace(/:43$/, '')}</span>
            <span className="ml-auto whitespace-nowrap">{pace(lane.intervalMs)}</span>
          </div>
          {lane.throughAt !== null && (
            <p>
              {count(lane.waiting)} wait, through {through(lane.throughAt, now)}
            </p>
          )}
          <p className="small">
            {lane.reason}
            {lane.refusedTimes > 0 &&
              `; refused ${lane.refusedTimes === 1 ? 'once' : `${count(lane.refusedTimes)} times`}, last ${ago(lane.refusedAt, now)}`}
            {lane.pausedUntil !== null && `; left alone until ${moment(lane.pausedUntil, now)}`}{' '}
            {lane.isLearned && <ForgetBudget server={lane.server} />}
          </p>
        </div>
      ))}
    </section>
  );
}

export function through(at: number, now: number): string {
  return at - now < 60_000
    ? 'within a minute'
    : at - now < 7_200_000
      ? `in ${Math.ceil((at - now) / 60_000)} min`
      : moment(at, now);
}
