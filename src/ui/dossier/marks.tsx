'use client';

import { useEffect, useRef, useState } from 'react';
import { toast } from 'sonner';
import type { Judgement } from '../../core/pool/facts';
import { ago } from '../../core/wording/format';
import { YOU } from '../../core/work/you';
import { act, PASS_REASONS, undo } from '../pool/acts';
import { wordFor } from '../pool/sentences';
import { useRedraw } from '../server-state';
import { Hears } from '../shell/hears';
import { KEYS, placeOf, pressed } from '../shell/key-list';
import { useNow } from '../shell/live';
import { isTyping } from '../shell/shell';

const MARKS = [
  ['clean', '+', 'Sound'],
  ['spam', '!', 'Spam'],
  ['pass', 'n', 'Pass'],
] as const;

/** The person's mark on a domain, given and taken back here or by its key; passing it over asks for the reason. */
export function Marks({
  id,
  name,
  judged: stored,
  reason: storedReason,
  at: storedAt,
  by: storedBy,
}: {
  id: number;
  name: string;
  judged: Judgement;
  reason: string | null;
  at: number | null;
  /** Who gave it; null: not kept. */
  by: string | null;
}) {
  const redraw = useRedraw();
  const now = useNow();
  const [isPassing, setShown] = useState(false);
  // a key that follows at once is told by what was pressed, not by what is drawn yet
  const passing = useRef(false);
  const setPassing = (next: boolean) => {
    passing.current = next;
    setShown(next);
  };
  const [given, setGiven] = useState<number[]>([]);
  // what was given here stands at once; the page follows
  const [own, setOwn] = useState<{ judged: Judgement; reason: string | null; at: number | null; by: string } | null>(
    null,
  );
  // biome-ignore lint/correctness/useExhaustiveDependencies: newer word from the server takes its place
  useEffect(() => setOwn(null), [stored, storedReason, storedAt]);
  const { judged, reason, at, by } = own ?? { judged: stored, reason: storedReason, at: storedAt, by: storedBy };
  const afterUndo = () => {
    setOwn(null);
    redraw();
  };
  const orSay = async (what: () => Promise<void>) => {
    try {
      await what();
      redraw();
    } catch (error) {
      setOwn(null);
      toast((error as Error).message);
    }
  };
  const mark = (value: Judgement, why: string | null = null) =>
    orSay(async () => {
      setPassing(false);
      setOwn({ judged: value, reason: why, at: now, by: YOU });
      const action = await act({ kind: 'judge', judged: value, reason: why }, { ids: [id] }, name, afterUndo);
      if (action !== null) setGiven((before) => [...before, action]);
    });
  const takeBack = () =>
    orSay(async () => {
      const last = given.at(-1);
      setOwn({ judged: 'not-yet', reason: null, at: null, by: YOU });
      if (last !== undefined) {
        await undo([last]);
        setGiven(given.slice(0, -1));
      } else if (judged !== 'not-yet') await act({ kind: 'judge', judged: 'not-yet' }, { ids: [id] }, name, afterUndo);
    });
  // the digits are those of the sections otherwise
  const onReason = (event: KeyboardEvent) => {
    if (!passing.current || isTyping(event)) return;
    const why = PASS_REASONS[placeOf(event)];
    // its digits are those of the sections, and its letter that of the mark, as long as no reason is asked for
    if (why) void mark('pass', why);
    else if (KEYS.dossier.withoutReason.keys.some((key) => key === event.key)) void mark('pass');
    else if (pressed('dossier', event) === 'notPassed') setPassing(false);
    else return;
    event.stopImmediatePropagation();
    event.preventDefault();
  };
  // after those of what has the focus
  const onKey = (event: KeyboardEvent) => {
    if (isTyping(event)) return;
    const key = pressed('dossier', event);
    if (key === 'pass') setPassing(true);
    else if (key === 'spam' || key === 'clean') void mark(key);
    else if (key === 'takeBack') void takeBack();
    else return;
    event.preventDefault();
  };
  return (
    <div className="flex flex-wrap items-center justify-end gap-2" role="toolbar" aria-label="Your mark">
      <Hears onKey={onReason} isFirst />
      <Hears onKey={onKey} />
      {judged !== 'not-yet' && !isPassing && (
        <span className="text-damson" data-judged={judged}>
          {wordFor(judged)} by {by === null || by === YOU ? 'your mark' : `the mark of ${by}`}, {ago(at, now)}
          {reason && `: ${reason}`}{' '}
          <button type="button" className="small underline" onClick={() => void takeBack()}>
            take it back <kbd>u</kbd>
          </button>
        </span>
      )}
      {isPassing ? (
        <>
          <span>Pass it over, since it is</span>
          {PASS_REASONS.map((why, i) => (
            <button key={why} type="button" className="quiet" onClick={() => void mark('pass', why)}>
              {why} <kbd className="small">{i + 1}</kbd>
            </button>
          ))}
          <button type="button" className="quiet" onClick={() => void mark('pass')}>
            no reason <kbd className="small">Enter</kbd>
          </button>
          <button type="button" className="quiet" onClick={() => setPassing(false)}>
            Not now <kbd className="small">Esc</kbd>
          </button>
        </>
      ) : (
        MARKS.map(([value, key, label]) => (
          <button
            key={value}
            type="button"
            className="quiet"
            aria-pressed={judged === value}
            onClick={() => (value === 'pass' ? setPassing(true) : void mark(value))}
          >
            {label} <kbd className="small">{key}</kbd>
          </button>
        ))
      )}
    </div>
  );
}
