import { bare, count, day, money } from '../../../core/wording/format';
import type { Dossier } from '../../../services/dossier/dossier';
import type { readPagesOf } from '../../../store/crawl/pages';
import type { StoredRanking } from '../../../store/portfolio/rankings';
import { NUMBER, PlainTable, plainColumnsFor } from '../../../ui/parts/plain-table';

type PageWithViews = ReturnType<typeof readPagesOf>[number];
const ofRanking = plainColumnsFor<StoredRanking>();
const ofPage = plainColumnsFor<PageWithViews>();

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
    <PlainTable
      label="Keywords it is found by"
      className="mt-2"
      rows={rankings}
      rowId={({ source, phrase }) => `${source} ${phrase}`}
      columns={[
        ofRanking('Keyword, estimated', ({ phrase }) => phrase),
        ofRanking('position', ({ position }) => position, NUMBER),
        ofRanking('search volume', ({ searches }) => count(searches), NUMBER),
        ofRanking('cost per click', ({ clickMinor, currency }) => money(clickMinor, currency), NUMBER),
        ofRanking(
          'competition',
          ({ competition }) => competition !== null && `${Math.round(100 * competition)}%`,
          NUMBER,
        ),
        ofRanking('by', ({ source, at, takenAt }) => `${source}, ${day(at ?? takenAt, now)}`, { className: 'small' }),
      ]}
    />
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
      <PlainTable
        label="Pages with views"
        isHeadless
        className="mt-1 table-fixed"
        rows={pages}
        rowId={({ url }) => url}
        columns={[
          ofPage(
            'Page',
            ({ url, title }) => (
              <span title={url}>
                <bdi>{title || bare(url)}</bdi> <span className="small">{bare(url)}</span>
              </span>
            ),
            { className: 'truncate' },
          ),
          ofPage('Read', ({ at }) => at !== null && `read ${day(at, now)}`, { className: 'small w-28' }),
          ofPage('Views a month', ({ readers }) => count(readers), { isNumber: true, className: 'w-24' }),
        ]}
      />
    </>
  );
}
