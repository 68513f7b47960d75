import type { Sibling } from '../../../contracts/dossier';
import type { NameReading } from '../../../contracts/names';
import { fixed } from '../../../core/formats/figures';
import { subjectTitle } from '../../../core/topics/subjects';
import { ago } from '../../../core/wording/format';
import { STATUS_WORDS } from '../../../core/wording/status';
import { YOU } from '../../../core/work/you';
import type { Dossier } from '../../../services/dossier/dossier';
import type { siblingsOf } from '../../../services/dossier/siblings';
import { AskOthers } from '../../../ui/dossier/ask-others';
import { MarkReview } from '../../../ui/dossier/mark-review';
import { MeasureNow } from '../../../ui/dossier/measure-now';
import Link from '../../../ui/link';
import { PlainTable, plainColumnsFor } from '../../../ui/parts/plain-table';
import { Line, Section } from './section';

/** What the name says by itself. */
export function Name({
  name,
  reading,
  siblings,
  now,
}: {
  name: string;
  reading: NameReading;
  siblings: ReturnType<typeof siblingsOf>;
  now: number;
}) {
  const { split, subject } = reading;
  const unasked = siblings.endings.filter(({ phase }) => phase === null).map(({ name }) => name);
  return (
    <Section id="reading" title="What it says">
      <dl>
        <Line label="Words">
          <strong>{split.words.join(' ')}</strong>
          <span className="small">
            {split.runnerUp
              ? ` else ${split.runnerUp.join(' ')}; ${Math.round(split.confidence * 100)}% sure`
              : ' no other way to read it'}
          </span>
        </Line>
        <Line label="Near it">
          <Link href={`/ideas?near=${name}`} className="set">
            ideas near this name
          </Link>
          <span className="small"> where it cannot be had, or is too dear</span>
        </Line>
        <Line label="Ease of saying">
          {reading.sayability} of 100
          {reading.hard.length > 0 && <span className="small"> hard: {reading.hard.join(', ')}</span>}
        </Line>
        <Line label="Spelling">
          {reading.spelling.length === 0
            ? 'no risk that shows'
            : reading.spelling.map(({ why, label }) => (
                <span key={why} className="block">
                  {why}
                  {label && <span className="small"> {label}</span>}
                </span>
              ))}
        </Line>
        <Line label="By its words">
          {subject.subject
            ? `${subjectTitle(subject.subject)}, confidence ${fixed(subject.confidence, 2)}`
            : 'no subject that shows'}
          {subject.words.length > 0 && (
            <span className="small"> {subject.words.map(({ word }) => word).join(', ')}</span>
          )}
        </Line>
        {siblings.twin && (
          <Line label="Singular or plural">
            <SiblingLine sibling={siblings.twin} now={now} />
          </Line>
        )}
        <Line label="Other TLDs">
          {siblings.endings
            .filter(({ phase }) => phase !== null)
            .map((sibling) => (
              <SiblingLine key={sibling.name} sibling={sibling} now={now} />
            ))}
          {unasked.length > 0 && <AskOthers names={unasked} />}
        </Line>
      </dl>
    </Section>
  );
}

function SiblingLine({ sibling, now }: { sibling: Sibling; now: number }) {
  return (
    <span className="block">
      {sibling.name}{' '}
      <span className="small">
        {sibling.phase === null ? 'not asked about' : STATUS_WORDS[sibling.phase]}
        {sibling.phaseAt !== null && `, asked ${ago(sibling.phaseAt, now)}`}
      </span>
    </span>
  );
}

const column = plainColumnsFor<Dossier['marksFound']['matches'][number]>();

/** Trademarks that are like the name, and what the person decided. */
export function WordMarks({ dossier, now }: { dossier: Dossier; now: number }) {
  const { at, matches, reviews } = dossier.marksFound;
  return (
    <Section
      id="word-marks"
      title="Trademarks"
      origin={at === null ? 'no register was asked yet' : `register asked ${ago(at, now)}`}
    >
      {reviews.length > 0 && (
        <p className="mb-1.5" data-verdict={reviews[0].verdict}>
          <strong>{REVIEW_WORDS[reviews[0].verdict]}</strong>{' '}
          {reviews[0].who === YOU ? 'by your look' : `by ${reviews[0].who}`} {ago(reviews[0].at, now)}
          {reviews[0].note && `: ${reviews[0].note}`}
          {reviews.length > 1 && <span className="small"> {reviews.length - 1} earlier</span>}
        </p>
      )}
      {at !== null && matches.length === 0 && <p>No trademark is like it.</p>}
      {matches.length > 0 && (
        <PlainTable
          label="Trademarks like it"
          isHeadless
          rows={matches.slice(0, 10)}
          rowId={({ register, number }) => `${register} ${number}`}
          columns={[
            column('Mark', (match) => (
              <>
                <bdi>{match.mark}</bdi>
                <span className="small block">
                  {match.owner}; classes {match.classes || 'not given'}; {match.register}, {match.number}
                </span>
              </>
            )),
            column('Why it is like it', ({ why, score }) => (
              <>
                {why} <span className="small">{Math.round(score * 100)}% like it</span>
              </>
            )),
            column('State', ({ status }) => status, { isNumber: true }),
          ]}
        />
      )}
      {at === null ? (
        <MeasureNow name={dossier.name} id={dossier.id} what="measure">
          Look for marks now
        </MeasureNow>
      ) : (
        <MarkReview name={dossier.name} />
      )}
    </Section>
  );
}

const REVIEW_WORDS = { clear: 'Clear', conflict: 'In conflict', unsure: 'Unsure' } as const;
