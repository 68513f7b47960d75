import type { Metadata } from 'next';
import Link from 'next/link';
import { nextStep, priceAt } from '../../../core/listings/listing';
import { displayName, registrableDomain } from '../../../core/names/domain';
import { DossierActions } from '../../../ui/dossier/actions';
import {
  ago,
  bothPrices,
  changeWords,
  closing,
  count,
  day,
  listingWords,
  moment,
  money,
  offerTitle,
  phaseWords,
  plural,
  RESERVE_WORDS,
  score,
} from '../../../ui/format';
import { FIRST_YEAR, Lifeline } from '../../../ui/lifeline';
import { RefreshOnJobs } from '../../../ui/sources/refresh';
import { type Dossier, readDossier } from '../../dossier';
import { currentBrief, getEngine } from '../../server';
import { siblingsOf } from '../../siblings';
import { Ahead, Phase, Record } from './life';
import { Anchors, Links, OldAddresses, Referrers, Spam } from './links';
import { Name, WordMarks } from './name';
import { Past, Subject } from './past';
import { Section } from './section';

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
  // the engine splits names; while it starts, the page does without
  const reading =
    domain &&
    (await getEngine()
      .readName(domain.name, domain.ending)
      .catch(() => null));
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
        <Lifeline life={dossier} eras={dossier.past?.eras} now={now} width={1120} height={64} />
        <figcaption className="small mt-1 flex justify-between">
          <span>{FIRST_YEAR}</span>
          <span>
            bars: captures in the archive by year
            {dossier.past ? ', hollow where there was no content' : ', content not yet judged'} · line: registration ·
            arrow: drop
          </span>
          <span>now</span>
        </figcaption>
      </figure>
      <ForAndAgainst dossier={dossier} />
      <Ahead dossier={dossier} now={now} />
      <div className="mt-5 grid grid-cols-[1fr_1fr] gap-x-12 gap-y-7">
        <div className="flex min-w-0 flex-col gap-7">
          <Phase dossier={dossier} now={now} />
          <Listings dossier={dossier} now={now} />
          <Record dossier={dossier} now={now} />
          <Past dossier={dossier} now={now} />
          <Subject dossier={dossier} />
          {reading && (
            <Name
              reading={reading}
              siblings={siblingsOf(store, dossier.name, dossier.ending, reading.twin)}
              now={now}
            />
          )}
          <WordMarks dossier={dossier} now={now} />
          <Sightings dossier={dossier} now={now} />
        </div>
        <div className="flex min-w-0 flex-col gap-7">
          <Links dossier={dossier} now={now} />
          <Spam dossier={dossier} now={now} />
          <Referrers dossier={dossier} now={now} />
          <Anchors dossier={dossier} />
          <OldAddresses dossier={dossier} />
        </div>
      </div>
    </div>
  );
}

const REASONS_SHOWN = 5;

/** What speaks for it and what against, strongest first, and what is still open. */
function ForAndAgainst({ dossier }: { dossier: Dossier }) {
  const { reasons } = dossier;
  const columns = [
    ['Speaks for it', reasons.for.slice(0, REASONS_SHOWN).map(({ words }) => words), 'nothing that is known'],
    ['Speaks against it', reasons.against.slice(0, REASONS_SHOWN).map(({ words }) => words), 'nothing that is known'],
    ['Still open', reasons.open, 'nothing that would decide'],
  ] as const;
  return (
    <section aria-label="For and against" className="mt-3 grid grid-cols-[1fr_1fr_240px] gap-x-12">
      {columns.map(([title, lines, none]) => (
        <div key={title} className="min-w-0">
          <h2>{title}</h2>
          {lines.length === 0 ? (
            <p className="small">{none}</p>
          ) : (
            <ul>
              {lines.map((words) => (
                <li key={words} className="border-t border-faint py-0.5">
                  {words}
                </li>
              ))}
            </ul>
          )}
        </div>
      ))}
    </section>
  );
}

/** The state of things in a sentence, from figures that stand below it. */
function verdict(dossier: Dossier, now: number): string {
  const parts = [phaseWords(dossier, now)];
  if (dossier.firstSeenAt !== null) parts.push(`first seen ${new Date(dossier.firstSeenAt).getUTCFullYear()}`);
  if (dossier.referringDomains !== null)
    parts.push(
      `${plural(dossier.referringDomains, 'referring domain')}${dossier.effective === null ? '' : ` (${dossier.effective.toLocaleString('en')} effective)`}`,
    );
  if (dossier.strength !== null)
    parts.push(`strength ${score(dossier.strength)}, trust ${score(dossier.trust) || 'unknown'}`);
  if (dossier.judged === 'spam' || dossier.judged === 'clean')
    parts.push(`${dossier.judged} by your mark (computed risk ${dossier.spamRisk ?? 'none'})`);
  else if (dossier.spamRisk !== null) parts.push(`spam risk ${dossier.spamRisk} of 100`);
  if (dossier.listing !== null) parts.push(offerTitle(dossier));
  const text = parts.join('; ');
  return `${text[0].toUpperCase()}${text.slice(1)}.`;
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
