'use client';

import { useState } from 'react';
import { ago, bare, count, plural } from '../../core/wording/format';
import { ExportMenu } from '../export-menu';
import Link from '../link';
import { useNow } from '../shell/live';
import { ChosenTargetView } from './chosen-target';
import type { ChosenTarget, TargetLine, WorkListShown } from './types';
import { WorkListTable } from './work-list';

const FIRST = 40;

/** Pages that are gone and still linked to: what could stand in for them, and who is to be told. */
export function TargetsScreen({
  targets,
  list,
  chosen,
}: {
  targets: TargetLine[];
  list: WorkListShown;
  chosen: ChosenTarget | null;
}) {
  const now = useNow();
  const [isLong, setLong] = useState(false);
  const percent = (share: number | null) => (share === null ? null : `${Math.round(100 * share)}%`);
  const { tally } = list;
  return (
    <div className="mx-auto max-w-[1400px] px-6 py-6">
      <div className="flex items-start justify-between gap-6">
        <div>
          <h1>Broken links</h1>
          <p className="small mb-3 max-w-prose">
            Pages that are gone, on domains that live or have lapsed, and the pages that still link to them. Write to
            their owners one by one.
          </p>
        </div>
        {targets.length > 0 && <ExportMenu address="/api/v1/targets" label="broken links with every linking page" />}
      </div>
      {list.rows.length > 0 && (
        <section aria-labelledby="work-list" className="mb-8">
          <div className="flex items-baseline justify-between gap-4">
            <h2 id="work-list">
              Work list{' '}
              <span className="small">
                {plural(tally.toWrite, 'page')} to write to, {count(tally.written)} written
                {tally.answered !== null && `, ${percent(tally.answered)} answered, ${percent(tally.changed)} changed`}
              </span>
            </h2>
            <ExportMenu address="/api/v1/export?what=prospects" label="the outreach list" />
          </div>
          <WorkListTable rows={list.rows} />
        </section>
      )}
      {chosen && <ChosenTargetView key={chosen.url} target={chosen} />}
      {targets.length === 0 ? (
        <p className="border-t border-rule py-3">
          None yet.{' '}
          <Link href="/page" className="set">
            Look at a page
          </Link>{' '}
          of links, or crawl a site: what is dead there comes here.
        </p>
      ) : (
        <>
          <h2>All of them</h2>
          <table className="mt-1 w-full table-fixed" aria-label="Broken links">
            <thead>
              <tr className="small text-left">
                <th className="py-1 font-normal">Dead page</th>
                <th className="w-44 font-normal">What came instead</th>
                <th className="w-32 text-right font-normal">Linking domains</th>
                <th className="w-28 text-right font-normal">Backlinks</th>
                <th className="w-24 text-right font-normal">On the list</th>
                <th className="w-28 text-right font-normal">Asked</th>
              </tr>
            </thead>
            <tbody>
              {targets.slice(0, isLong ? undefined : FIRST).map((target) => (
                <tr
                  key={target.url}
                  className={`border-t border-rule align-baseline ${target.url === chosen?.url ? 'bg-damson-soft' : ''}`}
                >
                  <td className="truncate py-1.5 pr-3" title={target.url}>
                    <Link
                      href={`/targets?url=${encodeURIComponent(target.url)}`}
                      className="font-semibold hover:underline"
                    >
                      {bare(target.url)}
                    </Link>
                  </td>
                  <td className="truncate pr-3">
                    {target.isWholeDomain ? (
                      <Link href={`/domains/${target.domain}`} className="set">
                        the domain lapsed
                      </Link>
                    ) : (
                      (target.status ?? target.outcome)
                    )}
                  </td>
                  <td className="text-right">{count(target.domains)}</td>
                  <td className="text-right">{count(target.pages)}</td>
                  <td className="text-right">{target.onList > 0 ? count(target.onList) : '–'}</td>
                  <td className="text-right">{target.checkedAt === null ? '–' : ago(target.checkedAt, now)}</td>
                </tr>
              ))}
            </tbody>
          </table>
          {targets.length > FIRST && !isLong && (
            <button type="button" className="set mt-2" onClick={() => setLong(true)}>
              {plural(targets.length - FIRST, 'more target')}
            </button>
          )}
        </>
      )}
    </div>
  );
}
