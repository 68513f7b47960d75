import type { TableView } from '../../../contracts/dossier';
import { fixed } from '../../../core/formats/figures';
import type { CaptureKind } from '../../../core/history/capture';
import { languageName } from '../../../core/history/language-name';
import { ago, count, day, moment, pastOrigin, plural, yearOf } from '../../../core/wording/format';
import type { Dossier } from '../../../services/dossier/dossier';
import { EvidenceTable } from '../../../ui/dossier/evidence-table';
import { MeasureNow } from '../../../ui/dossier/measure-now';
import Link from '../../../ui/link';
import { PlainTable, plainColumnsFor } from '../../../ui/parts/plain-table';
import { Line, Section } from './section';

const KIND_WORDS: Record<CaptureKind, string> = {
  content: 'content',
  parked: 'parked',
  'for-sale': 'for sale',
  redirect: 'redirect',
  error: 'error',
  blocked: 'a closed door',
  unknown: 'not told',
};

type PastEra = NonNullable<Dossier['past']>['eras'][number];

const years = (from: number, to: number) =>
  yearOf(from) === yearOf(to) ? String(yearOf(from)) : `${yearOf(from)} to ${yearOf(to)}`;

/** What was there and when, from captures that were read. */
export function Past({ dossier, now }: { dossier: Dossier; now: number }) {
  const { past } = dossier;
  return (
    <Section id="spans" title="Spans" origin={pastOrigin(dossier, now)}>
      {dossier.pastAt === null ? (
        <p>
          The archive was not asked yet.{' '}
          <MeasureNow name={dossier.name} id={dossier.id} what="check">
            Ask it now
          </MeasureNow>
        </p>
      ) : dossier.captures === 0 ? (
        <p>The archive never captured it.</p>
      ) : (
        <dl>
          <Line label="First seen">{dossier.firstSeenAt !== null && moment(dossier.firstSeenAt, now)}</Line>
          <Line label="Last seen">{dossier.lastSeenAt !== null && moment(dossier.lastSeenAt, now)}</Line>
          <Line label="Captures">
            {count(dossier.captures)}
            {past?.isPartial && ' or more: the archive lists more than are read'}
            {past && `, ${past.read} of them read ${ago(past.at, now)}, where the site changed`}
          </Line>
          {!past && (
            <Line label="History">
              its captures are not read{' '}
              <MeasureNow name={dossier.name} id={dossier.id} what="measure">
                read them now
              </MeasureNow>
            </Line>
          )}
          {past && (
            <>
              <Line label="Years with content">{past.contentYears}</Line>
              <Line label="Drops before">
                {past.drops.length === 0 ? 'none that shows' : past.drops.length}
                {past.drops.map((drop) => (
                  <span key={drop.from} className="small block">
                    {years(drop.from, drop.to)}: {drop.why}
                  </span>
                ))}
              </Line>
              <Line label="Gaps">
                {past.gaps.length === 0
                  ? 'none of more than 400 days'
                  : past.gaps.map(({ from, to }) => `${day(from, now)} to ${day(to, now)}`).join('; ')}
              </Line>
              <Line label="Topic change">
                {past.drift === null ? 'no content to compare' : fixed(past.drift, 2)}
                <span className="small block">
                  1 minus the cosine of the words of the main era and of the last: 0 the same site, 1 nothing in common
                </span>
              </Line>
            </>
          )}
        </dl>
      )}
      {past && past.eras.length > 0 && <Eras eras={past.eras} />}
    </Section>
  );
}

const ofEra = plainColumnsFor<PastEra>();

function Eras({ eras }: { eras: readonly PastEra[] }) {
  return (
    <PlainTable
      label="History"
      isHeadless
      className="mt-2"
      rows={eras}
      rowId={({ from }) => String(from)}
      columns={[
        ofEra('Years', ({ from, to }) => years(from, to), { className: 'w-28' }),
        ofEra('What was there', (era) => (
          <>
            {KIND_WORDS[era.kind]}
            {era.redirectTo && ` to ${era.redirectTo}`}
            {era.subject && `: ${era.subject}`}
            {era.language && <span className="small"> in {languageName(era.language)}</span>}
            {era.title && (
              <span className="small block truncate">
                <bdi>{era.title}</bdi>
              </span>
            )}
            {era.words.length > 0 && (
              <span className="small block">
                by <bdi>{era.words.map(({ word, times }) => `${word} (${times})`).join(', ')}</bdi>
              </span>
            )}
          </>
        )),
        ofEra('By', ({ captures, read }) => `${plural(captures, 'capture')}, ${read} read`, {
          isNumber: true,
          className: 'small',
        }),
      ]}
    />
  );
}

const CAPTURE_COLUMNS = [
  ['at', '12%'],
  ['kind', '14%'],
  ['title', '26%'],
  ['language', '9%'],
  ['subject', '13%'],
  ['words', '26%'],
] as const;

/** The captures that were read, each leading to what it shows; and two of them side by side. */
export function Captures({ dossier, first }: { dossier: Dossier; first: TableView }) {
  const kept = dossier.readCaptures.filter(({ isKept }) => isKept);
  if (dossier.readCaptures.length === 0) return null;
  const [a, b] = [kept[0], kept.at(-1)];
  return (
    <Section id="captures" title="Captures that were read" origin="as text and structure; never as the page itself">
      {a && b && a !== b && (
        <p className="mb-1">
          <Link href={`/domains/${dossier.name}/captures?a=${a.at}&b=${b.at}`} className="set">
            The first and the last side by side
          </Link>
        </p>
      )}
      <EvidenceTable
        domain={dossier.name}
        table="captures"
        label="Captures"
        first={first}
        shown={CAPTURE_COLUMNS}
        noteUnder="title"
      />
    </Section>
  );
}

/** What it is about, by what was there and what others call it; the name's own words are another signal. */
export function Subject({ dossier }: { dossier: Dossier }) {
  const { subjectWhy } = dossier;
  if (!subjectWhy) return null;
  return (
    <Section id="subject" title="Subject" origin={`from ${subjectWhy.from}`}>
      <p>
        <strong>{subjectWhy.title ?? 'not clear'}</strong>
        {subjectWhy.area && ` (${subjectWhy.area})`}, confidence {fixed(subjectWhy.confidence, 2)}
        {subjectWhy.runnerUp && (
          <span className="small">
            {' '}
            then {subjectWhy.runnerUp.title}, {fixed(subjectWhy.runnerUp.confidence, 2)}
          </span>
        )}
      </p>
      {subjectWhy.words.length > 0 && (
        <p className="small mt-1">
          Words that decided: {subjectWhy.words.map(({ word, times }) => `${word} (${times})`).join(', ')}
        </p>
      )}
    </Section>
  );
}
