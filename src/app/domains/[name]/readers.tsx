import type { readPagesOf } from '../../../store/pages';
import { count, day } from '../../../ui/format';
import type { Dossier } from '../../dossier';

/** Who may still come: readers that linking pages claim. Estimates of theirs, and said to be. */
export function Readers({
  dossier,
  pages,
  now,
}: {
  dossier: Dossier;
  pages: ReturnType<typeof readPagesOf>;
  now: number;
}) {
  if (dossier.readers === null || pages.length === 0)
    return <p>No page that mentions it claims readers, as far as pages were read.</p>;
  return (
    <>
      <p>
        <strong>{count(dossier.readers)}</strong> readers are claimed by the markup of pages that mention it, together.{' '}
        <span className="small">An estimate of theirs; nobody counted visits of the domain itself.</span>
      </p>
      <table className="mt-1 w-full table-fixed" aria-label="Pages with readers">
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
