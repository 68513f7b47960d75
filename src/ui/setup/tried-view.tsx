import type { Tried, TryOutcome } from '../../core/setup/tried';
import { ago, count } from '../../core/wording/format';

const OUTCOME_WORDS: Record<TryOutcome, string> = {
  works: 'It works',
  refused: 'It was refused',
  nonsense: 'What came is not what should come',
  silent: 'Nobody answered',
  unset: 'Nobody was asked',
  unread: 'It answered, and nothing is read of it yet',
};

/** The same of what is only shown. */
const SHOWN_WORDS: Partial<Record<TryOutcome, string>> = {
  works: 'Nothing was sent, and such an answer is understood',
  nonsense: 'Nothing was sent, and such an answer is not understood',
  unread: 'Nothing was sent',
};

/** What came of a try, in words, and below them what came as it came. */
export function TriedView({
  tried,
  now,
  isInside = false,
  isShown = false,
}: {
  tried: Omit<Tried, 'ability'>;
  now: number;
  /** What stands beside it has parted it already. */
  isInside?: boolean;
  /** Nothing was asked: what would be sent stands where else what came does. */
  isShown?: boolean;
}) {
  const { outcome, asked, understood, problem, came, elapsedMs, at } = tried;
  return (
    <div
      role="status"
      className={`min-w-0 max-w-[72ch] ${isInside ? '' : 'lg:border-l lg:border-rule lg:pl-5'}`}
      data-tried={outcome}
    >
      <p>
        <strong>{(isShown && SHOWN_WORDS[outcome]) || OUTCOME_WORDS[outcome]}.</strong>{' '}
        <span className="small">
          {outcome !== 'unset' && !isShown && `${count(elapsedMs)} ms, `}
          {ago(at, now)}
        </span>
      </p>
      {asked && <p className="text-muted">{asked}</p>}
      {understood.length > 0 && (
        <ul className="mt-1">
          {understood.map((line) => (
            <li key={line}>{line}</li>
          ))}
        </ul>
      )}
      {problem && <p className="mt-1 bg-quince px-2 py-1">{problem.words}</p>}
      {came && (
        <details className="mt-1" open={isShown}>
          <summary className="set w-fit cursor-pointer">
            {isShown ? 'What would be sent, to the letter' : 'What came back'}
          </summary>
          <pre className="mt-1 max-h-60 overflow-auto border border-rule bg-paper p-2 text-small whitespace-pre-wrap">
            {came}
          </pre>
        </details>
      )}
    </div>
  );
}
