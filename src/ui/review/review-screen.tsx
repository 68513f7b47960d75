'use client';

import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { toast } from 'sonner';
import type { SievePart, Sort } from '../../core/pool/conditions';
import type { DomainView } from '../../core/pool/domain-view';
import { count, duration } from '../../core/wording/format';
import { tally } from '../../core/wording/tally';
import { call } from '../api';
import { freshRow, useDetails } from '../details';
import { Evidence } from '../evidence';
import Link, { DomainLink } from '../link';
import { openOrder } from '../orders/open';
import { HEAD, NUMBER, PlainTable, plainColumnsFor } from '../parts/plain-table';
import { type Act, DAY_MS, PASS_REASONS, undo } from '../pool/acts';
import { wordFor } from '../pool/sentences';
import type { Answer } from '../pool/use-pool';
import { Hears } from '../shell/hears';
import { KEYS, placeOf, pressed } from '../shell/key-list';
import { useNow } from '../shell/live';
import { isTyping } from '../shell/shell';
import { type Step, useRun } from './use-run';

const PAGE = 100;
const AHEAD = 3;

const ofReason = plainColumnsFor<[reason: string, many: number]>();

type Verdict = 'keep' | 'pass' | 'spam' | 'clean' | 'snoozed';
const VERDICTS: {
  verdict: Verdict;
  key: 'keep' | 'pass' | 'spam' | 'clean' | 'snooze';
  label: string;
  days?: number;
}[] = [
  { verdict: 'keep', key: 'keep', label: 'Keep' },
  { verdict: 'pass', key: 'pass', label: 'Pass' },
  { verdict: 'spam', key: 'spam', label: 'Spam' },
  { verdict: 'clean', key: 'clean', label: 'Sound' },
  { verdict: 'snoozed', key: 'snooze', label: 'Snooze a week', days: 7 },
];

interface ReviewProps {
  briefId: number;
  briefName: string;
  parts: SievePart[];
  sorts: Sort[];
  /** Address of the pool view it came from. */
  back: string;
  /** The kept sieve whose new domains are gone through; null: another view. */
  sieveName: string | null;
  first: Answer | null;
}

/** One domain at a time: the deciding evidence, one key, the next. */
export function ReviewScreen({ briefId, briefName, parts, sorts, back, sieveName, first }: ReviewProps) {
  const now = useNow();
  const [rows, setRows] = useState<DomainView[]>(first?.rows ?? []);
  const [total, setTotal] = useState(first?.total ?? 0);
  const [at, setAt] = useState(0);
  const [steps, setSteps] = useState<Step[]>([]);
  const [isPassing, setPassing] = useState(false);
  const started = useRef(0);
  const [elapsed, setElapsed] = useState(0);
  const loading = useRef(false);
  /** Verdicts that are being written: what is taken back is written first. */
  const underWay = useRef(new Map<Step, Promise<void>>());
  const spent = Math.max(0, elapsed - started.current);
  useEffect(() => {
    started.current = Date.now();
    setElapsed(Date.now());
  }, []);
  useRun({ rows, total, at, steps, spentMs: spent }, (run) => {
    setRows(run.rows);
    setTotal(run.total);
    setAt(run.at);
    setSteps(run.steps);
    started.current = Date.now() - run.spentMs;
  });

  // rows are those of the start: a verdict that takes a domain out of the sieve must not shift the ones behind it
  const sieve = useMemo(() => ({ parts, sorts }), [parts, sorts]);
  useEffect(() => {
    if (loading.current || rows.length >= total || at < rows.length - 20) return;
    loading.current = true;
    // those judged here have left the sieve, so the rest begins that much earlier
    const known = new Set(rows.map(({ id }) => id));
    call('POST /pool/query', { body: { ...sieve, offset: Math.max(0, rows.length - steps.length), limit: PAGE } })
      .then((answer) => setRows((before) => [...before, ...answer.rows.filter(({ id }) => !known.has(id))]))
      .catch((error: Error) => toast(error.message))
      .finally(() => {
        loading.current = false;
      });
  }, [at, rows, total, steps.length, sieve]);

  const row = rows[at];
  const details = useDetails(
    row?.name,
    rows.slice(at + 1, at + 1 + AHEAD).map(({ name }) => name),
  );

  const decide = useCallback(
    (verdict: Verdict, reason: string | null = null) => {
      if (!row) return;
      setPassing(false);
      const step: Step = { index: at, verdict, reason, actions: [] };
      setSteps((before) => [...before, step]);
      setAt(at + 1);
      setElapsed(Date.now());
      const days = VERDICTS.find((entry) => entry.verdict === verdict)?.days;
      const acts: Act[] = [
        { kind: 'judge', judged: verdict, reason, until: days ? now + days * DAY_MS : null },
        ...(verdict === 'keep' ? [{ kind: 'shortlist', brief: briefId } as const] : []),
      ];
      // the next is on the screen already; what goes wrong is said and can be done again
      const sent = (async () => {
        try {
          for (const act of acts) {
            const { action } = await call('POST /actions', { body: { act, which: { ids: [row.id] } } });
            if (action !== null) step.actions.push(action);
          }
        } catch (error) {
          toast(`${row.display} is not marked: ${(error as Error).message}`);
          setSteps((before) => before.filter((other) => other !== step));
        }
      })();
      underWay.current.set(step, sent);
    },
    [row, at, briefId, now],
  );
  const takeBack = useCallback(async () => {
    const last = steps.at(-1);
    if (!last) return;
    setSteps(steps.slice(0, -1));
    setAt(last.index);
    setPassing(false);
    try {
      await underWay.current.get(last);
      if (last.actions.length > 0) await undo(last.actions);
      else await unmark(rows[last.index]);
    } catch (error) {
      toast((error as Error).message);
    }
  }, [steps, rows]);

  const onKey = (event: KeyboardEvent) => {
    if (isTyping(event)) return;
    if (isPassing) {
      const reason = PASS_REASONS[placeOf(event)];
      if (reason) decide('pass', reason);
      else if (KEYS.review.withoutReason.keys.some((key) => key === event.key)) decide('pass');
      else if (pressed('review', event) === 'notPassed') setPassing(false);
      else return;
      event.preventDefault();
      return;
    }
    const key = pressed('review', event);
    const found = VERDICTS.find((one) => one.key === key);
    if (found?.verdict === 'pass') setPassing(true);
    else if (found) decide(found.verdict);
    else if (key === 'takeBack') void takeBack();
    else if (key === 'order' && row) openOrder(row.name);
    else if (key === 'later') setAt(Math.min(total, at + 1));
    else if (key === 'earlier') setAt(Math.max(0, at - 1));
    else return;
    event.preventDefault();
  };
  if (!row)
    return (
      <>
        <Hears onKey={onKey} />
        <Tally
          steps={steps}
          rows={rows}
          total={total}
          spent={spent}
          back={back}
          briefName={briefName}
          onUndo={() => void takeBack()}
        />
      </>
    );
  const judged = steps.find((step) => step.index === at);
  return (
    <div className="flex h-full flex-col">
      <Hears onKey={onKey} />
      <div className="flex h-10 shrink-0 items-center gap-3 border-b border-rule px-6">
        <strong>
          {count(at + 1)} of {count(total)}
        </strong>
        <span className="truncate text-muted">{sieveName ? `new in "${sieveName}"` : 'of this sieve'}</span>
        <span className="h-[5px] w-40 bg-rule" role="presentation">
          <span className="block h-full bg-damson" style={{ width: `${(at / Math.max(1, total)) * 100}%` }} />
        </span>
        <span className="small">{tallyWords(steps)}</span>
        <Link href={back} className="quiet ml-auto">
          Back to the pool
        </Link>
      </div>
      <div className="min-h-0 flex-1 overflow-auto px-6 py-5">
        <div className="mx-auto max-w-[1080px]">
          <Evidence row={freshRow(row, details)} details={details} now={now} />
        </div>
      </div>
      <div
        className="flex min-h-13 shrink-0 flex-wrap items-center gap-2 border-t border-rule bg-sheet px-6 py-2"
        role="toolbar"
        aria-label="Verdict"
      >
        {isPassing ? (
          <>
            <span className="mr-1">Pass it over, since it is</span>
            {PASS_REASONS.map((reason, i) => (
              <button key={reason} type="button" className="quiet" onClick={() => decide('pass', reason)}>
                {reason} <kbd className="small">{i + 1}</kbd>
              </button>
            ))}
            <button type="button" className="quiet" onClick={() => decide('pass')}>
              no reason <kbd className="small">Enter</kbd>
            </button>
          </>
        ) : (
          VERDICTS.map(({ verdict, key, label }) => (
            <button
              key={verdict}
              type="button"
              className={verdict === 'keep' ? 'press' : 'quiet'}
              onClick={() => (verdict === 'pass' ? setPassing(true) : decide(verdict))}
            >
              {label}{' '}
              <kbd className={verdict === 'keep' ? 'text-small opacity-80' : 'small'}>{KEYS.review[key].keys[0]}</kbd>
            </button>
          ))
        )}
        {judged && <span className="small">judged {wordFor(judged.verdict)} just now</span>}
        <span className="ml-auto flex flex-wrap gap-2">
          <button type="button" className="quiet" disabled={steps.length === 0} onClick={() => void takeBack()}>
            Undo <kbd className="small">u</kbd>
          </button>
          <button type="button" className="quiet" onClick={() => setAt(Math.min(total, at + 1))}>
            Leave it <kbd className="small">→</kbd>
          </button>
        </span>
      </div>
    </div>
  );
}

/** Where the page was loaded again before the number of an action was heard: the mark itself is taken away. */
async function unmark(row: DomainView | undefined): Promise<void> {
  if (!row) return;
  const act: Act = { kind: 'judge', judged: 'not-yet', reason: null, until: null };
  await call('POST /actions', { body: { act, which: { ids: [row.id] } } });
}

function tallyWords(steps: Step[]): string {
  return VERDICTS.flatMap(({ verdict }) => {
    const many = steps.filter((step) => step.verdict === verdict).length;
    return many > 0 ? [`${count(many)} ${wordFor(verdict)}`] : [];
  }).join(', ');
}

/** What became of all that was gone through. */
function Tally({
  steps,
  rows,
  total,
  spent,
  back,
  briefName,
  onUndo,
}: {
  steps: Step[];
  rows: DomainView[];
  total: number;
  spent: number;
  back: string;
  briefName: string;
  onUndo(): void;
}) {
  const reasons = tally(steps.flatMap(({ verdict, reason }) => (verdict === 'pass' ? [reason ?? 'no reason'] : [])));
  const keeps = steps.filter(({ verdict }) => verdict === 'keep');
  return (
    <div className="mx-auto max-w-2xl px-6 py-10">
      <h1>{total === 0 ? 'Nothing to review' : 'Through'}</h1>
      <p className="mt-2">
        {total === 0
          ? 'Nothing gets through this sieve, or all of it was judged before.'
          : steps.length === 0
            ? 'None of them was judged.'
            : `${count(steps.length)} of ${count(total)} judged in ${duration(spent)}: ${tallyWords(steps)}.`}
      </p>
      {reasons.length > 0 && (
        <>
          <h2 className="mt-4">Passed over, since</h2>
          <PlainTable
            label="Passed over, since"
            isHeadless
            rows={reasons}
            rowId={([reason]) => reason}
            columns={[
              ofReason('Reason', ([reason]) => reason, HEAD),
              ofReason('Names', ([, many]) => count(many), NUMBER),
            ]}
          />
        </>
      )}
      {keeps.length > 0 && (
        <>
          <h2 className="mt-4">On the shortlist for {briefName}</h2>
          <ul>
            {keeps.map(({ index }) => (
              <li key={index} className="border-t border-rule py-1">
                <DomainLink name={rows[index].name}>{rows[index].display}</DomainLink>
              </li>
            ))}
          </ul>
        </>
      )}
      <p className="mt-5 flex gap-2">
        <Link href={back} className="press">
          Back to the pool
        </Link>
        {keeps.length > 0 && (
          <Link href="/shortlist" className="quiet">
            Shortlist
          </Link>
        )}
        {steps.length > 0 && (
          <button type="button" className="quiet" onClick={onUndo}>
            Undo the last
          </button>
        )}
      </p>
    </div>
  );
}
