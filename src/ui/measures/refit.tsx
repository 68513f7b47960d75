'use client';

import { useState } from 'react';
import { toast } from 'sonner';
import type { RefitReport } from '../../contracts/measures';
import { plural } from '../../core/wording/format';
import { call } from '../api';
import { Problem } from '../fields';
import { useRedraw } from '../server-state';

const LEAST_MARKS = 50;
const percent = (share: number) => `${(100 * share).toFixed(1)}%`;

/** Fits the points to the person's own marks, shows before and after side by side, and takes it back. */
export function Refit({ marks, fit }: { marks: { spam: number; clean: number }; fit: { report: RefitReport } | null }) {
  const redraw = useRedraw();
  const [problem, setProblem] = useState<string | null>(null);
  const [isBusy, setBusy] = useState(false);
  const total = marks.spam + marks.clean;
  const run = async (what: () => Promise<unknown>, said: string) => {
    setBusy(true);
    setProblem(null);
    try {
      await what();
      toast(said);
      redraw();
    } catch (error) {
      setProblem((error as Error).message);
    } finally {
      setBusy(false);
    }
  };
  return (
    <div className="mt-3">
      <p>
        You marked {plural(marks.spam, 'measured domain')} spam and {marks.clean} sound.{' '}
        {total < LEAST_MARKS && `From ${LEAST_MARKS} on the points can be fitted to them.`}
      </p>
      <div className="mt-2 flex gap-2">
        <button
          type="button"
          className="quiet"
          disabled={isBusy || total < LEAST_MARKS}
          onClick={() => void run(() => call('POST /measures/points'), 'Fitted to your marks; cards are rescored')}
        >
          Fit them to my marks
        </button>
        {fit && (
          <button
            type="button"
            className="quiet"
            disabled={isBusy}
            onClick={() => void run(() => call('DELETE /measures/points'), 'Taken back; cards are rescored')}
          >
            Take the last fit back
          </button>
        )}
      </div>
      <Problem text={problem} />
      {fit && <SideBySide report={fit.report} />}
    </div>
  );
}

function SideBySide({ report }: { report: RefitReport }) {
  const rows: [string, string, string][] = [
    ['area under the ROC curve', report.before.area.toFixed(3), report.after.area.toFixed(3)],
    ['sound called spam', percent(report.before.falseAlarms), percent(report.after.falseAlarms)],
    ['spam not called so', percent(report.before.missed), percent(report.after.missed)],
  ];
  return (
    <>
      <table className="mt-3 w-full" aria-label="Before and after the fit">
        <thead className="small">
          <tr className="text-left">
            <th className="font-normal">On your {report.before.examples} marks</th>
            <th className="text-right font-normal">Before</th>
            <th className="text-right font-normal">After</th>
          </tr>
        </thead>
        <tbody>
          {rows.map(([label, before, after]) => (
            <tr key={label} className="border-t border-faint">
              <td className="py-0.5">{label}</td>
              <td className="text-right">{before}</td>
              <td className="text-right">{after}</td>
            </tr>
          ))}
          {report.moved.map((entry) => (
            <tr key={entry.name} className="border-t border-faint">
              <td className="truncate py-0.5">
                {entry.name} <span className="small">{entry.mark} by your mark</span>
              </td>
              <td className="text-right">{entry.before}</td>
              <td className="text-right">{entry.after}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="small mt-1">After: each mark judged by points fitted to the other four fifths.</p>
    </>
  );
}
