import { ago, moment, plural } from '../../core/wording/format';
import Link from '../link';

/** Something that keeps questions from being put. Times in ms since 1970 UTC. */
export interface LookupProblemView {
  key: string;
  words: string;
  remedy: string;
  since: number;
  times: number;
}

/** Names that wait for one thing. */
export interface WaitingNames {
  /** Key of a problem, or `its servers`. */
  waitsFor: string;
  words: string;
  names: number;
  nextAt: number | null;
}

/** What names wait for that cannot be asked now; nothing where all can be. */
export function WaitingLines({ waiting, now }: { waiting: WaitingNames[]; now: number }) {
  return (
    <>
      {waiting.map(({ waitsFor, words, names, nextAt }) => (
        <p key={waitsFor} className="border-t border-rule py-1.5 wrap-anywhere" data-waits={waitsFor}>
          <strong>{plural(names, 'name waits', 'names wait')}</strong>: {words || 'their own servers do not answer.'}
          <span className="small block">
            {nextAt === null
              ? 'They are asked as soon as it works again.'
              : `Tried again ${moment(nextAt, now)}, once a day.`}
          </span>
        </p>
      ))}
    </>
  );
}

/** Who could not be asked, why, since when, and what can be done; nothing where all can be. */
export function LookupProblems({
  problems,
  waiting,
  now,
}: {
  problems: LookupProblemView[];
  waiting: WaitingNames[];
  now: number;
}) {
  const others = waiting.filter(({ waitsFor }) => problems.every(({ key }) => key !== waitsFor));
  if (problems.length === 0 && waiting.length === 0) return null;
  const held = (key: string) => waiting.find(({ waitsFor }) => waitsFor === key)?.names ?? 0;
  return (
    <section aria-labelledby="unasked" className="border-l-2 border-damson pl-3">
      <h1 id="unasked">Could not be asked</h1>
      <p className="small mb-1">
        Names that depend on these are unknown, not free, and are asked as soon as it works again.{' '}
        <Link href="/settings">Settings</Link> say who is asked.
      </p>
      <ul>
        {problems.map(({ key, words, remedy, since, times }) => (
          <li key={key} className="border-t border-rule py-1.5 wrap-anywhere" data-problem={key}>
            {words} {held(key) > 0 && <strong>{plural(held(key), 'name waits', 'names wait')}.</strong>}
            <span className="small block">
              {remedy} First {ago(since, now)}, met {plural(times, 'time')}.
            </span>
          </li>
        ))}
      </ul>
      <WaitingLines waiting={others} now={now} />
    </section>
  );
}
