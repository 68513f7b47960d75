import { utc } from '@date-fns/utc';
import { getQuarter } from 'date-fns';
import type { TableView } from '../../../contracts/dossier';
import { tenths } from '../../../core/formats/figures';
import { DISCOUNTS, type DiscountKind } from '../../../core/links/effective';
import type { ReferrerGroup } from '../../../core/links/profile';
import { ago, count, plural, yearOf } from '../../../core/wording/format';
import type { Dossier } from '../../../services/dossier/dossier';
import { BarsSlot } from '../../../ui/dossier/bars-slot';
import { EvidenceTable } from '../../../ui/dossier/evidence-table';
import { NUMBER, PlainTable, plainColumnsFor } from '../../../ui/parts/plain-table';
import { Section } from './section';

const DISCOUNT_WORDS: Record<DiscountKind, string> = {
  gone: 'links that are gone',
  nofollow: 'all links nofollow',
  unindexed: 'on pages out of the index',
  network: 'sites of one owner',
  blanket: 'link to everything that lapses',
};

interface DiscountStep {
  words: string;
  /** Domains that it takes, and those that are left after it. */
  taken: number;
  left: number;
}
const ofStep = plainColumnsFor<DiscountStep>();

/** From linking pages to effective referrers, each step with what it takes. */
export function Waterfall({ dossier, now }: { dossier: Dossier; now: number }) {
  const { weighing } = dossier;
  if (!weighing) return null;
  const most = Math.max(1, weighing.referring);
  const steps: DiscountStep[] = [];
  for (const kind of DISCOUNTS) {
    const taken = weighing.taken[kind];
    if (taken > 0.05)
      steps.push({ words: DISCOUNT_WORDS[kind], taken, left: (steps.at(-1)?.left ?? weighing.referring) - taken });
  }
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
        <PlainTable
          label="Discounts"
          isHeadless
          className="mt-1"
          rows={steps}
          rowId={({ words }) => words}
          columns={[
            ofStep('Discount', ({ words }) => words, { className: 'w-56' }),
            ofStep('What is left', ({ left, taken }) => (
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
            )),
            ofStep('Domains', ({ taken }) => `−${tenths(taken)}`, { isNumber: true, className: 'w-14' }),
          ]}
        />
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

const REFERRER_COLUMNS = [
  ['site', '32%'],
  ['anchor', '20%'],
  ['pages', '5%'],
  ['vote', '5%'],
  ['strength', '7%'],
  ['trust', '6%'],
  ['language', '8%'],
  ['since', '9%'],
  ['lost', '8%'],
] as const;

export function Referrers({ dossier, first }: { dossier: Dossier; first: TableView }) {
  return (
    <Section id="referrers" title="Referring domains" origin="the strongest first, each with what it counts and why">
      <EvidenceTable
        domain={dossier.name}
        table="referrers"
        label="Referring domains"
        first={first}
        shown={REFERRER_COLUMNS}
      />
    </Section>
  );
}

/** How strong the referring domains are, when they came and went, and where they are from. */
export function Profile({ dossier }: { dossier: Dossier }) {
  const { strength, spans, endings, countries, languages } = dossier.profile;
  if (dossier.referrers.length === 0) return null;
  const steps = strength.map(({ from, to }) => (from === null ? 'not measured' : `${from} to ${to}`));
  const quarter = (at: number) => `${yearOf(at)} Q${getQuarter(utc(at))}`;
  return (
    <>
      <Section id="by-strength" title="Referring domains by strength" origin="all hollow, what counts of them filled">
        <BarsSlot
          labels={steps}
          series={[
            { label: 'effective', values: strength.map(({ votes }) => Math.round(votes * 10) / 10) },
            { label: 'domains', values: strength.map(({ domains }) => domains), isHollow: true },
          ]}
          words="Referring domains by strength; the table below has the figures"
        />
        <p className="small">
          Ten points are a factor of four wherever they lie, so this axis is logarithmic: a referrer at 40 has sixteen
          times the PageRank of one at 20.
        </p>
        <FiguresTable
          label="Referring domains by strength"
          titles={['Strength', 'Domains', 'Votes left']}
          rows={strength.map(({ domains, votes }, n) => [steps[n], count(domains), tenths(votes)])}
        />
      </Section>
      <Section
        id="came-and-went"
        title="Links gained and lost"
        origin="referring domains by quarter; gained filled, lost hollow"
      >
        {spans.length === 0 ? (
          <p className="small">No source says when its links were first seen.</p>
        ) : (
          <>
            <BarsSlot
              labels={spans.map(({ from }) => quarter(from))}
              series={[
                { label: 'gained', values: spans.map(({ gained }) => gained) },
                { label: 'lost', values: spans.map(({ lost }) => -lost), isHollow: true },
              ]}
              words="Referring domains gained and lost by quarter; the table below has the figures"
            />
            <FiguresTable
              label="Links gained and lost"
              titles={['Quarter', 'Gained', 'Lost']}
              rows={spans
                .filter(({ gained, lost }) => gained + lost > 0)
                .map(({ from, gained, lost }) => [quarter(from), count(gained), count(lost)])}
            />
          </>
        )}
      </Section>
      <Section id="from-where" title="Where they are from" origin="country by TLD, language as read">
        <div className="grid grid-cols-1 lg:grid-cols-3 gap-x-5">
          <Groups title="TLD" groups={endings} />
          <Groups title="Country" groups={countries} />
          <Groups title="Language" groups={languages} />
        </div>
      </Section>
    </>
  );
}

const GROUPS_SHOWN = 7;
const ofGroup = plainColumnsFor<ReferrerGroup>();

function Groups({ title, groups }: { title: string; groups: readonly ReferrerGroup[] }) {
  const most = Math.max(1, ...groups.map(({ domains }) => domains));
  const rest = groups.slice(GROUPS_SHOWN);
  return (
    <PlainTable
      label={`Referring domains by ${title === 'TLD' ? title : title.toLowerCase()}`}
      className="table-fixed self-start"
      rows={groups.slice(0, GROUPS_SHOWN)}
      rowId={({ key }) => key}
      columns={[
        {
          ...ofGroup(title, ({ title: name, domains }) => (
            <span className="block truncate" title={name}>
              {name}
              <svg
                width="100%"
                height={3}
                aria-hidden="true"
                preserveAspectRatio="none"
                viewBox="0 0 100 3"
                className="block"
              >
                <rect width={(100 * domains) / most} height={3} fill="var(--bar)" />
              </svg>
            </span>
          )),
          ...(rest.length > 0 && { footer: plural(rest.length, 'other') }),
        },
        {
          ...ofGroup('Domains', ({ domains }) => count(domains), { isNumber: true, className: 'w-[4.75rem]' }),
          ...(rest.length > 0 && { footer: count(rest.reduce((sum, { domains }) => sum + domains, 0)) }),
        },
      ]}
    />
  );
}

const ofFigures = plainColumnsFor<string[]>();

/** The figures of a chart. */
function FiguresTable({ label, titles, rows }: { label: string; titles: string[]; rows: string[][] }) {
  return (
    <details className="small">
      <summary>As a table</summary>
      <PlainTable
        label={label}
        rows={rows}
        rowId={([first]) => first}
        columns={titles.map((title, n) => ofFigures(title, (cells) => cells[n], n === 0 ? {} : NUMBER))}
      />
    </details>
  );
}
