import { fixed } from '../../../core/formats/figures';
import type { ListFigure } from '../../../core/formats/list-figures';
import { FACTS } from '../../../core/pool/facts';
import { figure as wordedFigure } from '../../../core/wording/figures';
import { ago, count, day, linksOrigin, money, score } from '../../../core/wording/format';
import type { Dossier } from '../../../services/dossier/dossier';
import { MeasureNow } from '../../../ui/dossier/measure-now';
import { Pair } from '../../../ui/lifeline';
import Link from '../../../ui/link';
import { NUMBER, PlainTable, plainColumnsFor } from '../../../ui/parts/plain-table';
import { Line, Section } from './section';

const KIND_WORDS: Record<string, string> = { crawl: 'a crawl', list: 'a list says so', links: 'an index' };

export function Links({ dossier, now }: { dossier: Dossier; now: number }) {
  const { measurement } = dossier;
  return (
    <Section id="figures" title="Figures" origin={linksOrigin(dossier, now)}>
      {dossier.referringDomains === null ? (
        <p>
          No link to it is known.{' '}
          <Link href="/sources?add=links" className="set">
            Import a link index
          </Link>
          , or{' '}
          <Link href="/sources?add=crawl" className="set">
            crawl a site that links to it
          </Link>
          .
        </p>
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
              {fixed(dossier.trust / dossier.strength, 2)}
              {dossier.spamMass !== null && `, spam mass ${fixed(dossier.spamMass, 2)}`}
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
        </dl>
      )}
      <Counts dossier={dossier} now={now} />
      <Stated dossier={dossier} now={now} />
    </Section>
  );
}

/** Figures that lists state beside links; whose counts, and which is not. */
function Stated({ dossier, now }: { dossier: Dossier; now: number }) {
  const stated = dossier.statements.filter(({ figure }) => !COUNTED.has(figure));
  if (stated.length === 0) return null;
  return (
    <dl className="mt-3" aria-label="Stated by lists">
      {stated.map(({ figure, name, by: [best, ...others] }) => (
        <Line key={figure} label={name ?? FACTS[figure].label}>
          {statedValue(figure, best)}{' '}
          <span className="small">
            <Link className="hover:underline" href={`/sources/${best.sourceId}`}>
              {best.source}
            </Link>
            , read {ago(best.at, now)}
            {others
              .map((other) => `; ${statedValue(figure, other)} in ${other.source}, ${ago(other.at, now)}`)
              .join('')}
          </span>
        </Line>
      ))}
    </dl>
  );
}
/** They stand among the counts. */
const COUNTED: ReadonlySet<ListFigure> = new Set(['listReferringDomains', 'listBacklinks']);
const statedValue = (figure: ListFigure, { value, currency }: { value: number; currency: string | null }) =>
  figure === 'listCpc' ? money(value, currency) : wordedFigure(figure, value);

/** Whether it sends its visitors on, and what its strength is without what it borrows. */
function Forwarding({ dossier, now }: { dossier: Dossier; now: number }) {
  const { forwarding, front, frontAt } = dossier;
  if (!forwarding)
    return frontAt === null ? (
      <Line label="Forwards">
        not asked yet{' '}
        <MeasureNow name={dossier.name} id={dossier.id} what="measure">
          measure it now
        </MeasureNow>
      </Line>
    ) : (
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

const column = plainColumnsFor<Dossier['counts'][number]>();

/** Each source's own count, side by side, and where they disagree. */
function Counts({ dossier, now }: { dossier: Dossier; now: number }) {
  const { counts, disagreement, countFrom } = dossier;
  if (counts.length === 0) return null;
  const isSummed = dossier.referringDomains !== null;
  return (
    <>
      <PlainTable
        label="Counts by source"
        className="mt-2"
        rows={counts}
        rowId={({ sourceId, kind }) => `${sourceId} ${kind}`}
        columns={[
          {
            ...column('Counted by', (source) => (
              <>
                <Link className="hover:underline" href={`/sources/${source.sourceId}`}>
                  {source.source}
                </Link>
                <span className="small block">
                  {KIND_WORDS[source.kind] ?? source.kind}, {day(source.at, now)}
                  {source.source === countFrom && '; this figure is sorted by'}
                </span>
              </>
            )),
            ...(isSummed && {
              footer: () => (
                <>
                  In the grid <span className="small font-normal">{countFrom ?? 'all together'}</span>
                </>
              ),
            }),
          },
          {
            ...column('Domains', ({ referringDomains }) => count(referringDomains), NUMBER),
            ...(isSummed && { footer: () => count(dossier.referringDomains) }),
          },
          {
            ...column('Pages', ({ backlinks }) => count(backlinks), NUMBER),
            ...(isSummed && { footer: () => count(dossier.backlinks) }),
          },
          column('Nofollow', ({ nofollow }) => count(nofollow), NUMBER),
          column('Knows links', ({ coverage }) => count(coverage), NUMBER),
        ]}
      />
      {disagreement && (
        <p className="mt-1.5 bg-quince px-2 py-1" role="note">
          {disagreement.most} counts {disagreement.factor} times the domains of {disagreement.least}. Likely:{' '}
          {disagreement.causes.join('; ')}.
        </p>
      )}
    </>
  );
}
