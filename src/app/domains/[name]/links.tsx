import Link from 'next/link';
import { ANCHOR_KINDS, type AnchorKind } from '../../../core/links/anchor-kinds';
import { DISCOUNTS, type DiscountKind } from '../../../core/links/effective';
import { ago, count, day, linksOrigin, plural, score } from '../../../ui/format';
import { Pair } from '../../../ui/lifeline';
import type { Dossier } from '../../dossier';
import { Line, Section } from './section';

const tenths = (value: number) => value.toLocaleString('en', { maximumFractionDigits: 1 });
const KIND_WORDS: Record<string, string> = { crawl: 'a crawl', list: 'a list says so', links: 'an index' };

export function Links({ dossier, now }: { dossier: Dossier; now: number }) {
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
          {dossier.trust !== null && dossier.strength !== null && dossier.strength > 0 && (
            <Line label="Trust share">
              {(dossier.trust / dossier.strength).toFixed(2)}
              {dossier.spamMass !== null && `, spam mass ${dossier.spamMass.toFixed(2)}`}
              <span className="small block">
                trust over strength; spam mass (Gyöngyi and others 2006): the part of its strength that does not come
                from trusted sites
              </span>
            </Line>
          )}
          <Line label="Trusted by way of">
            {dossier.trustPath
              ? dossier.trustPath.join(' → ')
              : dossier.trust === null
                ? 'no brief names trusted sites'
                : 'no path from a trusted site'}
          </Line>
          <Forwarding dossier={dossier} now={now} />
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
      <Counts dossier={dossier} now={now} />
    </Section>
  );
}

/** Whether it sends its visitors on, and what its strength is without what it borrows. */
function Forwarding({ dossier, now }: { dossier: Dossier; now: number }) {
  const { forwarding, front, frontAt } = dossier;
  if (!forwarding)
    return frontAt === null ? null : (
      <Line label="Forwards">
        no{front?.status ? `: its front page ${front.note}` : `; its front page could not be read: ${front?.note}`}{' '}
        <span className="small">asked {ago(frontAt, now)}</span>
      </Line>
    );
  return (
    <Line label="Forwards">
      {forwarding.isNow ? 'now' : 'by its last captures'} to <strong>{forwarding.to}</strong>
      <span className="small block">
        {forwarding.strengthWith === null
          ? 'What it shows together with that domain is not measured yet.'
          : `Taken together with that domain it would show strength ${score(forwarding.strengthWith)}; ${score(forwarding.strength)} is its own, without links that came while it forwarded.`}
      </span>
    </Line>
  );
}

/** Each source's own count, side by side, and where they disagree. */
function Counts({ dossier, now }: { dossier: Dossier; now: number }) {
  const { counts, disagreement, countFrom } = dossier;
  if (counts.length === 0) return null;
  return (
    <>
      <table className="mt-2 w-full" aria-label="Counts by source">
        <thead className="small">
          <tr className="text-left">
            <th className="font-normal">Counted by</th>
            <th className="text-right font-normal">Domains</th>
            <th className="text-right font-normal">Pages</th>
            <th className="text-right font-normal">Nofollow</th>
            <th className="text-right font-normal">Knows links</th>
          </tr>
        </thead>
        <tbody>
          {counts.map((source) => (
            <tr key={`${source.sourceId} ${source.kind}`} className="border-t border-rule align-top">
              <td className="py-1 pr-3">
                <Link className="hover:underline" href={`/sources/${source.sourceId}`}>
                  {source.source}
                </Link>
                <span className="small block">
                  {KIND_WORDS[source.kind] ?? source.kind}, {day(source.at, now)}
                  {source.source === countFrom && '; this figure is sorted by'}
                </span>
              </td>
              <td className="py-1 text-right">
                {source.referringDomains === null ? '' : count(source.referringDomains)}
              </td>
              <td className="py-1 text-right">{source.backlinks === null ? '' : count(source.backlinks)}</td>
              <td className="py-1 text-right">{source.nofollow === null ? '' : count(source.nofollow)}</td>
              <td className="py-1 text-right">{source.coverage === null ? '' : count(source.coverage)}</td>
            </tr>
          ))}
          {dossier.referringDomains !== null && (
            <tr className="border-t border-ink">
              <td className="py-1">
                In the grid <span className="small">{countFrom ?? 'all together'}</span>
              </td>
              <td className="text-right">{count(dossier.referringDomains)}</td>
              <td className="text-right">{count(dossier.backlinks)}</td>
              <td />
              <td />
            </tr>
          )}
        </tbody>
      </table>
      {disagreement && (
        <p className="mt-1.5 bg-quince px-2 py-1" role="note">
          {disagreement.most} counts {disagreement.factor} times the domains of {disagreement.least}. Likely:{' '}
          {disagreement.causes.join('; ')}.
        </p>
      )}
    </>
  );
}

const DISCOUNT_WORDS: Record<DiscountKind, string> = {
  gone: 'links that are gone',
  nofollow: 'all links nofollow',
  unindexed: 'on pages out of the index',
  network: 'sites of one owner',
  blanket: 'link to everything that lapses',
};

/** What keeps a linking page out of a search engine's index, so that its link is no vote. */
const UNINDEXED_WORDS: Record<string, string> = {
  noindex: 'the page asks not to be indexed',
  canonical: 'the page names another as its canonical',
  copy: 'the page is a copy of another',
  'not-content': 'the page is no content',
};

/** From linking pages to effective referrers, each step with what it takes. */
function Waterfall({ dossier, now }: { dossier: Dossier; now: number }) {
  const { weighing } = dossier;
  if (!weighing) return null;
  const most = Math.max(1, weighing.referring);
  const steps = DISCOUNTS.flatMap((kind) =>
    weighing.taken[kind] > 0.05 ? [{ words: DISCOUNT_WORDS[kind], taken: weighing.taken[kind] }] : [],
  );
  let left = weighing.referring;
  return (
    <div className="mb-2">
      <p>
        <strong>{tenths(weighing.value)} effective</strong> of {plural(weighing.referring, 'referring domain')}, on{' '}
        {plural(weighing.pages, 'page')}
        {weighing.siteWide > 0 &&
          `; ${plural(weighing.siteWide, 'page')} more of the same sites ${weighing.siteWide === 1 ? 'counts' : 'count'} nothing`}
        <span className="small ml-1.5">
          {weighing.lookedAt === null
            ? 'linking pages not looked at again'
            : `linking pages looked at ${ago(weighing.lookedAt, now)}`}
        </span>
      </p>
      {steps.length > 0 && (
        <table className="mt-1 w-full" aria-label="Discounts">
          <tbody>
            {steps.map(({ words, taken }) => {
              left -= taken;
              return (
                <tr key={words} className="border-t border-faint">
                  <td className="w-56 py-0.5">{words}</td>
                  <td>
                    <svg width="100%" height={9} aria-hidden="true" preserveAspectRatio="none" viewBox="0 0 100 9">
                      <rect x={0} y={3} width={(100 * left) / most} height={4} fill="var(--bar)" />
                      <rect
                        x={(100 * left) / most}
                        y={3}
                        width={(100 * taken) / most}
                        height={4}
                        fill="var(--damson)"
                        opacity={0.55}
                      />
                    </svg>
                  </td>
                  <td className="w-14 text-right">−{tenths(taken)}</td>
                </tr>
              );
            })}
          </tbody>
        </table>
      )}
      {weighing.networks.map((network) => (
        <p key={network.sites[0]} className="small mt-1">
          {network.sites.length} sites of one owner: {network.signs.join('; ')} ({network.sites.slice(0, 4).join(', ')}
          {network.sites.length > 4 && '…'})
        </p>
      ))}
    </div>
  );
}

export function Referrers({ dossier, now }: { dossier: Dossier; now: number }) {
  const shown = dossier.referrers.slice(0, 25);
  if (shown.length === 0) return null;
  return (
    <Section
      id="referrers"
      title="Referring domains"
      origin={`the strongest ${shown.length} of ${count(dossier.weighing?.referring ?? dossier.referrers.length)}`}
    >
      <Waterfall dossier={dossier} now={now} />
      <table className="w-full table-fixed">
        <thead className="small">
          <tr className="text-left">
            <th className="w-[46%] font-normal">From</th>
            <th className="font-normal">Anchor</th>
            <th className="w-10 text-right font-normal">Pages</th>
            <th className="w-12 text-right font-normal">Vote</th>
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
              <td className="py-1 pr-2">
                <span className="block truncate">{referrer.site}</span>
                <span className="small block">
                  {referrer.firstSeenAt !== null ? `since ${day(referrer.firstSeenAt, now)}` : 'seen by a crawl'}
                  {referrer.discounts?.map(
                    ({ kind, why }) =>
                      `; ${why}${kind === 'unindexed' && referrer.unindexed ? `: ${UNINDEXED_WORDS[referrer.unindexed] ?? referrer.unindexed}` : ''}`,
                  )}
                  {referrer.lookedAt !== null &&
                    (referrer.standing === 'there' ? '; still there' : `; ${referrer.lookNote}`)}
                </span>
              </td>
              <td className="truncate py-1 pr-2">
                <bdi>{referrer.lookAnchor ?? (referrer.anchor || 'no words')}</bdi>
              </td>
              <td className="py-1 text-right">{count(referrer.pages)}</td>
              <td className="py-1 text-right">{(referrer.weight ?? 1).toFixed(2).replace(/\.?0+$/, '')}</td>
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

const ANCHOR_WORDS: Record<AnchorKind, string> = {
  name: 'its name',
  address: 'its address',
  generic: 'words put anywhere',
  subject: 'words of its subject',
  money: 'words that sell',
  'other-script': 'another script',
  other: 'other words',
};
const ANCHORS_SHOWN = 6;

/** Anchor texts by what they are: name, address, words that sell and so on, each with the domains that use it. */
export function Anchors({ dossier }: { dossier: Dossier }) {
  if (dossier.anchors.length === 0) return null;
  const groups = ANCHOR_KINDS.map((kind) => {
    const anchors = dossier.anchors.filter((entry) => entry.kind === kind);
    return { kind, anchors, domains: anchors.reduce((sum, entry) => sum + entry.domains, 0) };
  })
    .filter(({ anchors }) => anchors.length > 0)
    .toSorted((a, b) => b.domains - a.domains);
  return (
    <Section id="anchors" title="Anchor texts" origin="by what they are, and how many domains use them">
      <table className="w-full table-fixed">
        {groups.map(({ kind, anchors, domains }) => (
          <tbody key={kind}>
            <tr className="border-t border-ink">
              <th scope="rowgroup" className="py-1 text-left">
                {ANCHOR_WORDS[kind]}
              </th>
              <td className="w-40 text-right">{plural(domains, 'domain')}</td>
            </tr>
            {anchors.slice(0, ANCHORS_SHOWN).map((entry) => (
              <tr key={entry.anchor} className="border-t border-faint">
                <td className="truncate py-0.5 pr-2 pl-4">
                  <bdi>{entry.anchor || 'no words'}</bdi>
                </td>
                <td className="w-40 text-right">
                  {plural(entry.domains, 'domain')}, {plural(entry.links, 'page')}
                </td>
              </tr>
            ))}
            {anchors.length > ANCHORS_SHOWN && (
              <tr>
                <td className="small pl-4">and {anchors.length - ANCHORS_SHOWN} more</td>
                <td />
              </tr>
            )}
          </tbody>
        ))}
      </table>
    </Section>
  );
}

/** The addresses that were worth linking to. */
export function OldAddresses({ dossier }: { dossier: Dossier }) {
  const { oldAddresses } = dossier;
  if (oldAddresses.length === 0) return null;
  return (
    <Section id="addresses" title="What was worth linking to" origin="its addresses by how many domains link there">
      <table className="w-full table-fixed">
        <tbody>
          {oldAddresses.slice(0, 12).map((entry) => (
            <tr key={entry.url} className="border-t border-rule">
              <td className="truncate py-1 pr-2">{entry.url.replace(/^https?:\/\//, '')}</td>
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
        <p>Too little is known to judge it.</p>
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
