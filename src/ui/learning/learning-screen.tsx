'use client';

import { fixed } from '../../core/formats/figures';
import type { Calibration } from '../../core/learning/calibration';
import { count, plural } from '../../core/wording/format';
import { ExportMenu } from '../export-menu';
import Link from '../link';
import { HEAD, NUMBER, PlainTable, plainColumnsFor } from '../parts/plain-table';
import { useNow } from '../shell/live';
import { RedirectTable, WindowTable, WorthTable } from './outcome-tables';
import { Reliability } from './reliability';
import { Suggestions } from './suggestions';
import type { LearningShown } from './types';

/** What came of estimates: chances, worths, risks, windows and redirects against outcomes, and settings that they speak for changing. */
export function LearningScreen({ learning }: { learning: LearningShown }) {
  const now = useNow();
  const { wins, winsByVenue, winsByPurpose, spam } = learning;
  return (
    <div className="mx-auto max-w-[1320px] px-6 py-6">
      <div className="flex items-baseline justify-between gap-6">
        <h1>Outcomes</h1>
        <ExportMenu address="/api/v1/export?what=outcomes" label="orders that ended, with what was estimated" />
      </div>
      <p className="small mt-1">
        What was estimated before, held against what came of it. Nothing changes until you accept it.
      </p>
      <section aria-label="Suggestions" className="mt-4">
        <h2>Suggested changes</h2>
        <Suggestions suggestions={learning.suggestions} />
      </section>
      <div className="mt-6 grid grid-cols-1 lg:grid-cols-[repeat(2,minmax(0,1fr))] gap-x-12 gap-y-8">
        <section aria-label="Chances to win">
          <h2>Chances to win</h2>
          <Chances calibration={wins} what="order" label="Chances to win against what was won" />
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
        <Groups title="by venue" groups={winsByVenue} />
        <Groups title="by purpose" groups={winsByPurpose} />
        <section aria-label="Worths">
          <h2>Worths</h2>
          <p className="small">Ranges that were said before, against what names went for.</p>
          <WorthTable all={learning.worth} groups={learning.worthByPurpose} />
        </section>
        <section aria-label="Drop windows">
          <h2>Drop windows</h2>
          <p className="small">When names were expected to drop, against when they were seen to.</p>
          <WindowTable all={learning.windowsAll} groups={learning.windows} />
        </section>
      </div>
      <section aria-label="Redirects" className="mt-8">
        <h2>Redirects</h2>
        <p className="small">
          What was meant to be carried, by the weight of links, and what visits say, by the server’s own log.
        </p>
        <RedirectTable redirects={learning.redirects} now={now} />
      </section>
    </div>
  );
}

const ofBin = plainColumnsFor<Calibration['bins'][number]>();

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
        By {plural(calibration.count, what, many)}; Brier score {fixed(brier, 3)}, {fixed(baseBrier, 3)} for whoever
        always says the same
      </p>
      <div className="mt-1 flex items-start gap-6">
        <Reliability bins={calibration.bins} label={label} />
        <PlainTable
          label={label}
          className="w-auto!"
          rows={calibration.bins}
          rowId={({ from }) => String(from)}
          columns={[
            ofBin('said', ({ from, to }) => `${Math.round(100 * from)} to ${Math.round(100 * to)}%`, HEAD),
            ofBin('on average', ({ foretold }) => `${Math.round(100 * foretold)}%`, NUMBER),
            ofBin('came', ({ came }) => `${Math.round(100 * came)}%`, NUMBER),
            ofBin('of', ({ count: all }) => count(all), NUMBER),
          ]}
        />
      </div>
    </>
  );
}

/** A small chart each; the figures stand below it. */
function Groups({ title, groups }: { title: string; groups: { key: string; calibration: Calibration }[] }) {
  if (groups.length === 0) return null;
  return (
    <section aria-label={`Chances to win ${title}`}>
      <h3 className="font-semibold">Chances to win {title}</h3>
      <div className="mt-1 flex flex-wrap gap-x-6 gap-y-3">
        {groups.map(({ key, calibration: { bins, count: all, brier } }) => {
          const mean = (of: (bin: (typeof bins)[number]) => number) =>
            bins.reduce((sum, bin) => sum + of(bin) * bin.count, 0) / all;
          return (
            <figure key={key}>
              <Reliability bins={bins} label={`Chances to win, ${key}, against what was won`} size={132} />
              <figcaption className="small w-[132px]">
                <strong>{key}</strong>: said {Math.round(100 * mean((bin) => bin.foretold))}%, came{' '}
                {Math.round(100 * mean((bin) => bin.came))}% of {all}; Brier {fixed(brier, 2)}
              </figcaption>
            </figure>
          );
        })}
      </div>
    </section>
  );
}
