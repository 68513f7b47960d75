import Link from 'next/link';
import { ago, plural } from '../format';

/** Something that keeps questions from being put. Times in ms since 1970 UTC. */
export interface LookupProblemView {
  key: string;
  words: string;
  remedy: string;
  since: number;
  times: number;
}

/** Who could not be asked, why, since when, and what can be done; nothing where all can be. */
export function LookupProblems({ problems, now }: { problems: LookupProblemView[]; now: number }) {
  if (problems.length === 0) return null;
  return (
    <section aria-labelledby="unasked" className="border-l-2 border-damson pl-3">
      <h1 id="unasked">Could not be asked</h1>
      <p className="small mb-1">
        Names that depend on these are unknown, not free. <Link href="/settings">Settings</Link> say who is asked.
      </p>
      <ul>
        {problems.map(({ key, words, remedy, since, times }) => (
          <li key={key} className="border-t border-rule py-1.5 wrap-anywhere" data-problem={key}>
            {words}
            <span className="small block">
              {remedy} First {ago(since, now)}, met {plural(times, 'time')}.
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
