import { ago, plural } from '../../../core/wording/format';
import type { Dossier } from '../../../services/dossier/dossier';
import { MeasureNow } from '../../../ui/dossier/measure-now';
import { PlainTable, plainColumnsFor } from '../../../ui/parts/plain-table';
import { Section } from './section';

type Result = NonNullable<Dossier['spam']>['card']['results'][number];

const column = plainColumnsFor<Result>();

const RULE = column('Rule', (result) => (
  <>
    <span title={result.explanation}>{result.title}</span>
    <span className="small block">
      <bdi>{result.evidence.join(', ')}</bdi>
    </span>
  </>
));
const MEASURED = column(
  'Measured',
  (result) => (
    <>
      {result.shown}
      <span className="small block">points: {result.change}</span>
    </>
  ),
  { className: 'w-2/5' },
);
const POINTS = column(
  'Points',
  ({ points, maxPoints }) => (
    <>
      {points} <span className="small">of {maxPoints}</span>
    </>
  ),
  { isNumber: true, className: 'whitespace-nowrap' },
);

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
        <PlainTable
          label="Rules that gave points"
          rows={spam.card.results.filter(({ points }) => points > 0).toSorted((a, b) => b.points - a.points)}
          rowId={({ rule }) => rule}
          columns={[
            { ...RULE, footer: 'Sum, at most 100; from 50 on it is called spam' },
            MEASURED,
            { ...POINTS, footer: () => spam.card.risk },
          ]}
        />
      )}
      {spam && spam.card.risk !== null && (
        <details className="mt-1">
          <summary className="small cursor-pointer">
            {plural(spam.card.results.filter(({ points }) => points === 0).length, 'rule')} gave no points
          </summary>
          <PlainTable
            label="Rules that gave none"
            rows={spam.card.results.filter(({ points }) => points === 0)}
            rowId={({ rule }) => rule}
            columns={[RULE, MEASURED, POINTS]}
          />
        </details>
      )}
    </Section>
  );
}
