import Link from 'next/link';
import { ago, count, day, linksOrigin, plural, score } from '../../../ui/format';
import { Pair } from '../../../ui/lifeline';
import type { Dossier } from '../../dossier';
import { Line, Section } from './section';

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

/** What keeps a linking page out of a search engine's index, so that its link is no vote. */
const UNINDEXED_WORDS: Record<string, string> = {
  noindex: 'the page asks not to be indexed',
  canonical: 'the page names another as its canonical',
  copy: 'the page is a copy of another',
  'not-content': 'the page is no content',
};

export function Referrers({ dossier, now }: { dossier: Dossier; now: number }) {
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

export function Anchors({ dossier }: { dossier: Dossier }) {
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

export function Spam({ dossier, now }: { dossier: Dossier; now: number }) {
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
