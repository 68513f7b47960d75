import { ago, plural } from '../../../core/wording/format';
import type { Dossier } from '../../../services/dossier/dossier';
import { MeasureNow } from '../../../ui/dossier/measure-now';
import { Section } from './section';

export function Spam({ dossier, now }: { dossier: Dossier; now: number }) {
  const { spam } = dossier;
  const isOverruled = dossier.judged === 'spam' || dossier.judged === 'clean';
  return (
    <Section
      id="spam"
      title="Spam risk"
      origin={spam ? `measured ${ago(spam.at, now)}; points fitted on ${dossier.points.fittedOn}` : undefined}
    >
      {isOverruled && (
        <p className="mb-1.5" data-overruled={dossier.judged}>
          <strong>You marked it {dossier.judged}</strong> {ago(dossier.judgedAt, now)}
          {dossier.judgedReason && `: ${dossier.judgedReason}`}. That counts;{' '}
          {spam?.card.risk == null ? 'nothing was computed.' : `the rules say ${spam.card.risk} of 100.`}
        </p>
      )}
      {!spam || spam.card.risk === null ? (
        <p>
          Too little is known to judge it.{' '}
          <MeasureNow name={dossier.name} id={dossier.id} what="measure">
            Measure it now
          </MeasureNow>
        </p>
      ) : (
        <table className="w-full">
          <thead className="small">
            <tr className="text-left">
              <th className="font-normal">Rule</th>
              <th className="font-normal">Measured</th>
              <th className="text-right font-normal">Points</th>
            </tr>
          </thead>
          <tbody>
            {spam.card.results
              .filter(({ points }) => points > 0)
              .toSorted((a, b) => b.points - a.points)
              .map((result) => (
                <Rule key={result.rule} result={result} />
              ))}
            <tr className="border-t-2 border-ink font-semibold">
              <td className="py-1" colSpan={2}>
                Sum, at most 100; from 50 on it is called spam
              </td>
              <td className="text-right">{spam.card.risk}</td>
            </tr>
          </tbody>
        </table>
      )}
      {spam && spam.card.risk !== null && (
        <details className="mt-1">
          <summary className="small cursor-pointer">
            {plural(spam.card.results.filter(({ points }) => points === 0).length, 'rule')} gave no points
          </summary>
          <table className="w-full">
            <tbody>
              {spam.card.results
                .filter(({ points }) => points === 0)
                .map((result) => (
                  <Rule key={result.rule} result={result} />
                ))}
            </tbody>
          </table>
        </details>
      )}
    </Section>
  );
}

type Result = NonNullable<Dossier['spam']>['card']['results'][number];

function Rule({ result }: { result: Result }) {
  return (
    <tr className="border-t border-rule align-top">
      <td className="py-1 pr-3" title={result.explanation}>
        {result.title}
        <span className="small block">
          <bdi>{result.evidence.join(', ')}</bdi>
        </span>
      </td>
      <td className="py-1 pr-3">
        {result.shown}
        <span className="small block">points: {result.change}</span>
      </td>
      <td className="py-1 text-right whitespace-nowrap">
        {result.points} <span className="small">of {result.maxPoints}</span>
      </td>
    </tr>
  );
}
