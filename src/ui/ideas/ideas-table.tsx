'use client';

import type { IdeaView } from '../../contracts/ideas';
import { fixed } from '../../core/formats/figures';
import { IDEA_PARTS, IDEA_TITLES } from '../../core/ideas/score';
import { ago, money } from '../../core/wording/format';
import { statusWords } from '../../core/wording/status';
import { FIT_EXPLAINED } from '../decision/explained-words';
import { shortFit } from '../fit-line';
import Link from '../link';
import { columnsFor } from '../parts/columns';
import { Table } from '../parts/table';
import { useNow } from '../shell/live';

const column = columnsFor<IdeaView>();

interface Ticks {
  ticked: ReadonlySet<string>;
  onTick(name: string, isTicked: boolean): void;
}

const columnsOf = (currency: string, ticks: Ticks, now: number) => [
  column.accessor('label', {
    header: 'Name, of',
    meta: { className: 'align-top' },
    cell: ({ row: { original: idea } }) => (
      <>
        <span className="font-semibold wrap-anywhere">{idea.label}</span>{' '}
        <span className="small">{idea.words.join(' ')}</span>
        {idea.readsAs && <span className="block">reads as “{idea.readsAs}”</span>}
        {idea.mark && <span className="block">like the trademark {idea.mark}</span>}
      </>
    ),
  }),
  column.accessor('score', {
    header: 'Judged',
    meta: { className: 'align-top' },
    sortDescFirst: true,
    cell: ({ row: { original } }) => <PartBars idea={original} />,
  }),
  column.accessor(({ fit }) => fit.score ?? undefined, {
    id: 'fit',
    header: 'Fit',
    meta: { isNumber: true, className: 'align-top pr-4 whitespace-nowrap', about: FIT_EXPLAINED.what },
    sortDescFirst: true,
    sortUndefined: 'last',
    cell: ({ row: { original: idea } }) => (
      <span
        title={`of its name alone; with links and a past between ${Math.round(idea.fit.least)} and ${Math.round(idea.fit.most)}`}
      >
        {shortFit(idea.fit)}
      </span>
    ),
  }),
  column.accessor(({ worthHighMinor }) => worthHighMinor ?? undefined, {
    id: 'worth',
    header: `Names alike sold for, ${currency}`,
    meta: { className: 'align-top whitespace-nowrap' },
    sortDescFirst: true,
    sortUndefined: 'last',
    cell: ({ row: { original: idea } }) =>
      idea.worthLowMinor === null || idea.worthHighMinor === null
        ? ''
        : `${whole(idea.worthLowMinor)} to ${whole(idea.worthHighMinor)}`,
  }),
  column.display({
    id: 'endings',
    header: 'TLDs',
    meta: { className: 'align-top' },
    cell: ({ row: { original } }) => <Endings idea={original} ticks={ticks} now={now} />,
  }),
];

const whole = (minor: number) => money(Math.round(minor / 100) * 100, null);

/** Ideas, the best first, each with what its name is judged by and where it can be had. */
export function IdeaTable({ rows, currency, ...ticks }: { rows: IdeaView[]; currency: string } & Ticks) {
  const now = useNow();
  return (
    <Table
      label="Ideas"
      className="mt-2"
      columns={columnsOf(currency, ticks, now)}
      rows={rows}
      rowId={({ label }) => label}
      rowProps={({ label }) => ({ 'data-idea': label })}
      isSortable
    />
  );
}

/** The name under its TLDs, each with what is known of it, and where it is taken elsewhere. */
function Endings({ idea, ticks, now }: { idea: IdeaView; ticks: Ticks; now: number }) {
  return (
    <>
      <span className="flex flex-wrap gap-x-4 gap-y-0.5">
        {idea.endings.map(({ ending, name, phase, phaseAt, isShortlisted }) => (
          <label key={ending} className="flex items-baseline gap-1">
            <input
              type="checkbox"
              aria-label={`Tick ${name}`}
              checked={ticks.ticked.has(name)}
              onChange={(event) => ticks.onTick(name, event.target.checked)}
            />
            .{ending}{' '}
            {phase === null ? (
              <span className="small">not asked</span>
            ) : (
              <Link
                href={`/domains/${name}`}
                className={phase === 'free' ? 'font-semibold' : 'small'}
                title={`asked ${ago(phaseAt, now)}`}
              >
                {statusWords(phase)}
              </Link>
            )}
            {isShortlisted && <span className="text-small text-damson">shortlisted</span>}
          </label>
        ))}
      </span>
      {idea.sisters.length > 0 && (
        <span className="small block">
          elsewhere:{' '}
          {idea.sisters.map(({ name, phase, phaseAt }, n) => (
            <span key={name} title={`asked ${ago(phaseAt, now)}`}>
              {n > 0 && ', '}
              {name} {`is ${statusWords(phase)}`}
            </span>
          ))}
        </span>
      )}
    </>
  );
}

/** The score with its parts as short bars. */
function PartBars({ idea }: { idea: IdeaView }) {
  const words = IDEA_PARTS.map((part) => `${IDEA_TITLES[part]} ${Math.round(100 * idea.parts[part])}%`).join(', ');
  return (
    <span className="flex items-center gap-2" title={words}>
      <span className="w-9 text-right font-semibold">{fixed(idea.score, 0)}</span>
      <svg width={70} height={16} role="img" aria-label={words}>
        {IDEA_PARTS.map((part, n) => (
          <g key={part}>
            <rect x={n * 14} y={2} width={11} height={12} fill="var(--faint)" />
            <rect
              x={n * 14}
              y={2 + 12 * (1 - idea.parts[part])}
              width={11}
              height={12 * idea.parts[part]}
              fill="var(--damson)"
            />
          </g>
        ))}
      </svg>
    </span>
  );
}
