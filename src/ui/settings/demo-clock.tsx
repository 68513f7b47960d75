'use client';

import { toast } from 'sonner';
import { moment } from '../../core/wording/format';
import { call } from '../api';
import { useRedraw } from '../server-state';
import { useNow } from '../shell/live';

const STEPS = [
  ['an hour', 3_600_000],
  ['a day', 86_400_000],
  ['a week', 7 * 86_400_000],
] as const;

/** Moves the time of the made-up world forward: names drop, auctions close, owners renew. */
export function DemoClock() {
  const redraw = useRedraw();
  const now = useNow();
  const move = async (words: string, forwardMs: number) => {
    try {
      const answer = await call('POST /clock', { body: { forwardMs } });
      toast(`The world is ${words} older: it is ${moment(answer.now, answer.now)}`);
      redraw();
    } catch (error) {
      toast((error as Error).message);
    }
  };
  return (
    <section aria-labelledby="clock">
      <h2 id="clock">Time in the demo</h2>
      <p className="small">It is {moment(now, now)} there. It cannot be turned back.</p>
      <p className="mt-1 flex gap-2">
        {STEPS.map(([words, ms]) => (
          <button key={words} type="button" className="quiet" onClick={() => void move(words, ms)}>
            Forward {words}
          </button>
        ))}
      </p>
    </section>
  );
}
