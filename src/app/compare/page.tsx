import type { Metadata } from 'next';
import type { ReactNode } from 'react';
import type { ComparedFact } from '../../core/verdict/compare';
import { plural, yearOf } from '../../core/wording/format';
import { type Comparison, compareDomains, MOST_COMPARED } from '../../services/comparison/comparison';
import { CompareField, OnlyDifferences } from '../../ui/compare/controls';
import { FitAndWorth } from '../../ui/decision/figures';
import { Drawing } from '../../ui/life/drawing';
import { drawLife, drawLook, LOOK_WORDS } from '../../ui/life/shapes';
import { lifeWords } from '../../ui/lifeline';
import Link from '../../ui/link';
import { Measure } from '../../ui/parts/explained';
import { PlainTable, plainColumnsFor } from '../../ui/parts/plain-table';
import { verdictLine } from '../../ui/verdict';
import { parametersOf, type SearchParams } from '../search-params';
import { currentBrief } from '../server';
import { comparedNames, namesOfIds } from './names';

export const metadata: Metadata = { title: 'Compare' };

/** Up to four domains side by side. The address holds which, and whether only what differs is shown. */
export default async function ComparePage({ searchParams }: { searchParams: SearchParams }) {
  const { store, brief } = await currentBrief();
  const asked = await parametersOf(searchParams);
  const { names, problems } = comparedNames([...asked.getAll('name'), ...namesOfIds(store, asked.getAll('id'))]);
  const comparison = await compareDomains(store, names, brief.id);
  const isOnlyDifferent = asked.get('only') === 'differences';
  const now = store.now();
  const { domains } = comparison;
  const told = [...problems, ...comparison.missing.map((name) => `No source has named ${name} yet.`)];
  return (
    <div className="mx-auto max-w-[1232px] px-6 pt-5 pb-12 min-[1700px]:max-w-[1780px]">
      <div className="flex flex-wrap items-baseline gap-5">
        <h1>Side by side</h1>
        {domains.length > 1 && <OnlyDifferences isOn={isOnlyDifferent} />}
        <CompareField names={names} most={MOST_COMPARED} />
      </div>
      {told.length > 0 && (
        <p role="alert" className="mt-2 bg-quince px-2 py-1">
          {told.join(' ')}
        </p>
      )}
      {domains.length === 0 ? (
        <p className="mt-3 max-w-prose">
          Name two to four domains, select them in the pool and choose Compare, or tick them on the shortlist.
        </p>
      ) : (
        <SideBySide comparison={comparison} isOnlyDifferent={isOnlyDifferent} now={now} />
      )}
    </div>
  );
}

const REASONS_SHOWN = 3;
const WORDS_SHOWN = 5;

/** One thing that is told of each of them. */
interface Told {
  title: string;
  group: string | null;
  fact?: ComparedFact;
  /** What is said of each, in their order; of a fact its value is said. */
  said?: readonly ReactNode[];
}
const column = plainColumnsFor<Told>();

function SideBySide({
  comparison,
  isOnlyDifferent,
  now,
}: {
  comparison: Comparison;
  isOnlyDifferent: boolean;
  now: number;
}) {
  const { domains, facts, shared } = comparison;
  const wanted = isOnlyDifferent ? facts.filter(({ differs }) => differs) : facts;
  const from = Math.min(...domains.map(({ life }) => life.from));
  const to = Math.max(...domains.map(({ life }) => life.to));
  const looks = LOOK_WORDS.filter(([look]) =>
    domains.some(({ life }) => life.spans.some((span) => span.look === look)),
  );
  const wide = Math.floor(1000 / domains.length) - 16;
  const rows: Told[] = [
    { title: 'In a sentence', group: null, said: domains.map((one) => verdictLine(one, now)) },
    {
      title: `Life, ${yearOf(from)} to ${yearOf(to)}`,
      group: null,
      said: domains.map((one) => (
        <Drawing
          key={one.name}
          drawing={drawLife({ life: one.life, links: [], from, to, width: wide, isSmall: true })}
          label={lifeWords(one, now)}
        />
      )),
    },
    {
      title: 'Fit and worth',
      group: null,
      said: domains.map(({ name }) => (
        <FitAndWorth key={name} name={name} names={domains.map((one) => one.name)} width={Math.min(wide, 260)} />
      )),
    },
    { title: 'Speaks for it', group: null, said: domains.map(({ name, reasons }) => reasonList(name, reasons.for)) },
    {
      title: 'Speaks against it',
      group: null,
      said: domains.map(({ name, reasons }) => reasonList(name, reasons.against)),
    },
    ...wanted.map((fact) => ({ title: fact.title, group: fact.group, fact })),
    ...(domains.length > 1
      ? [
          {
            title: 'Link to no other of these',
            group: 'Referrers',
            said: shared.alone.map((many) => plural(many, 'domain')),
          },
        ]
      : []),
    {
      title: 'Anchor texts',
      group: 'Words of links',
      said: domains.map(({ name, anchors }) => (
        <span key={name}>
          {anchors.slice(0, WORDS_SHOWN).map(({ anchor, domains: many }) => (
            <span key={anchor} className="block truncate">
              <bdi>{anchor || 'no words'}</bdi> <span className="small">{many}</span>
            </span>
          ))}
        </span>
      )),
    },
  ];
  return (
    <>
      <PlainTable
        label="Side by side"
        className="mt-3 table-fixed"
        rows={rows}
        rowId={({ title, group }) => `${group} ${title}`}
        rowProps={({ fact }) => ({ 'data-differs': fact?.differs ? 'true' : undefined })}
        groupOf={({ group }) => group}
        columns={[
          column('What', (told) => <Title {...told} />, { isHead: true, isUntitled: true, className: 'w-52' }),
          ...domains.map(({ name, display }, n) =>
            column(
              name,
              ({ fact, said }) => (fact ? <Value fact={fact} at={n} /> : said?.[n]),
              { className: 'break-words' },
              <Link
                href={`/domains/${name}`}
                className="font-serif text-title leading-tight font-semibold break-all text-ink hover:underline"
              >
                {display}
              </Link>,
            ),
          ),
        ]}
        last={
          domains.length < 2 ? undefined : (
            <>
              Link to all of them: {plural(shared.all, 'domain')}
              {shared.strongest.length > 0 && ` (${shared.strongest.join(', ')})`}
            </>
          )
        }
      />
      <p className="small mt-3 flex flex-wrap gap-x-4 gap-y-1">
        <span>
          <strong className="text-ink">≠</strong> what is known differs
        </span>
        <span>
          <span className="font-semibold text-ink underline">underlined</span> the best of the row, where one way is
          better
        </span>
        {looks.map(([look, words]) => (
          <span key={look} className="flex items-center gap-1.5">
            <Drawing drawing={drawLook(look)} label="" className="shrink-0" />
            {words}
          </span>
        ))}
      </p>
    </>
  );
}

function reasonList(name: string, reasons: readonly { words: string }[]) {
  return (
    <span key={name}>
      {reasons.length === 0 && <span className="small">nothing that is known</span>}
      {reasons.slice(0, REASONS_SHOWN).map(({ words }) => (
        <span key={words} className="block">
          {words}
        </span>
      ))}
    </span>
  );
}

function Title({ title, fact }: Told) {
  if (!fact) return <span className="text-muted">{title}</span>;
  return (
    <>
      <span className={fact.differs ? '' : 'text-muted'}>
        {fact.measure ? <Measure fact={fact.measure}>{title}</Measure> : title}
      </span>
      {fact.differs && (
        <>
          <span aria-hidden="true" className="ml-1.5 font-semibold">
            ≠
          </span>
          <span className="sr-only"> differs</span>
        </>
      )}
    </>
  );
}

function Value({ fact, at }: { fact: ComparedFact; at: number }) {
  const value = fact.shown[at];
  if (value === null) return <span className="small">not known</span>;
  return (
    <span className={fact.best === at ? 'font-semibold underline' : fact.differs ? '' : 'text-muted'}>
      <bdi>{value}</bdi>
      {fact.best === at && <span className="sr-only"> (best)</span>}
    </span>
  );
}
