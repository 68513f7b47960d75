import { count, day, money } from '../../../core/wording/format';
import type { Dossier } from '../../../services/dossier/dossier';
import type { readPagesOf } from '../../../store/crawl/pages';
import type { StoredRanking } from '../../../store/portfolio/rankings';

/** Who may still come: readers that linking pages claim. Estimates of theirs, and said to be. */
export function Readers({
  dossier,
  pages,
  rankings,
  now,
}: {
  dossier: Dossier;
  pages: ReturnType<typeof readPagesOf>;
  rankings: StoredRanking[];
  now: number;
}) {
  return (
    <>
      <Claimed dossier={dossier} pages={pages} now={now} />
      <Rankings rankings={rankings} now={now} />
    </>
  );
}

/** Phrases that it is found by, as lists estimate them. */
function Rankings({ rankings, now }: { rankings: StoredRanking[]; now: number }) {
  if (rankings.length === 0)
    return <p className="mt-2">No list of keywords that it is found by was taken; Sources takes one.</p>;
  return (
    <table className="mt-2 w-full" aria-label="Keywords it is found by">
      <thead>
        <tr className="small text-left">
          <th className="font-normal">Keyword, estimated</th>
          <th className="text-right font-normal">position</th>
          <th className="text-right font-normal">search volume</th>
          <th className="text-right font-normal">cost per click</th>
          <th className="text-right font-normal">competition</th>
          <th className="pl-4 font-normal">by</th>
        </tr>
      </thead>
      <tbody>
        {rankings.map((one) => (
          <tr key={`${one.source} ${one.phrase}`} className="border-t border-rule text-right">
            <td className="py-0.5 text-left">{one.phrase}</td>
            <td>{one.position}</td>
            <td>{count(one.searches)}</td>
            <td>{money(one.clickMinor, one.currency)}</td>
            <td>{one.competition === null ? '' : `${Math.round(100 * one.competition)}%`}</td>
            <td className="small pl-4 text-left">
              {one.source}, {day(one.at ?? one.takenAt, now)}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Claimed({ dossier, pages, now }: { dossier: Dossier; pages: ReturnType<typeof readPagesOf>; now: number }) {
  if (dossier.readers === null || pages.length === 0)
    return <p>No page that mentions it claims views, as far as pages were read.</p>;
  return (
    <>
      <p>
        <strong>{count(dossier.readers)}</strong> monthly views are claimed by the markup of pages that mention it,
        together. <span className="small">An estimate of theirs; nobody counted visits of the domain itself.</span>
      </p>
      <table className="mt-1 w-full table-fixed" aria-label="Pages with views">
        <tbody>
          {pages.map((page) => (
            <tr key={page.url} className="border-t border-rule">
              <td className="truncate py-0.5 pr-2" title={page.url}>
                <bdi>{page.title || page.url.replace(/^https?:\/\//, '')}</bdi>{' '}
                <span className="small">{page.url.replace(/^https?:\/\//, '')}</span>
              </td>
              <td className="small w-28">{page.at === null ? '' : `read ${day(page.at, now)}`}</td>
              <td className="w-24 text-right">{count(page.readers)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  );
}
