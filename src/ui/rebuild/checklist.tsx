import { useEffect, useState } from 'react';
import type { StepChange } from '../../contracts/portfolio';
import type { Step } from '../../core/rebuild/checklist';
import { ago } from '../../core/wording/format';
import { OneLine } from '../forms/one-line';

/** What is to be done to bring a site back; steps of one's own may be added. */
export function Checklist({
  steps,
  progress,
  now,
  onDecide,
}: {
  steps: Step[];
  progress: { done: number; all: number };
  now: number;
  onDecide(changes: StepChange[]): void;
}) {
  // what was ticked shows at once, until the page has heard of it
  const [ticked, setTicked] = useState<ReadonlyMap<string, boolean>>(new Map());
  // biome-ignore lint/correctness/useExhaustiveDependencies: forgotten when the steps are new
  useEffect(() => setTicked(new Map()), [steps]);
  return (
    <section aria-labelledby="to-do">
      <h2 id="to-do">
        To do{' '}
        <span className="small">
          {progress.done} of {progress.all} done
        </span>
      </h2>
      <ul className="mt-1">
        {steps.map(({ key, words: says, state, at }) => (
          <li key={key} className="border-t border-faint py-1">
            <label className="flex items-baseline gap-2">
              <input
                type="checkbox"
                checked={ticked.get(key) ?? state === 'done'}
                onChange={(event) => {
                  setTicked(new Map(ticked).set(key, event.target.checked));
                  onDecide([{ key, state: event.target.checked ? 'done' : 'wanted' }]);
                }}
              />
              <span className="grow wrap-anywhere">
                {says} {state === 'done' && <span className="small">done {ago(at, now)}</span>}
              </span>
              {key.startsWith('own:') && (
                <button
                  type="button"
                  className="set small"
                  aria-label={`Remove: ${says}`}
                  onClick={(event) => {
                    event.preventDefault();
                    onDecide([{ key, state: null }]);
                  }}
                >
                  remove
                </button>
              )}
            </label>
          </li>
        ))}
      </ul>
      <OneLine
        label="A step of your own"
        button="Add it"
        placeholder="A step of your own"
        maxLength={300}
        outer="mt-1 flex gap-2 border-t border-faint pt-2"
        act={(words) => onDecide([{ key: `own:${Date.now().toString(36)}`, state: 'wanted', words }])}
      />
    </section>
  );
}
