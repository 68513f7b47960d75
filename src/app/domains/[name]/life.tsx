import type { TableView } from '../../../contracts/dossier';
import { expiryOf } from '../../../core/lifecycle/drop-window';
import { ago, count, day, duration, moment, phaseOrigin, phaseWords } from '../../../core/wording/format';
import type { Dossier } from '../../../services/dossier/dossier';
import { EvidenceTable } from '../../../ui/dossier/evidence-table';
import { LifeAhead } from '../../../ui/dossier/life-ahead';
import { MeasureNow } from '../../../ui/dossier/measure-now';
import { RaiseQuestion } from '../../../ui/dossier/raise';
import { Line, Section } from './section';

/** The way to the drop, where one is expected. */
export function Ahead({ dossier, now }: { dossier: Dossier; now: number }) {
  const { window, policy, checks, events, phase } = dossier;
  if (!window) return null;
  if (window.isConditional)
    return (
      <p className="small mt-2">
        If its owner does not renew, it drops between {day(window.from, now)} and {day(window.to, now)}:{' '}
        {window.reasons.join('; ')}.
      </p>
    );
  const record = { expiresAt: dossier.record.expiresAt ?? null, changedAt: null, registrar: null };
  const looks = [...new Set(checks.map(({ at }) => Math.floor(at / 60_000) * 60_000))];
  return (
    <section aria-labelledby="ahead" className="mt-4">
      <h2 id="ahead" className="mb-1">
        The way to the drop
      </h2>
      <LifeAhead
        window={window}
        policy={policy}
        expiredAt={expiryOf({ phase, record }, policy, now)}
        looks={looks}
        events={events}
        now={now}
      />
    </section>
  );
}

export function Phase({ dossier, now }: { dossier: Dossier; now: number }) {
  return (
    <Section id="phase" title="Status" origin={phaseOrigin(dossier, now)}>
      <dl>
        <Line label="Verdict">
          {phaseWords(dossier, now)}
          {dossier.phaseConfidence !== null && (
            <span className="small ml-2">confidence {Math.round(dossier.phaseConfidence * 100)}%</span>
          )}
        </Line>
        <Line label="Because">
          {dossier.phaseReason ?? 'nobody was asked yet'}{' '}
          {dossier.phaseAt === null && (
            <MeasureNow name={dossier.name} id={dossier.id} what="check">
              Ask now
            </MeasureNow>
          )}
        </Line>
        {dossier.contradictions.map((words) => (
          <Line key={words} label="Servers disagree">
            {words}
          </Line>
        ))}
        {dossier.dropAt !== null && <Line label="Drop date">{day(dossier.dropAt, now)}, as a list says</Line>}
        <Line label="Asked again">
          {dossier.watched
            ? `${dossier.askAt === null ? 'at once' : moment(dossier.askAt, now)}; watched ${dossier.watched === 'near miss' ? 'automatically' : dossier.watched}`
            : 'when you ask (c), or by itself when you watch it (w)'}
        </Line>
        {dossier.place && (
          <Line label="Being asked">
            {dossier.place.waits
              ? `waits: ${dossier.place.waits.words} Asked ${dossier.place.waits.until === null ? 'as soon as it works again' : `again ${moment(dossier.place.waits.until, now)}`}`
              : dossier.place.step === 'dns'
                ? 'DNS is asked about it'
                : `${count(dossier.place.before)} questions stand before it at ${dossier.place.server.replace(/^https?:\/\/|\/$/g, '')}`}{' '}
            <RaiseQuestion name={dossier.name} />
          </Line>
        )}
      </dl>
      {dossier.events.length > 0 && (
        <div className="mt-2">
          <p className="small">What happened, as looks found it</p>
          {dossier.events.slice(0, 8).map((event) => (
            <p key={event.id} className="border-t border-rule py-1" data-event={event.kind}>
              {event.words} <span className="small whitespace-nowrap">seen {ago(event.at, now)}</span>
            </p>
          ))}
        </div>
      )}
    </Section>
  );
}

const ANSWERS_SHOWN = 8;

/** What servers answered, the latest first; answers that were not understood as they stood. */
export function Checks({ dossier, first }: { dossier: Dossier; first: TableView }) {
  const odd = dossier.checks.filter(({ text }) => text).slice(0, ANSWERS_SHOWN);
  if (dossier.checks.length === 0)
    return (
      <p>
        No server was asked about it yet.{' '}
        <MeasureNow name={dossier.name} id={dossier.id} what="check">
          Ask now
        </MeasureNow>
      </p>
    );
  return (
    <>
      <EvidenceTable
        domain={dossier.name}
        table="checks"
        label="Answers that were given"
        first={first}
        shown={CHECK_COLUMNS}
        isTimeExact
      />
      {odd.map(({ at, server, text }) => (
        <details key={`${at}${server}`}>
          <summary>What {server} answered, as it came</summary>
          <pre className="small max-h-60 overflow-auto whitespace-pre-wrap">{text}</pre>
        </details>
      ))}
    </>
  );
}
const CHECK_COLUMNS = [
  ['at', '16%'],
  ['step', '10%'],
  ['server', '24%'],
  ['outcome', '12%'],
  ['detail', '30%'],
  ['ms', '8%'],
] as const;

export function Record({ dossier, now }: { dossier: Dossier; now: number }) {
  const { record } = dossier;
  const origin =
    record.at === null ? 'the registry has not answered with a record' : `${record.source}, ${ago(record.at, now)}`;
  const when = (at: number | null | undefined) =>
    at ? `${day(at, now)} (${duration(now - at)} ${at > now ? 'from now' : 'ago'})` : 'not known';
  return (
    <Section id="registration" title="Registration record" origin={origin}>
      <dl>
        <Line label="Registered">
          {when(record.registeredAt)}
          {record.at === null && record.registeredAt ? <span className="small ml-2">as a list says</span> : null}
        </Line>
        <Line label="Expires">{when(record.expiresAt)}</Line>
        <Line label="Registrar">{record.registrar ?? 'not known'}</Line>
        <Line label="Status">{record.statuses?.join(', ') || 'not known'}</Line>
        <Line label="Name servers">{record.nameServers?.join(', ') || 'none known'}</Line>
        <Line label="Name">
          {dossier.nameFacts.length} characters, {dossier.nameFacts.hyphens} hyphens, {dossier.nameFacts.digits} digits
        </Line>
      </dl>
    </Section>
  );
}
