import type { Metadata } from 'next';
import { displayName, registrableDomain } from '../../../core/names/domain';
import {
  ago,
  askedPrice,
  count,
  duration,
  linksOrigin,
  offerTitle,
  pastOrigin,
  phaseOrigin,
  phaseWords,
  plural,
} from '../../../core/wording/format';
import { spamOrigin, spamText } from '../../../core/wording/spam-words';
import { type Dossier, readDossier } from '../../../services/dossier/dossier';
import { siblingsOf } from '../../../services/dossier/siblings';
import { EVIDENCE_TABLES, type EvidenceTable as TableName, tableOf } from '../../../services/dossier/tables';
import { fitFor } from '../../../services/fit/fit';
import type { Store } from '../../../store/base/database';
import { readPagesOf } from '../../../store/crawl/pages';
import { type DomainRow, findDomain } from '../../../store/domains/domains';
import { holdingOf } from '../../../store/portfolio/holdings';
import { rankingsOf } from '../../../store/portfolio/rankings';
import { DossierActions } from '../../../ui/dossier/actions';
import { DecisionStrip, type StripFact } from '../../../ui/dossier/decision-strip';
import { Diligence } from '../../../ui/dossier/diligence';
import { EvidenceTable } from '../../../ui/dossier/evidence-table';
import { Notes } from '../../../ui/dossier/notes';
import { SectionNav } from '../../../ui/dossier/sections';
import { SimilarNames } from '../../../ui/dossier/similar';
import { LifeChart } from '../../../ui/life/life-chart';
import { lifeWords } from '../../../ui/lifeline';
import { RefreshOnJobs } from '../../../ui/sources/refresh';
import { verdictLine } from '../../../ui/verdict';
import { currentBrief } from '../../server';
import { Anchors } from './anchors';
import { Fit } from './fit';
import { Ahead, Checks, Phase, Record } from './life';
import { Links } from './links';
import { Listings } from './listings';
import { Name, WordMarks } from './name';
import { Captures, Past, Subject } from './past';
import { Readers } from './readers';
import { Profile, Referrers, Waterfall } from './referrers';
import { Columns, Part, Section } from './section';
import { Sightings } from './sightings';
import { Spam } from './spam';
import { Uses } from './uses';

type Props = { params: Promise<{ name: string }> };

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  return { title: displayName(decodeURIComponent((await params).name)).slice(0, 80) };
}

/** All evidence on one domain. */
export default async function DossierPage({ params }: Props) {
  const { store, engine, brief } = await currentBrief();
  const asked = decodeURIComponent((await params).name);
  const domain = registrableDomain(asked);
  const dossier = domain && (await readDossier(store, domain.name, brief.id));
  if (!dossier) return <Unknown asked={asked} isDomain={domain !== null} />;
  const now = store.now();
  // the engine splits names; while it starts, the page does without
  const reading = await engine.readName(dossier.name, dossier.ending).catch(() => null);
  const row = findDomain(store, dossier.name);
  const fit = row && (await fitFor(engine, row, brief));
  const tables = firstRows(store, row);
  return (
    <div className="mx-auto max-w-[1180px] px-6 pt-5 pb-12 min-[1700px]:max-w-[1780px]">
      <RefreshOnJobs />
      <div id="top" tabIndex={-1} className="flex flex-col items-start gap-x-6 gap-y-3 outline-none lg:flex-row">
        <div className="min-w-0 flex-1">
          <h1 className="text-figure leading-tight break-all">{dossier.display}</h1>
          <p className="mt-1">{verdictLine(dossier, now)}</p>
          {dossier.display !== dossier.name && <p className="small break-all">in DNS: {dossier.name}</p>}
          <Uses name={dossier.name} holding={holdingOf(store, dossier.id)} now={now} />
        </div>
        <DossierActions
          id={dossier.id}
          name={dossier.name}
          isWatched={dossier.watched === 'by hand'}
          briefId={brief.id}
          briefName={brief.name}
          shortlisted={dossier.shortlisted}
          judged={dossier.judged}
          judgedReason={dossier.judgedReason}
          judgedAt={dossier.judgedAt}
          judgedBy={dossier.judgedBy}
        />
      </div>
      <DecisionStrip name={dossier.name} facts={stripOf(dossier, now)} />
      <LifeChart life={dossier.life} links={dossier.profile.spans} words={lifeWords(dossier, now)} />
      <ForAndAgainst dossier={dossier} />
      <SectionNav />
      <div className="mt-4">
        <Diligence name={dossier.name} points={dossier.diligence} />
      </div>
      {fit && <Fit fit={fit} briefName={brief.name} />}
      <Part id="links" title="Links" origin={plural(dossier.referringDomains ?? 0, 'referring domain')}>
        <Columns>
          <Links dossier={dossier} now={now} />
          <Section id="votes" title="What counts of them">
            {dossier.weighing ? (
              <Waterfall dossier={dossier} now={now} />
            ) : (
              <p className="small">Not weighed yet: no link to it is known.</p>
            )}
          </Section>
          <Profile dossier={dossier} />
          <Spam dossier={dossier} now={now} />
        </Columns>
        {dossier.referrers.length > 0 && (
          <div className="mt-6">
            <Referrers dossier={dossier} first={tables.referrers} />
          </div>
        )}
      </Part>
      <Part id="anchors" title="Anchor texts" origin="the words with which it is linked">
        <Anchors dossier={dossier} anchors={tables.anchors} addresses={tables.addresses} />
      </Part>
      <Part id="past" title="History" origin={pastOrigin(dossier, now)}>
        <Columns>
          <Past dossier={dossier} now={now} />
          <Subject dossier={dossier} />
        </Columns>
        <div className="mt-6">
          <Captures dossier={dossier} first={tables.captures} />
        </div>
      </Part>
      <Part id="record" title="Registration data" origin={phaseOrigin(dossier, now)}>
        <Columns>
          <Phase dossier={dossier} now={now} />
          <Record dossier={dossier} now={now} />
        </Columns>
        <Ahead dossier={dossier} now={now} />
      </Part>
      <Part id="name" title="Name">
        <Columns>
          {reading && (
            <Name
              name={dossier.name}
              reading={reading}
              siblings={siblingsOf(store, dossier.name, dossier.ending, reading.twin)}
              now={now}
            />
          )}
          <WordMarks dossier={dossier} now={now} />
          <Section id="similar" title="Similar names in the pool">
            <SimilarNames name={dossier.name} />
          </Section>
        </Columns>
      </Part>
      <Part id="readers" title="Mentions and keywords" origin="estimates, of others">
        <Readers
          dossier={dossier}
          pages={readPagesOf(store, dossier.id, READ_PAGES)}
          rankings={rankingsOf(store, dossier.id)}
          now={now}
        />
      </Part>
      <Part
        id="listings"
        title="Listings"
        origin={plural(dossier.listings.filter(({ isOpen }) => isOpen).length, 'open offer')}
      >
        <Listings dossier={dossier} now={now} />
      </Part>
      <Part id="checks" title="Checks" origin="what servers answered">
        <Checks dossier={dossier} first={tables.checks} />
      </Part>
      <Part id="notes" title="Notes and history">
        <Columns>
          <Notes name={dossier.name} notes={dossier.notes} />
          <Sightings dossier={dossier} now={now} />
        </Columns>
        <div className="mt-6">
          <Section id="history" title="Who said what" origin="and what every fact was before it changed">
            <EvidenceTable
              domain={dossier.name}
              table="history"
              label="History"
              first={tables.history}
              shown={HISTORY_COLUMNS}
              isTimeExact
            />
          </Section>
        </div>
      </Part>
    </div>
  );
}

/** What a decision goes by beside fit and worth, each with its source and age. */
function stripOf(dossier: Dossier, now: number): StripFact[] {
  const { registeredAt, referringDomains, subject } = dossier;
  return [
    { fact: 'phase', label: 'Status', value: phaseWords(dossier, now), origin: phaseOrigin(dossier, now) },
    { fact: 'price', label: 'Price', value: askedPrice(dossier), origin: offerTitle(dossier) },
    { fact: 'spamRisk', label: 'Spam risk', value: spamText(dossier), origin: spamOrigin(dossier, now) },
    {
      fact: 'referringDomains',
      label: 'Referring domains',
      value: count(referringDomains),
      origin: linksOrigin(dossier, now),
    },
    {
      fact: 'age',
      label: 'Age',
      value: registeredAt === null ? '' : duration(now - registeredAt),
      origin: `registration data read ${ago(dossier.recordAt, now)}`,
    },
    { fact: 'subject', label: 'Subject', value: subject ?? '', origin: pastOrigin(dossier, now) },
  ];
}

const READ_PAGES = 20;
const HISTORY_COLUMNS = [
  ['at', '14%'],
  ['what', '16%'],
  ['was', '20%'],
  ['becomes', '32%'],
  ['who', '18%'],
] as const;
const FIRST_ROWS: Record<TableName, number> = {
  referrers: 15,
  anchors: 10,
  addresses: 8,
  captures: 12,
  checks: 8,
  history: 12,
};

/** What stands of each table when the page comes; the rest is loaded when somebody looks. */
function firstRows(store: Store, row: DomainRow | null): Record<TableName, ReturnType<typeof tableOf>> {
  const none = { columns: [], rows: [], found: 0, total: 0 };
  return Object.fromEntries(
    EVIDENCE_TABLES.map((table) => [
      table,
      row
        ? tableOf(store, row, table, { sort: null, descending: false, filter: '', offset: 0, limit: FIRST_ROWS[table] })
        : none,
    ]),
  ) as Record<TableName, ReturnType<typeof tableOf>>;
}

function Unknown({ asked, isDomain }: { asked: string; isDomain: boolean }) {
  return (
    <div className="mx-auto max-w-2xl px-6 py-10">
      <h1 className="break-all">{asked.slice(0, 255)}</h1>
      <p className="mt-2">
        {isDomain
          ? 'No source has named this domain yet, so nothing is known of it.'
          : 'This is no registrable domain.'}{' '}
        Load it with a list, or crawl a site that links to it.
      </p>
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
    <section aria-label="For and against" className="mt-3 grid grid-cols-1 lg:grid-cols-[1fr_1fr_240px] gap-x-12">
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
