import type { Metadata } from 'next';
import Link from 'next/link';
import type { ReactNode } from 'react';
import { expiryOf } from '../../../core/lifecycle/drop-window';
import { nextStep, priceAt } from '../../../core/listings/listing';
import { displayName, registrableDomain } from '../../../core/names/domain';
import { DossierActions } from '../../../ui/dossier/actions';
import { LifeAhead } from '../../../ui/dossier/life-ahead';
import { RaiseQuestion } from '../../../ui/dossier/raise';
import {
  ago,
  bothPrices,
  changeWords,
  closing,
  count,
  day,
  duration,
  linksOrigin,
  listingWords,
  moment,
  money,
  offerTitle,
  pastOrigin,
  phaseOrigin,
  phaseWords,
  plural,
  RESERVE_WORDS,
  score,
} from '../../../ui/format';
import { FIRST_YEAR, Lifeline, Pair } from '../../../ui/lifeline';
import { RefreshOnJobs } from '../../../ui/sources/refresh';
import { type Dossier, readDossier } from '../../dossier';
import { currentBrief } from '../../server';

type Props = { params: Promise<{ name: string }> };

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  return { title: displayName(decodeURIComponent((await params).name)).slice(0, 80) };
}

/** All evidence on one domain. */
export default async function DossierPage({ params }: Props) {
  const { store, brief } = await currentBrief();
  const asked = decodeURIComponent((await params).name);
  const domain = registrableDomain(asked);
  const dossier = domain && readDossier(store, domain.name, brief.id);
  const now = store.now();
  if (!dossier)
    return (
      <div className="mx-auto max-w-2xl px-6 py-10">
        <h1 className="break-all">{asked.slice(0, 255)}</h1>
        <p className="mt-2">
          {domain
            ? 'No source has named this domain yet, so nothing is known of it.'
            : 'This is no registrable domain.'}{' '}
          Load it with a list, or crawl a site that links to it.
        </p>
      </div>
    );
  return (
    <div className="mx-auto max-w-[1180px] px-6 py-6">
      <RefreshOnJobs />
      <div className="flex items-start gap-6">
        <div className="min-w-0">
          <h1 className="text-figure leading-tight break-all">{dossier.display}</h1>
          <p className="mt-1">{verdict(dossier, now)}</p>
          {dossier.display !== dossier.name && <p className="small">in DNS: {dossier.name}</p>}
        </div>
        <DossierActions
          id={dossier.id}
          name={dossier.name}
          isWatched={dossier.watched === 'by hand'}
          briefId={brief.id}
          briefName={brief.name}
          shortlisted={dossier.shortlisted}
        />
      </div>
      <figure className="mt-4 border-y border-rule py-3">
        <Lifeline life={dossier} now={now} width={1120} height={64} />
        <figcaption className="small mt-1 flex justify-between">
          <span>{FIRST_YEAR}</span>
          <span>bars: captures in the archive by year, content not yet judged · line: registration · arrow: drop</span>
          <span>now</span>
        </figcaption>
      </figure>
      <Ahead dossier={dossier} now={now} />
      <div className="mt-5 grid grid-cols-[1fr_1fr] gap-x-12 gap-y-7">
        <div className="flex flex-col gap-7">
          <Phase dossier={dossier} now={now} />
          <Listings dossier={dossier} now={now} />
        </div>
        <Links dossier={dossier} now={now} />
        <Record dossier={dossier} now={now} />
        <Spam dossier={dossier} now={now} />
        <Referrers dossier={dossier} now={now} />
        <Anchors dossier={dossier} />
        <Sightings dossier={dossier} now={now} />
        <Past dossier={dossier} now={now} />
      </div>
    </div>
  );
}

/** The way to the drop, where one is expected. */
function Ahead({ dossier, now }: { dossier: Dossier; now: number }) {
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

/** The state of things in a sentence, from figures that stand below it. */
function verdict(dossier: Dossier, now: number): string {
  const parts = [phaseWords(dossier, now)];
  if (dossier.firstSeenAt !== null) parts.push(`first seen ${new Date(dossier.firstSeenAt).getUTCFullYear()}`);
  if (dossier.referringDomains !== null) parts.push(plural(dossier.referringDomains, 'referring domain'));
  if (dossier.strength !== null)
    parts.push(`strength ${score(dossier.strength)}, trust ${score(dossier.trust) || 'unknown'}`);
  if (dossier.spamRisk !== null) parts.push(`spam risk ${dossier.spamRisk} of 100`);
  if (dossier.listing !== null) parts.push(offerTitle(dossier));
  const text = parts.join('; ');
  return `${text[0].toUpperCase()}${text.slice(1)}.`;
}

function Section({ id, title, origin, children }: { id: string; title: string; origin?: string; children: ReactNode }) {
  return (
    <section aria-labelledby={id}>
      <h2 id={id}>
        {title} {origin && <span className="small ml-1.5 font-normal">{origin}</span>}
      </h2>
      <div className="mt-1.5">{children}</div>
    </section>
  );
}

function Line({ label, children }: { label: string; children: ReactNode }) {
  return (
    <div className="flex gap-4 border-t border-rule py-1">
      <dt className="w-36 shrink-0 text-muted">{label}</dt>
      <dd className="min-w-0 break-words">{children}</dd>
    </div>
  );
}

function Phase({ dossier, now }: { dossier: Dossier; now: number }) {
  return (
    <Section id="phase" title="Phase" origin={phaseOrigin(dossier, now)}>
      <dl>
        <Line label="Verdict">
          {phaseWords(dossier, now)}
          {dossier.phaseConfidence !== null && (
            <span className="small ml-2">confidence {Math.round(dossier.phaseConfidence * 100)}%</span>
          )}
        </Line>
        <Line label="Because">{dossier.phaseReason ?? 'nobody was asked yet'}</Line>
        {dossier.contradictions.map((words) => (
          <Line key={words} label="Servers disagree">
            {words}
          </Line>
        ))}
        {dossier.dropAt !== null && <Line label="Drop date">{day(dossier.dropAt, now)}, as a list says</Line>}
        <Line label="Asked again">
          {dossier.watched
            ? `${dossier.askAt === null ? 'at once' : moment(dossier.askAt, now)}; watched ${dossier.watched === 'near miss' ? 'as a near miss' : dossier.watched}`
            : 'when you ask (c), or by itself when you watch it (w)'}
        </Line>
        {dossier.place && (
          <Line label="Being asked">
            {dossier.place.step === 'dns'
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
      {dossier.checks.length > 0 && (
        <table className="mt-2 w-full">
          <caption className="small text-left">Answers that were given</caption>
          <tbody>
            {dossier.checks.slice(0, 8).map((check) => (
              <tr key={`${check.at}${check.step}${check.server}`} className="border-t border-rule align-top">
                <td className="py-1 pr-3 whitespace-nowrap">{check.step.toUpperCase()}</td>
                <td className="py-1 pr-3">{check.outcome}</td>
                <td className="py-1 pr-3 break-words">
                  {check.text ? (
                    <details>
                      <summary>{check.detail || 'an answer that is not understood'}</summary>
                      <pre className="small max-h-60 overflow-auto whitespace-pre-wrap">{check.text}</pre>
                    </details>
                  ) : (
                    check.detail
                  )}
                  <span className="small block">
                    {check.server}, {check.elapsedMs} ms
                  </span>
                </td>
                <td className="small py-1 text-right whitespace-nowrap">{ago(check.at, now)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </Section>
  );
}

function Links({ dossier, now }: { dossier: Dossier; now: number }) {
  const { measurement } = dossier;
  return (
    <Section id="links" title="Links" origin={linksOrigin(dossier, now)}>
      {dossier.referringDomains === null ? (
        <p>No link to it is known. Import a link index, or crawl a site that links to it.</p>
      ) : (
        <dl>
          <Line label="Strength and trust">
            <Pair strength={dossier.strength} trust={dossier.trust} width={120} />{' '}
            <strong>
              {score(dossier.strength)} · {score(dossier.trust) || 'unknown'}
            </strong>
            <span className="small block">
              Strength: PageRank (Brin and Page 1998), damping 0.85; trust: the same walk, begun only at trusted sites.
              0 is a domain nobody links to, and ten points are a factor of four.
              {measurement &&
                ` One walk over ${count(measurement.nodes)} domains and ${count(measurement.edges)} links, ${measurement.steps} steps.`}
            </span>
          </Line>
          <Line label="Trusted by way of">
            {dossier.trustPath
              ? dossier.trustPath.join(' → ')
              : dossier.trust === null
                ? 'no brief names trusted sites'
                : 'no path from a trusted site'}
          </Line>
          {dossier.linkCounts.map((source) => (
            <Line key={source.sourceId} label={source.kind === 'crawl' ? 'In a crawl' : 'In an index'}>
              {plural(source.domains, 'domain')}, {plural(source.backlinks, 'page')}
              <span className="small block">
                <Link className="hover:underline" href={`/sources/${source.sourceId}`}>
                  {source.source}
                </Link>
                , {day(source.at, now)}
              </span>
            </Line>
          ))}
          <Line label="All together">
            {plural(dossier.referringDomains, 'referring domain')}, {plural(dossier.backlinks, 'linking page')}
          </Line>
          {dossier.readers !== null && (
            <Line label="Readers">
              {count(dossier.readers)}
              <span className="small block">
                claimed by the markup of pages that mention it, together: an estimate of theirs
              </span>
            </Line>
          )}
        </dl>
      )}
    </Section>
  );
}

function Record({ dossier, now }: { dossier: Dossier; now: number }) {
  const { record } = dossier;
  const origin =
    record.at === null ? 'the registry has not answered with a record' : `${record.source}, ${ago(record.at, now)}`;
  const when = (at: number | null | undefined) =>
    at ? `${day(at, now)} (${duration(now - at)} ${at > now ? 'from now' : 'ago'})` : 'not known';
  return (
    <Section id="record" title="Registration record" origin={origin}>
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

function Spam({ dossier, now }: { dossier: Dossier; now: number }) {
  const { spam } = dossier;
  return (
    <Section
      id="spam"
      title="Spam risk"
      origin={spam ? `measured ${ago(spam.at, now)}; points set by hand, not yet fitted` : undefined}
    >
      {!spam || spam.card.risk === null ? (
        <p>Too few links are known to judge it.</p>
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
            {spam.card.results.map((result) => (
              <tr key={result.rule} className="border-t border-rule align-top">
                <td className="py-1 pr-3" title={result.explanation}>
                  {result.title}
                  <span className="small block">{result.evidence.join(', ')}</span>
                </td>
                <td className="py-1 pr-3">{result.shown}</td>
                <td className="py-1 text-right whitespace-nowrap">
                  {result.points} <span className="small">of {result.maxPoints}</span>
                </td>
              </tr>
            ))}
            <tr className="border-t-2 border-ink font-semibold">
              <td className="py-1" colSpan={2}>
                Sum, at most 100
              </td>
              <td className="text-right">{spam.card.risk}</td>
            </tr>
          </tbody>
        </table>
      )}
    </Section>
  );
}

/** What keeps a linking page out of a search engine's index, so that its link is no vote. */
const UNINDEXED_WORDS: Record<string, string> = {
  noindex: 'the page asks not to be indexed',
  canonical: 'the page names another as its canonical',
  copy: 'the page is a copy of another',
  'not-content': 'the page is no content',
};

function Referrers({ dossier, now }: { dossier: Dossier; now: number }) {
  const shown = dossier.referrers.slice(0, 25);
  if (shown.length === 0) return null;
  return (
    <Section
      id="referrers"
      title="Referring domains"
      origin={`the strongest ${shown.length} of ${count(dossier.referringDomains)}`}
    >
      <table className="w-full table-fixed">
        <thead className="small">
          <tr className="text-left">
            <th className="w-[46%] font-normal">From</th>
            <th className="font-normal">Anchor</th>
            <th className="w-12 text-right font-normal">Pages</th>
            <th className="w-20 text-right font-normal">Str · trust</th>
          </tr>
        </thead>
        <tbody>
          {shown.map((referrer) => (
            <tr
              key={referrer.site}
              className="border-t border-rule align-top"
              title={`${referrer.exampleUrl} → ${referrer.targetUrl}`}
            >
              <td className="truncate py-1 pr-2">
                {referrer.site}
                <span className="small block truncate">
                  {referrer.firstSeenAt !== null ? `since ${day(referrer.firstSeenAt, now)}` : 'seen by a crawl'}
                  {referrer.nofollow ? ', nofollow' : ''}
                  {referrer.unindexed
                    ? `, not counted: ${UNINDEXED_WORDS[referrer.unindexed] ?? referrer.unindexed}`
                    : ''}
                </span>
              </td>
              <td className="truncate py-1 pr-2">
                <bdi>{referrer.anchor || 'no words'}</bdi>
              </td>
              <td className="py-1 text-right">{count(referrer.pages)}</td>
              <td className="py-1 text-right">
                {score(referrer.strength)} · {score(referrer.trust)}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </Section>
  );
}

function Anchors({ dossier }: { dossier: Dossier }) {
  if (dossier.anchors.length === 0) return null;
  return (
    <Section id="anchors" title="Anchor texts" origin="by how many domains use them">
      <table className="w-full table-fixed">
        <tbody>
          {dossier.anchors.slice(0, 25).map((entry) => (
            <tr key={entry.anchor} className="border-t border-rule">
              <td className="truncate py-1 pr-2">
                <bdi>{entry.anchor || 'no words'}</bdi>
              </td>
              <td className="w-40 text-right">
                {plural(entry.domains, 'domain')}, {plural(entry.links, 'page')}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </Section>
  );
}

/** Every offer of it that is known, the one the grid shows first among the open ones, and what changed of them. */
function Listings({ dossier, now }: { dossier: Dossier; now: number }) {
  const { listings, listingChanges, homeCurrency } = dossier;
  if (listings.length === 0) return null;
  const isShown = (listing: Dossier['listings'][number]) =>
    listing.isOpen && listing.kind === dossier.listing && listing.venue === dossier.venue;
  const order = (listing: Dossier['listings'][number]) => (isShown(listing) ? 0 : listing.isOpen ? 1 : 2);
  return (
    <Section id="listings" title="Listings" origin={plural(listings.filter((one) => one.isOpen).length, 'open offer')}>
      <table className="w-full">
        <tbody>
          {listings
            .toSorted((a, b) => order(a) - order(b))
            .map((listing) => {
              const step = nextStep(listing, now);
              const price = priceAt(listing, now);
              return (
                <tr key={`${listing.sourceId} ${listing.kind}`} className="border-t border-rule align-top">
                  <td className="py-1 pr-3">
                    {listingWords({ listing: listing.kind, bids: listing.bids })}
                    {listing.reserve && `, ${RESERVE_WORDS[listing.reserve]}`}
                    <span className="small block">
                      at {listing.venue ?? 'a venue'}, by{' '}
                      <Link href={`/sources/${listing.sourceId}`} className="hover:underline">
                        {listing.sourceName}
                      </Link>
                      , read {ago(listing.seenAt, now)}
                      {listing.url && (
                        <>
                          , <span className="break-all">{listing.url}</span>
                        </>
                      )}
                    </span>
                  </td>
                  <td className="py-1 text-right">
                    {bothPrices(price, listing.currency, listing.homeMinor, homeCurrency) || 'price on request'}
                    <span className="small block">
                      {!listing.isOpen
                        ? listing.state === 'open'
                          ? 'closed'
                          : listing.state
                        : step
                          ? `then ${money(step.priceMinor, null)} ${closing(step.at, now)}`
                          : listing.closingAt !== null &&
                            `closes ${closing(listing.closingAt, now)} (${moment(listing.closingAt, now)})`}
                      {isShown(listing) && listings.length > 1 && '; shown in the pool'}
                    </span>
                  </td>
                </tr>
              );
            })}
        </tbody>
      </table>
      {listingChanges.length > 0 && (
        <details className="mt-1">
          <summary className="small cursor-pointer">{plural(listingChanges.length, 'change')} of them</summary>
          {listingChanges.map((change, index) => (
            <div key={index} className="flex justify-between border-t border-faint py-0.5">
              <span>
                {changeWords(change, now)} <span className="small">{change.venue}</span>
              </span>
              <span className="small">{moment(change.at, now)}</span>
            </div>
          ))}
        </details>
      )}
    </Section>
  );
}

function Sightings({ dossier, now }: { dossier: Dossier; now: number }) {
  return (
    <Section id="sightings" title="Who named it">
      {dossier.sightings.length === 0 && <p>Known only as a site that links to others.</p>}
      {dossier.sightings.map((sighting) => (
        <div key={sighting.sourceId} className="border-t border-rule py-1">
          <Link className="hover:underline" href={`/sources/${sighting.sourceId}`}>
            {sighting.sourceName}
          </Link>{' '}
          <span className="small">
            {moment(sighting.at, now)}
            {sighting.line !== null && `, line ${count(sighting.line)}`}
          </span>
          <Said said={sighting.said} now={now} />
        </div>
      ))}
    </Section>
  );
}

/** What a source said: of a crawl, the words around the link on the page where it was found; else its own figures. */
function Said({ said, now }: { said: Record<string, unknown>; now: number }) {
  if (typeof said.url !== 'string' || typeof said.anchor !== 'string')
    return <span className="small block break-words">{saidWords(said, now)}</span>;
  return (
    <span className="small block break-words">
      on {said.url.replace(/^https?:\/\//, '')}: <bdi>{String(said.before ?? '')}</bdi>{' '}
      <bdi className="font-semibold text-ink">{said.anchor || 'no words'}</bdi> <bdi>{String(said.after ?? '')}</bdi>
    </span>
  );
}

/** A source's own figures. */
function saidWords(said: Record<string, unknown>, now: number): string {
  return Object.entries(said)
    .filter(([key, value]) => value !== null && !['site', 'depth', 'domain'].includes(key))
    .map(([key, value]) => {
      const label = key.replace(/([A-Z])/g, ' $1').toLowerCase();
      if (key.endsWith('At') && typeof value === 'number') return `${label.replace(/ at$/, '')} ${day(value, now)}`;
      if (key.endsWith('Minor') && typeof value === 'number')
        return `${label.replace(/ minor$/, '')} ${money(value, null)}`;
      return `${label} ${String(value)}`;
    })
    .join('; ');
}

function Past({ dossier, now }: { dossier: Dossier; now: number }) {
  return (
    <Section id="past" title="Past" origin={pastOrigin(dossier, now)}>
      {dossier.pastAt === null ? (
        <p>Ask the archive with Check and measure.</p>
      ) : dossier.captures === 0 ? (
        <p>The archive never captured it.</p>
      ) : (
        <>
          <dl>
            <Line label="First seen">{dossier.firstSeenAt !== null && moment(dossier.firstSeenAt, now)}</Line>
            <Line label="Last seen">{dossier.lastSeenAt !== null && moment(dossier.lastSeenAt, now)}</Line>
          </dl>
          <table className="mt-1 w-full">
            <caption className="small text-left">
              {count(dossier.captures)} captures by year, the strip above as a table
            </caption>
            <tbody>
              <tr className="small border-t border-rule">
                {dossier.capturesByYear?.map(({ year }) => (
                  <th key={year} scope="col" className="py-0.5 text-left font-normal">
                    {String(year).slice(2)}
                  </th>
                ))}
              </tr>
              <tr>
                {dossier.capturesByYear?.map(({ year, captures }) => (
                  <td key={year}>{captures}</td>
                ))}
              </tr>
            </tbody>
          </table>
        </>
      )}
    </Section>
  );
}
