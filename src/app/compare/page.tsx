import type { Metadata } from 'next';
import type { Life } from '../../core/history/life';
import type { ComparedFact } from '../../core/verdict/compare';
import { plural } from '../../core/wording/format';
import { type Comparison, compareDomains, MOST_COMPARED } from '../../services/comparison/comparison';
import { CompareField, OnlyDifferences } from '../../ui/compare/controls';
import { FitAndWorth } from '../../ui/decision/figures';
import { Drawing } from '../../ui/life/drawing';
import { drawLife, drawLook, LOOK_WORDS } from '../../ui/life/shapes';
import { lifeWords } from '../../ui/lifeline';
import Link from '../../ui/link';
import { Measure } from '../../ui/parts/explained';
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
        <Table comparison={comparison} isOnlyDifferent={isOnlyDifferent} now={now} />
      )}
    </div>
  );
}

const REASONS_SHOWN = 3;
const WORDS_SHOWN = 5;

function Table({
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
  const groups = [...new Set(wanted.map(({ group }) => group))];
  const from = Math.min(...domains.map(({ life }) => life.from));
  const to = Math.max(...domains.map(({ life }) => life.to));
  const looks = LOOK_WORDS.filter(([look]) =>
    domains.some(({ life }) => life.spans.some((span) => span.look === look)),
  );
  const wide = Math.floor(1000 / domains.length) - 16;
  return (
    <>
      <table className="mt-3 w-full table-fixed" aria-label="Side by side">
        <thead>
          <tr className="align-bottom">
            <td className="w-44" />
            {domains.map(({ name, display }) => (
              <th key={name} scope="col" className="pr-4 pb-1 text-left">
                <Link
                  href={`/domains/${name}`}
                  className="font-serif text-title leading-tight break-all hover:underline"
                >
                  {display}
                </Link>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          <Row title="In a sentence">{domains.map((one) => verdictLine(one, now))}</Row>
          <Row title={`Life, ${year(from)} to ${year(to)}`}>
            {domains.map((one) => (
              <Strip key={one.name} life={one.life} from={from} to={to} width={wide} words={lifeWords(one, now)} />
            ))}
          </Row>
          <Row title="Fit and worth">
            {domains.map(({ name }) => (
              <FitAndWorth key={name} name={name} names={domains.map((one) => one.name)} width={Math.min(wide, 260)} />
            ))}
          </Row>
          <Row title="Speaks for it">{domains.map(({ name, reasons }) => reasonList(name, reasons.for))}</Row>
          <Row title="Speaks against it">{domains.map(({ name, reasons }) => reasonList(name, reasons.against))}</Row>
        </tbody>
        {groups.map((group) => (
          <tbody key={group}>
            <tr>
              <th
                scope="rowgroup"
                colSpan={domains.length + 1}
                className="border-b border-ink pt-4 text-left font-semibold"
              >
                {group}
              </th>
            </tr>
            {wanted
              .filter((fact) => fact.group === group)
              .map((fact) => (
                <FactRow key={fact.title} fact={fact} names={domains.map(({ name }) => name)} />
              ))}
          </tbody>
        ))}
        {domains.length > 1 && (
          <tbody>
            <tr>
              <th
                scope="rowgroup"
                colSpan={domains.length + 1}
                className="border-b border-ink pt-4 text-left font-semibold"
              >
                Referrers
              </th>
            </tr>
            <Row title="Link to no other of these">{shared.alone.map((many) => plural(many, 'domain'))}</Row>
            <tr className="border-t border-faint align-top">
              <th scope="row" className="py-1 pr-3 text-left font-normal text-muted">
                Link to all of them
              </th>
              <td colSpan={domains.length} className="py-1">
                {plural(shared.all, 'domain')}
                {shared.strongest.length > 0 && <span className="small"> {shared.strongest.join(', ')}</span>}
              </td>
            </tr>
          </tbody>
        )}
        <tbody>
          <Row title="Anchor texts">
            {domains.map(({ name, anchors }) => (
              <span key={name}>
                {anchors.slice(0, WORDS_SHOWN).map(({ anchor, domains: many }) => (
                  <span key={anchor} className="block truncate">
                    <bdi>{anchor || 'no words'}</bdi> <span className="small">{many}</span>
                  </span>
                ))}
              </span>
            ))}
          </Row>
        </tbody>
      </table>
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

const year = (at: number) => new Date(at).getUTCFullYear();

function Strip({
  life,
  from,
  to,
  width,
  words,
}: {
  life: Life;
  from: number;
  to: number;
  width: number;
  words: string;
}) {
  return <Drawing drawing={drawLife({ life, links: [], from, to, width, isSmall: true })} label={words} />;
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

function Row({ title, children }: { title: string; children: readonly React.ReactNode[] }) {
  return (
    <tr className="border-t border-faint align-top">
      <th scope="row" className="py-1 pr-3 text-left font-normal text-muted">
        {title}
      </th>
      {children.map((child, n) => (
        <td key={n} className="min-w-0 py-1 pr-4 break-words">
          {child}
        </td>
      ))}
    </tr>
  );
}

function FactRow({ fact, names }: { fact: ComparedFact; names: string[] }) {
  return (
    <tr className="border-t border-faint align-top" data-differs={fact.differs || undefined}>
      <th scope="row" className="py-0.5 pr-3 text-left font-normal">
        <span className={fact.differs ? '' : 'text-muted'}>
          {fact.measure ? <Measure fact={fact.measure}>{fact.title}</Measure> : fact.title}
        </span>
        {fact.differs && (
          <>
            <span aria-hidden="true" className="ml-1.5 font-semibold">
              ≠
            </span>
            <span className="sr-only"> differs</span>
          </>
        )}
      </th>
      {fact.shown.map((value, n) => (
        <td key={names[n]} className="py-0.5 pr-4 break-words">
          {value === null ? (
            <span className="small">not known</span>
          ) : (
            <span className={fact.best === n ? 'font-semibold underline' : fact.differs ? '' : 'text-muted'}>
              <bdi>{value}</bdi>
              {fact.best === n && <span className="sr-only"> (best)</span>}
            </span>
          )}
        </td>
      ))}
    </tr>
  );
}
