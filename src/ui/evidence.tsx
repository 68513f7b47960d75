'use client';

import type { ReactNode } from 'react';
import { fixed } from '../core/formats/figures';
import type { AnchorKind } from '../core/links/anchor-kind-names';
import type { DomainView } from '../core/pool/domain-view';
import { diligenceTally } from '../core/verdict/diligence';
import { ago, count, day, linksOrigin, pastOrigin, phaseOrigin, plural, score, yearOf } from '../core/wording/format';
import { Money } from './decision/figures';
import { useDecision } from './decision/use-decision';
import type { Details } from './details';
import { FitLine, shortFit } from './fit-line';
import { Drawing } from './life/drawing';
import { drawLife } from './life/shapes';
import { FIRST_YEAR, Lifeline, lifeWords, Pair } from './lifeline';
import Link from './link';
import { WayList } from './orders/way-list';
import { PlainTable, plainColumnsFor } from './parts/plain-table';
import { MarkedName } from './pool/columns';
import { wordFor } from './pool/sentences';
import { verdictLine } from './verdict';

function Part({ title, origin, children }: { title: string; origin?: string; children: ReactNode }) {
  return (
    <section className="min-w-0">
      <h2>
        {title} {origin && <span className="small ml-1 font-normal">{origin}</span>}
      </h2>
      <div className="mt-1">{children}</div>
    </section>
  );
}

const Line = ({ label, children }: { label: string; children: ReactNode }) => (
  <div className="flex justify-between gap-3 border-t border-faint py-0.5">
    <dt className="text-muted">{label}</dt>
    <dd className="min-w-0 text-right">{children}</dd>
  </div>
);

const REASONS_SHOWN = 3;

/** The strongest reasons of one side. */
function Speaks({ title, reasons }: { title: string; reasons: { words: string }[] }) {
  return (
    <Part title={title}>
      {reasons.length === 0 ? (
        <p className="small">nothing that is known</p>
      ) : (
        <ul>
          {reasons.slice(0, REASONS_SHOWN).map(({ words }) => (
            <li key={words} className="border-t border-faint py-0.5">
              {words}
            </li>
          ))}
        </ul>
      )}
    </Part>
  );
}

const ofReferrer = plainColumnsFor<Details['referrers'][number]>();
const REFERRERS_SHOWN = 5;
const ANCHORS_SHOWN = 5;

/** Votes that are left times what they are worth: a strong site that says nothing does not matter. */
const matters = ({ weight, strength }: Details['referrers'][number]) => (weight ?? 1) * (1 + (strength ?? 0));

/** The evidence that decides, on one screen: in one narrow column, or side by side. */
export function Evidence({
  row,
  details,
  now,
  narrow,
}: {
  row: DomainView;
  details: Details | null;
  now: number;
  narrow?: boolean;
}) {
  const wide = narrow ? 316 : 1120;
  return (
    <article aria-label={`Evidence on ${row.display}`}>
      <h1 className={`${narrow ? '' : 'text-figure leading-tight'} break-all`}>
        <Link href={`/domains/${row.name}`} className="hover:underline">
          <MarkedName row={row} />
        </Link>
      </h1>
      <p className="mt-1" data-testid="verdict">
        {verdictLine(row, now)} <span className="small">{phaseOrigin(row, now)}</span>
      </p>
      {row.judged !== 'not-yet' && (
        <p className="mt-1 text-damson">
          You judged it {wordFor(row.judged)} {ago(row.judgedAt, now)}
          {row.judgedReason && `: ${row.judgedReason}`}
        </p>
      )}
      <div className="mt-2 border-y border-rule py-1.5">
        {details ? (
          <Drawing
            drawing={drawLife({
              life: details.life,
              links: [],
              from: details.life.from,
              to: details.life.to,
              width: wide,
              isSmall: true,
            })}
            label={lifeWords(row, now)}
          />
        ) : (
          <Lifeline life={row} now={now} width={wide} height={50} />
        )}
        <p className="small mt-0.5 flex justify-between">
          <span>{details ? yearOf(details.life.from) : FIRST_YEAR}</span>
          <span>
            {row.captures === null
              ? pastOrigin(row, now)
              : `${plural(row.captures, 'capture')}; ${pastOrigin(row, now)}`}
          </span>
          <span>now</span>
        </p>
      </div>
      <div
        className={`mt-2.5 grid gap-x-8 gap-y-3 ${narrow ? 'grid-cols-1' : 'grid-cols-1 lg:grid-cols-[1fr_1fr_250px]'}`}
      >
        {details && <Speaks title="Speaks for it" reasons={details.reasons.for} />}
        {details && <Speaks title="Speaks against it" reasons={details.reasons.against} />}
        {details && <Open details={details} />}
      </div>
      <Deciding name={row.name} width={narrow ? 316 : 520} />
      {details && details.ways.length > 0 && (
        <div className="mt-3">
          <Part title="How it can be had" origin="the cheapest in all first">
            <WayList
              ways={details.ways}
              chosen={0}
              currency={details.waysCurrency}
              label={`Other ways to have ${row.display}`}
            />
          </Part>
        </div>
      )}
      <div className={`mt-3 grid gap-x-8 gap-y-3 ${narrow ? 'grid-cols-1' : 'grid-cols-1 lg:grid-cols-[1fr_400px]'}`}>
        <Who details={details} row={row} />
        <Words details={details} />
      </div>
      <Figures row={row} details={details} now={now} narrow={narrow === true} />
    </article>
  );
}

/** Fit, worth and the most to pay, for the current brief. */
function Deciding({ name, width }: { name: string; width: number }) {
  const decision = useDecision(name);
  if (!decision) return <div className="mt-3 h-14" />;
  return (
    <div className="mt-3">
      <Part title="For this brief" origin={shortFit(decision.fit) === '' ? 'nothing is known that it goes by' : ''}>
        {shortFit(decision.fit) !== '' && (
          <p className="flex items-center gap-2">
            fit <FitLine fit={decision.fit} width={120} />
          </p>
        )}
        <Money decision={decision} width={width} />
      </Part>
    </div>
  );
}

/** What nobody knows yet, and how far the list of due diligence is. */
function Open({ details }: { details: Details }) {
  const { answered, all, bad } = diligenceTally(details.diligence);
  return (
    <Part title="Still open">
      <p>{details.reasons.open.join(', ') || 'nothing that would decide'}</p>
      <p className="small">
        due diligence: {answered} of {all} answered{bad > 0 && `, ${bad} against`}
      </p>
    </Part>
  );
}

/** The referrers that matter most. */
function Who({ details, row }: { details: Details | null; row: DomainView }) {
  const all = row.referringDomains ?? details?.referrers.length ?? 0;
  const shown = (details?.referrers ?? []).toSorted((a, b) => matters(b) - matters(a)).slice(0, REFERRERS_SHOWN);
  return (
    <Part
      title="Who links"
      origin={details ? `the ${shown.length} that matter most of ${count(all)}; strength · trust` : ''}
    >
      {details === null ? (
        <p className="small">…</p>
      ) : shown.length === 0 ? (
        <p className="small">No linking page is known.</p>
      ) : (
        <PlainTable
          label="Referring domains that matter most"
          isHeadless
          className="table-fixed"
          rows={shown}
          rowId={({ site }) => site}
          columns={[
            ofReferrer(
              'Referring domain',
              ({ site, weight }) => (
                <>
                  {site}
                  {(weight ?? 1) < 1 && (
                    <span className="small"> {weight === 0 ? 'does not count' : `counts ${fixed(weight, 2)}`}</span>
                  )}
                </>
              ),
              { className: 'truncate' },
            ),
            ofReferrer('Anchor text', ({ anchor }) => <bdi>{anchor || 'no anchor text'}</bdi>, {
              className: 'truncate',
            }),
            ofReferrer('Strength · trust', ({ strength, trust }) => `${score(strength)} · ${score(trust)}`, {
              isNumber: true,
              className: 'w-16',
            }),
          ]}
        />
      )}
      {details?.trustPath && details.trustPath.length > 1 && (
        <p className="small mt-1 truncate">Trust comes by {details.trustPath.join(' → ')}</p>
      )}
    </Part>
  );
}

function Words({ details }: { details: Details | null }) {
  if (!details || details.anchors.length === 0) return null;
  return (
    <Part title="Anchor texts" origin="domains that use them">
      <dl>
        {details.anchors.slice(0, ANCHORS_SHOWN).map((entry) => (
          <Line key={entry.anchor} label={entry.anchor || 'no anchor text'}>
            {KIND_WORDS[entry.kind] && <span className="small mr-2">{KIND_WORDS[entry.kind]}</span>}
            {count(entry.domains)}
          </Line>
        ))}
      </dl>
    </Part>
  );
}
/** Kinds that say something by themselves. */
const KIND_WORDS: Partial<Record<AnchorKind, string>> = {
  money: 'sells',
  'other-script': 'another script',
  subject: 'its subject',
  name: 'its name',
};

function Figures({
  row,
  details,
  now,
  narrow,
}: {
  row: DomainView;
  details: Details | null;
  now: number;
  narrow: boolean;
}) {
  return (
    <div className={`mt-3 grid gap-x-8 gap-y-3 ${narrow ? 'grid-cols-1' : 'grid-cols-1 lg:grid-cols-3'}`}>
      <Part title="Figures" origin={linksOrigin(row, now)}>
        <dl>
          <Line label="Strength and trust">
            <Pair strength={row.strength} trust={row.trust} width={58} /> {score(row.strength) || 'unknown'}
            {row.trust !== null && ` · ${score(row.trust)}`}
          </Line>
          <Line label="Backlinks">{row.backlinks === null ? 'unknown' : count(row.backlinks)}</Line>
          <Line label="Monthly views of pages that mention it">
            {row.readers === null ? 'unknown' : count(row.readers)}
          </Line>
        </dl>
      </Part>
      <Part title="Registration data" origin={row.recordAt === null ? 'not read' : `read ${ago(row.recordAt, now)}`}>
        <dl>
          <Line label="Registered">{row.registeredAt === null ? 'unknown' : day(row.registeredAt, now)}</Line>
          <Line label="Registrar">{row.registrar ?? 'unknown'}</Line>
          {details && details.record.statuses.length > 0 && (
            <Line label="Status">{details.record.statuses.join(', ')}</Line>
          )}
        </dl>
      </Part>
      {details && (
        <Part title="Found in">
          <ul>
            {details.sightings.slice(0, 3).map((sighting) => (
              <li key={sighting.sourceId} className="flex justify-between gap-3 border-t border-faint py-0.5">
                <span className="truncate">{sighting.sourceName}</span>
                <span className="small">{ago(sighting.at, now)}</span>
              </li>
            ))}
          </ul>
          {details.tags.length > 0 && <p className="small mt-1">Tagged {details.tags.join(', ')}</p>}
        </Part>
      )}
    </div>
  );
}
