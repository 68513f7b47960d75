'use client';

import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { toast } from 'sonner';
import type { Calibration, RangeRecord } from '../../core/learning/calibration';
import { call } from '../api';
import { count, plural } from '../format';
import { Reliability } from './reliability';

interface LearningShown {
  wins: Calibration;
  winsByVenue: { key: string; calibration: Calibration }[];
  winsByPurpose: { key: string; calibration: Calibration }[];
  worth: RangeRecord;
  worthByPurpose: { key: string; record: RangeRecord }[];
  spam: Calibration;
  suggestions: {
    key: string;
    words: string;
    evidence: string;
    now: number;
    suggested: number;
    change: Record<string, unknown>;
  }[];
}

/** What came of estimates: chances, worths and risks against outcomes, and settings that they speak for changing. */
export function LearningScreen({ learning }: { learning: LearningShown }) {
  const router = useRouter();
  const { wins, winsByVenue, winsByPurpose, worth, worthByPurpose, spam, suggestions } = learning;
  const apply = async (words: string, change: Record<string, unknown>) => {
    try {
      const before = await call<Record<string, unknown>>('/settings');
      await call('/settings', { method: 'PATCH', body: change });
      const back = Object.fromEntries(Object.keys(change).map((key) => [key, before[key]]));
      router.refresh();
      toast(`${words}: changed`, {
        action: {
          label: 'Undo',
          onClick: () =>
            void call('/settings', { method: 'PATCH', body: back })
              .then(() => router.refresh())
              .catch((error: Error) => toast(error.message)),
        },
      });
    } catch (error) {
      toast((error as Error).message);
    }
  };
  return (
    <div className="mx-auto max-w-[1240px] px-6 py-6">
      <h1>Outcomes</h1>
      <p className="small mt-1">
        What was estimated before, held against what came of it. Nothing changes until you accept it.
      </p>
      <section aria-label="Suggestions" className="mt-4">
        <h2>What they speak for</h2>
        {suggestions.length === 0 ? (
          <p className="small mt-1">
            Nothing yet: at least five outcomes of a kind are needed, and a difference that is worth it. Outcomes come
            from{' '}
            <Link href="/orders" className="set">
              orders
            </Link>{' '}
            and{' '}
            <Link href="/holdings" className="set">
              holdings
            </Link>
            .
          </p>
        ) : (
          suggestions.map(({ key, words, evidence, now, suggested, change }) => (
            <div key={key} className="flex items-baseline gap-4 border-t border-rule py-1.5">
              <span>
                <strong>{words}</strong>: {suggested} in place of {now} <span className="small">{evidence}</span>
              </span>
              <button type="button" className="quiet ml-auto" onClick={() => void apply(words, change)}>
                Accept
              </button>
            </div>
          ))
        )}
      </section>
      <div className="mt-6 grid grid-cols-2 gap-x-12 gap-y-8">
        <section aria-label="Chances to win">
          <h2>Chances to win</h2>
          <Chances calibration={wins} what="order" label="Chances to win against what was won" />
          <Groups title="by venue" groups={winsByVenue} />
          <Groups title="by purpose" groups={winsByPurpose} />
        </section>
        <section aria-label="Worths">
          <h2>Worths</h2>
          <p className="small">Ranges that were said before, against what names went for.</p>
          {worth.count === 0 ? (
            <p className="mt-1">No name whose worth was said has gone for a price yet.</p>
          ) : (
            <table className="mt-1 w-full" aria-label="Worths against prices">
              <thead>
                <tr className="small text-right">
                  <th className="py-1 text-left font-normal">purpose</th>
                  <th className="font-normal">below</th>
                  <th className="font-normal">within, 6 in 10 meant</th>
                  <th className="font-normal">above</th>
                </tr>
              </thead>
              <tbody>
                {[...worthByPurpose, { key: 'all', record: worth }].map(({ key, record }) => (
                  <tr key={key} className="border-t border-rule text-right">
                    <td className="py-1 text-left">{key}</td>
                    <td>{record.below}</td>
                    <td>
                      {record.within} of {record.count}
                    </td>
                    <td>{record.above}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          )}
        </section>
        <section aria-label="Spam risk">
          <h2>Spam risk</h2>
          <Chances calibration={spam} what="mark of yours" many="marks of yours" label="Spam risk against your marks" />
          <p className="small mt-1">
            Points of the rules are fitted to your marks under{' '}
            <Link href="/measures" className="set">
              Measures
            </Link>
            .
          </p>
        </section>
      </div>
    </div>
  );
}

function Chances({
  calibration,
  what,
  many,
  label,
}: {
  calibration: Calibration;
  what: string;
  many?: string;
  label: string;
}) {
  if (calibration.count === 0) return <p className="mt-1">Nothing has come of one yet.</p>;
  const { brier, baseBrier } = calibration;
  return (
    <>
      <p className="small">
        By {plural(calibration.count, what, many)}; Brier score {brier.toFixed(3)}, {baseBrier.toFixed(3)} for whoever
        always says the same
      </p>
      <div className="mt-1 flex items-start gap-6">
        <Reliability bins={calibration.bins} label={label} />
        <table aria-label={label}>
          <thead>
            <tr className="small text-right">
              <th className="pr-4 text-left font-normal">said</th>
              <th className="pr-4 font-normal">on average</th>
              <th className="pr-4 font-normal">came</th>
              <th className="font-normal">of</th>
            </tr>
          </thead>
          <tbody>
            {calibration.bins.map((bin) => (
              <tr key={bin.from} className="border-t border-rule text-right">
                <td className="py-0.5 pr-4 text-left">
                  {Math.round(100 * bin.from)} to {Math.round(100 * bin.to)}%
                </td>
                <td className="pr-4">{Math.round(100 * bin.foretold)}%</td>
                <td className="pr-4">{Math.round(100 * bin.came)}%</td>
                <td>{count(bin.count)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </>
  );
}

function Groups({ title, groups }: { title: string; groups: { key: string; calibration: Calibration }[] }) {
  if (groups.length < 2) return null;
  return (
    <table className="mt-2" aria-label={`Chances to win ${title}`}>
      <tbody>
        {groups.map(({ key, calibration: { bins, count: all, brier } }) => {
          const mean = (of: (bin: (typeof bins)[number]) => number) =>
            bins.reduce((sum, bin) => sum + of(bin) * bin.count, 0) / all;
          return (
            <tr key={key} className="border-t border-faint">
              <td className="py-0.5 pr-4">{key}</td>
              <td className="pr-4">said {Math.round(100 * mean((bin) => bin.foretold))}%</td>
              <td className="pr-4">came {Math.round(100 * mean((bin) => bin.came))}%</td>
              <td className="small">
                of {all}, Brier {brier.toFixed(2)}
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}
