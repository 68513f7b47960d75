'use client';

import { Bookmark } from 'lucide-react';
import Link from 'next/link';
import { type KeyboardEvent, useEffect, useLayoutEffect, useRef, useState } from 'react';
import type { PoolView } from '../../core/pool/conditions';
import type { FactName } from '../../core/pool/facts';
import {
  askedPrice,
  closing,
  count,
  day,
  duration,
  isSoon,
  linksOrigin,
  offerTitle,
  pastOrigin,
  phaseOrigin,
  phaseWords,
  score,
} from '../format';
import { FIRST_YEAR, Lifeline, Pair } from '../lifeline';
import { useNow } from '../shell/live';
import type { DomainView } from '../types';
import { areaHeight, scrollFor, visibleWindow } from './scroll';
import type { PoolState } from './use-pool';

export const ROW_PX = 29;
/** Height of the column heads, which stay on top. */
const HEAD_PX = 40;

interface Column {
  id: string;
  title: string;
  /** Facts that a click on the head sorts by. */
  sorts: FactName[];
  /** Width in px; the first column takes what is left. */
  width?: number;
  numeric?: boolean;
}

const COLUMNS: Column[] = [
  { id: 'domain', title: 'Domain', sorts: ['name'] },
  { id: 'phase', title: 'What happened', sorts: ['phase'], width: 188 },
  { id: 'life', title: `Life, ${FIRST_YEAR} to now`, sorts: ['firstSeen'], width: 122 },
  { id: 'age', title: 'Age', sorts: ['age'], width: 52, numeric: true },
  {
    id: 'referrers',
    title: 'Referring domains of pages',
    sorts: ['referringDomains', 'backlinks'],
    width: 96,
    numeric: true,
  },
  { id: 'pair', title: 'Strength and trust', sorts: ['strength', 'trust'], width: 122 },
  { id: 'spam', title: 'Spam risk', sorts: ['spamRisk'], width: 46, numeric: true },
  { id: 'ask', title: 'Ask', sorts: ['price'], width: 84, numeric: true },
  { id: 'closes', title: 'Closes', sorts: ['closing'], width: 62 },
];

/** What a button that sorts is called, where a column has several. */
const SORT_WORDS: Partial<Record<FactName, string>> = {
  referringDomains: 'Referring',
  backlinks: 'of pages',
  strength: 'Strength',
  trust: 'and trust',
};
const TEMPLATE = `28px minmax(170px, 1fr) ${COLUMNS.slice(1)
  .map((column) => `${column.width}px`)
  .join(' ')}`;

interface GridProps {
  view: PoolView;
  pool: PoolState;
  cursor: number;
  selected: ReadonlySet<string>;
  onCursor(index: number): void;
  onSort(fact: FactName): void;
  onSelect(row: DomainView): void;
  onOpen(row: DomainView): void;
  onShortlist(row: DomainView): void;
}

/** All rows of a view. Only the visible ones exist; the scroll bar reaches to the very last. */
export function Grid({ view, pool, cursor, selected, onCursor, onSort, onSelect, onOpen, onShortlist }: GridProps) {
  const now = useNow();
  const scroller = useRef<HTMLDivElement>(null);
  const [scroll, setScroll] = useState(0);
  const [height, setHeight] = useState(640);
  /** The rows are drawn by the server; keys are heard once the script runs. */
  const [isReady, setReady] = useState(false);
  useEffect(() => setReady(true), []);
  const { start, end, shiftPx } = visibleWindow(scroll, height, pool.total, ROW_PX);
  const { ensure } = pool;

  useLayoutEffect(() => {
    const element = scroller.current;
    if (!element) return;
    const watch = new ResizeObserver(() => setHeight(element.clientHeight - HEAD_PX));
    watch.observe(element);
    return () => watch.disconnect();
  }, []);
  useEffect(() => ensure(start, end), [ensure, start, end]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: only a move of the cursor scrolls
  useEffect(() => {
    const element = scroller.current;
    if (element)
      element.scrollTop = scrollFor(cursor, element.scrollTop, element.clientHeight - HEAD_PX, pool.total, ROW_PX);
  }, [cursor]);

  const onKey = (event: KeyboardEvent) => {
    const page = Math.max(1, Math.floor(height / ROW_PX) - 1);
    const moves: Record<string, number> = {
      ArrowDown: cursor + 1,
      j: cursor + 1,
      ArrowUp: cursor - 1,
      k: cursor - 1,
      PageDown: cursor + page,
      PageUp: cursor - page,
      Home: 0,
      End: pool.total - 1,
    };
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const row = pool.rowAt(cursor);
    if (event.key in moves) onCursor(Math.max(0, Math.min(pool.total - 1, moves[event.key])));
    else if (event.key === 'Enter' && row) onOpen(row);
    else if (event.key === 's' && row) onShortlist(row);
    else if ((event.key === 'x' || event.key === ' ') && row) onSelect(row);
    else return;
    event.preventDefault();
  };

  const rows = Array.from({ length: Math.max(0, end - start) }, (_, i) => start + i);
  return (
    <div
      ref={scroller}
      role="grid"
      id="grid"
      tabIndex={0}
      onScroll={(event) => setScroll(event.currentTarget.scrollTop)}
      aria-activedescendant={pool.rowAt(cursor) ? `row-${cursor}` : undefined}
      onKeyDown={onKey}
      aria-label="Domains"
      aria-busy={!isReady || pool.isLoading}
      aria-rowcount={pool.total + 1}
      aria-colcount={COLUMNS.length + 1}
      className="relative min-h-0 flex-1 overflow-y-auto bg-sheet outline-offset-[-2px]"
    >
      <div
        role="row"
        aria-rowindex={1}
        className="sticky top-0 z-10 grid items-end border-b border-rule bg-sheet pr-3 pb-1.5"
        style={{ gridTemplateColumns: TEMPLATE, height: HEAD_PX }}
      >
        <span role="columnheader" aria-label="Selected" />
        {COLUMNS.map((column) => {
          const isSorted = column.sorts.includes(view.sort.fact);
          return (
            <span
              key={column.id}
              role="columnheader"
              aria-sort={isSorted ? (view.sort.descending ? 'descending' : 'ascending') : undefined}
              className={`small px-1.5 leading-tight ${column.numeric ? 'text-right' : ''}`}
            >
              {column.sorts.map((fact) => (
                <button
                  key={fact}
                  type="button"
                  className={`mr-1 last:mr-0 ${view.sort.fact === fact ? 'font-semibold text-ink' : 'hover:text-ink'}`}
                  onClick={() => onSort(fact)}
                >
                  {SORT_WORDS[fact] ?? column.title}
                  {view.sort.fact === fact ? (
                    <span aria-hidden="true">{view.sort.descending ? ' ↓' : ' ↑'}</span>
                  ) : null}{' '}
                </button>
              ))}
            </span>
          );
        })}
      </div>
      <div role="rowgroup" style={{ height: areaHeight(pool.total, ROW_PX) }}>
        <div role="presentation" className="sticky h-0" style={{ top: HEAD_PX }}>
          {rows.map((index, place) => (
            <GridRow
              key={index}
              index={index}
              top={shiftPx + place * ROW_PX}
              row={pool.rowAt(index)}
              now={now}
              isCurrent={index === cursor}
              isSelected={selected.has(pool.rowAt(index)?.name ?? '')}
              onCursor={onCursor}
              onSelect={onSelect}
            />
          ))}
        </div>
      </div>
    </div>
  );
}

interface RowProps {
  index: number;
  top: number;
  row: DomainView | undefined;
  now: number;
  isCurrent: boolean;
  isSelected: boolean;
  onCursor(index: number): void;
  onSelect(row: DomainView): void;
}

function GridRow({ index, top, row, now, isCurrent, isSelected, onCursor, onSelect }: RowProps) {
  const style = { gridTemplateColumns: TEMPLATE, transform: `translateY(${top}px)`, height: ROW_PX };
  const look = isCurrent ? 'bg-damson-soft shadow-[inset_3px_0_var(--damson)]' : '';
  if (!row)
    return (
      <div
        role="row"
        aria-rowindex={index + 2}
        className={`absolute inset-x-0 top-0 grid items-center border-b border-faint ${look}`}
        style={style}
      >
        <span role="gridcell" className="col-span-2 small pl-8">
          …
        </span>
      </div>
    );
  return (
    // biome-ignore lint/a11y/useKeyWithClickEvents: the grid's keys do the same
    <div
      role="row"
      id={`row-${index}`}
      aria-rowindex={index + 2}
      aria-selected={isSelected}
      data-domain={row.name}
      className={`absolute inset-x-0 top-0 grid items-center whitespace-nowrap border-b border-faint pr-3 ${look}`}
      style={style}
      onClick={() => onCursor(index)}
    >
      <Cell>
        <input
          type="checkbox"
          className="ml-2 block"
          aria-label={`Select ${row.display}`}
          tabIndex={-1}
          checked={isSelected}
          onChange={() => onSelect(row)}
        />
      </Cell>
      <Cell title={row.display}>
        <Link href={`/domains/${row.name}`} tabIndex={-1} prefetch={false} className="hover:underline">
          <span className="font-semibold">{row.display.slice(0, row.display.length - row.ending.length - 1)}</span>
          <span className="text-muted">.{row.ending}</span>
        </Link>
        {row.shortlisted && (
          <Bookmark size={12} role="img" aria-label="shortlisted" className="ml-1.5 inline text-damson" />
        )}
      </Cell>
      <Cell title={`${row.phaseReason ?? ''} ${phaseOrigin(row, now)}`.trim()}>
        <span
          className={
            row.phase === 'pending-delete' && isSoon(row.dropAt, now) ? '-mx-1 rounded-[3px] bg-quince px-1' : ''
          }
        >
          {phaseWords(row, now)}
        </span>
      </Cell>
      <Cell title={`${row.captures === null ? '' : `${row.captures} captures; `}${pastOrigin(row, now)}`}>
        <Lifeline life={row} now={now} width={114} height={18} />
      </Cell>
      <Cell
        numeric
        title={row.registeredAt === null ? 'registration date not known' : `registered ${day(row.registeredAt, now)}`}
      >
        {row.registeredAt === null
          ? ''
          : duration(now - row.registeredAt)
              .replace(' years', ' y')
              .replace(' months', ' mo')
              .replace(' days', ' d')}
      </Cell>
      <Cell numeric title={`${count(row.backlinks)} linking pages; ${linksOrigin(row, now)}`}>
        {count(row.referringDomains)}{' '}
        <span className="small">{row.backlinks === null ? '' : `of ${count(row.backlinks)}`}</span>
      </Cell>
      <Cell
        title={`strength ${score(row.strength) || 'unknown'}, trust ${score(row.trust) || 'unknown'}; ten points are a factor of four; ${linksOrigin(row, now)}`}
      >
        <Pair strength={row.strength} trust={row.trust} width={58} /> {score(row.strength)}
        {row.trust !== null && <span> · {score(row.trust)}</span>}
      </Cell>
      <Cell numeric title={linksOrigin(row, now)}>
        {row.spamRisk ?? ''}
      </Cell>
      <Cell numeric title={offerTitle(row)}>
        {row.offers !== null && row.offers > 1 && <span className="small">1 of {row.offers} · </span>}
        {row.listing === 'offer' && row.priceMinor === null ? 'offer' : askedPrice(row)}
        {row.listing === 'backorder' && <span className="small"> bo</span>}
      </Cell>
      <Cell title={row.closingAt ? new Date(row.closingAt).toISOString() : ''}>
        <span className={isSoon(row.closingAt, now) ? '-mx-1 rounded-[3px] bg-quince px-1' : ''}>
          {closing(row.closingAt, now)}
        </span>
      </Cell>
    </div>
  );
}

function Cell({ children, numeric, title }: { children: React.ReactNode; numeric?: boolean; title?: string }) {
  return (
    <span
      role="gridcell"
      title={title || undefined}
      className={`overflow-hidden text-ellipsis px-1.5 ${numeric ? 'text-right' : ''}`}
    >
      {children}
    </span>
  );
}
