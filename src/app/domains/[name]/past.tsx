import type { CaptureKind } from '../../../core/history/capture';
import { languageName } from '../../../core/history/language-name';
import { ago, count, day, moment, pastOrigin, plural } from '../../../ui/format';
import type { Dossier } from '../../dossier';
import { Line, Section } from './section';

const KIND_WORDS: Record<CaptureKind, string> = {
  content: 'content',
  parked: 'parked',
  'for-sale': 'for sale',
  redirect: 'redirect',
  error: 'error',
  blocked: 'a closed door',
};

const year = (at: number) => new Date(at).getUTCFullYear();
const years = (from: number, to: number) =>
  year(from) === year(to) ? String(year(from)) : `${year(from)} to ${year(to)}`;

/** What was there and when, from captures that were read. */
export function Past({ dossier, now }: { dossier: Dossier; now: number }) {
  const { past } = dossier;
  return (
    <Section id="past" title="Past" origin={pastOrigin(dossier, now)}>
      {dossier.pastAt === null ? (
        <p>Ask the archive with Check and measure.</p>
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
          {past && (
            <>
              <Line label="Years of content">{past.contentYears}</Line>
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
              <Line label="Drift">
                {past.drift === null ? 'no content to compare' : past.drift.toFixed(2)}
                <span className="small block">
                  1 minus the cosine of the words of the main era and of the last: 0 the same site, 1 nothing in common
                </span>
              </Line>
            </>
          )}
        </dl>
      )}
      {past && past.eras.length > 0 && <Eras dossier={dossier} now={now} />}
    </Section>
  );
}

function Eras({ dossier, now }: { dossier: Dossier; now: number }) {
  const { past, readCaptures } = dossier;
  return (
    <>
      <table className="mt-2 w-full" aria-label="What was there">
        <tbody>
          {past?.eras.map((era) => (
            <tr key={era.from} className="border-t border-rule align-top">
              <td className="w-28 py-1 pr-3">{years(era.from, era.to)}</td>
              <td className="py-1 pr-3">
                {KIND_WORDS[era.kind]}
                {era.redirectTo && ` to ${era.redirectTo}`}
                {era.subject && `: ${era.subject}`}
                {era.language && <span className="small"> in {languageName(era.language)}</span>}
                {era.title && (
                  <span className="small block truncate">
                    <bdi>{era.title}</bdi>
                  </span>
                )}
              </td>
              <td className="small py-1 text-right">
                {plural(era.captures, 'capture')}, {era.read} read
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <details className="mt-1">
        <summary className="small cursor-pointer">The {plural(readCaptures.length, 'capture')} that were read</summary>
        <table className="w-full table-fixed" aria-label="Captures">
          <tbody>
            {readCaptures.map((capture) => (
              <tr key={capture.at} className="border-t border-faint align-top">
                <td className="w-24 py-0.5">{day(capture.at, now)}</td>
                <td className="py-0.5 pr-2">
                  {KIND_WORDS[capture.kind]} <span className="small">{capture.marks.join(', ')}</span>
                  <span className="small block truncate" title={capture.url}>
                    <bdi>{capture.words.join(' ')}</bdi>
                    {capture.links.length > 0 && `; links to ${capture.links.slice(0, 5).join(', ')}`}
                  </span>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </details>
    </>
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
        {subjectWhy.area && ` (${subjectWhy.area})`}, confidence {subjectWhy.confidence.toFixed(2)}
        {subjectWhy.runnerUp && (
          <span className="small">
            {' '}
            then {subjectWhy.runnerUp.title}, {subjectWhy.runnerUp.confidence.toFixed(2)}
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
