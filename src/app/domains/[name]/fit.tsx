import { FIT_TITLES } from '../../../core/fit/fit';
import type { DomainFit } from '../../../services/fit/fit';
import { FitBar } from '../../../ui/fit-bar';
import { fitWords } from '../../../ui/fit-words';
import Link from '../../../ui/link';

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
      <table className="mt-1.5 w-full" aria-label="Parts of the fit">
        <tbody>
          {fit.parts
            .filter(({ weight }) => weight > 0)
            .toSorted((a, b) => b.weight - a.weight)
            .map(({ part, value, words, weight }) => (
              <tr key={part} className="border-t border-faint">
                <th scope="row" className="w-52 py-0.5 text-left font-normal text-muted">
                  {FIT_TITLES[part]}
                </th>
                <td className="w-14 text-right">{value === null ? 'unknown' : Math.round(100 * value)}</td>
                <td className="small w-24 pl-2">counts {weight}</td>
                <td>{words}</td>
              </tr>
            ))}
        </tbody>
      </table>
    </section>
  );
}
