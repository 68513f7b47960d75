import { FIT_TITLES } from '../../../core/fit/fit';
import type { DomainFit } from '../../../services/fit/fit';
import { FitBar } from '../../../ui/fit-bar';
import { fitWords } from '../../../ui/fit-words';
import Link from '../../../ui/link';
import { PlainTable, plainColumnsFor } from '../../../ui/parts/plain-table';

const column = plainColumnsFor<DomainFit['parts'][number]>();

/** How well it suits the brief, part by part, with what each rests on and how much it counts. */
export function Fit({ fit, briefName }: { fit: DomainFit; briefName: string }) {
  return (
    <section aria-labelledby="fit" className="mt-6">
      <h2 id="fit" className="scroll-mt-12">
        Fit for {briefName}: {fitWords(fit)} <FitBar fit={fit} width={240} />
        <span className="small ml-1.5 font-normal">
          the mean of its parts by their weights, over what is known
          {fit.cappedAt !== null && `, held down to ${Math.round(fit.cappedAt)} by its spam risk`}; the range is what
          the rest could make of it.{' '}
          <Link href="/briefs" className="underline">
            Change the weights
          </Link>
        </span>
      </h2>
      <PlainTable
        label="Parts of the fit"
        isHeadless
        className="mt-1.5"
        rows={fit.parts.filter(({ weight }) => weight > 0).toSorted((a, b) => b.weight - a.weight)}
        rowId={({ part }) => part}
        columns={[
          column('Part', ({ part }) => FIT_TITLES[part], { isHead: true, className: 'w-52 text-muted' }),
          column('Of 100', ({ value }) => (value === null ? 'unknown' : Math.round(100 * value)), {
            isNumber: true,
            className: 'w-14',
          }),
          column('Weight', ({ weight }) => `counts ${weight}`, { className: 'small w-24' }),
          column('Because', ({ words }) => words),
        ]}
      />
    </section>
  );
}
