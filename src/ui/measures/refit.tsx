'use client';

import { useState } from 'react';
import { toast } from 'sonner';
import type { RefitReport } from '../../contracts/measures';
import { fixed } from '../../core/formats/figures';
import { plural } from '../../core/wording/format';
import { call } from '../api';
import { Problem } from '../fields';
import { columnsFor } from '../parts/columns';
import { Table } from '../parts/table';
import { useRedraw } from '../server-state';

const LEAST_MARKS = 50;
const percent = (share: number) => `${fixed(100 * share, 1)}%`;

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

interface SideRow {
  key: string;
  label: string;
  note?: string;
  before: string;
  after: string;
}
const column = columnsFor<SideRow>();

function SideBySide({ report }: { report: RefitReport }) {
  const rows: SideRow[] = [
    {
      key: 'area',
      label: 'area under the ROC curve',
      before: fixed(report.before.area, 3),
      after: fixed(report.after.area, 3),
    },
    {
      key: 'sound',
      label: 'sound called spam',
      before: percent(report.before.falseAlarms),
      after: percent(report.after.falseAlarms),
    },
    {
      key: 'spam',
      label: 'spam not called so',
      before: percent(report.before.missed),
      after: percent(report.after.missed),
    },
    ...report.moved.map(({ name, mark, before, after }) => ({
      key: name,
      label: name,
      note: `${mark} by your mark`,
      before: String(before),
      after: String(after),
    })),
  ];
  return (
    <>
      <Table
        label="Before and after the fit"
        className="mt-3"
        columns={[
          column.accessor('label', {
            header: `On your ${report.before.examples} marks`,
            cell: ({ row: { original } }) => (
              <>
                {original.label} <span className="small">{original.note}</span>
              </>
            ),
          }),
          column.accessor('before', { header: 'Before', meta: { isNumber: true } }),
          column.accessor('after', { header: 'After', meta: { isNumber: true } }),
        ]}
        rows={rows}
        rowId={({ key }) => key}
      />
      <p className="small mt-1">After: each mark judged by points fitted to the other four fifths.</p>
    </>
  );
}
