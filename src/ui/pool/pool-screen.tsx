'use client';

import { useQueryClient } from '@tanstack/react-query';
import dynamic from 'next/dynamic';
import { useRouter } from 'next/navigation';
import { type KeyboardEvent, useCallback, useRef, useState } from 'react';
import { toast } from 'sonner';
import type { SetChoices } from '../../contracts/pool';
import type { StoredSieve } from '../../contracts/sieves';
import { formatView } from '../../core/pool/conditions';
import { linksOrigin, pastOrigin, phaseOrigin, plural } from '../../core/wording/format';
import { openOrder } from '../orders/open';
import { useRedraw } from '../server-state';
import { Hears } from '../shell/hears';
import { pressed } from '../shell/key-list';
import { useNow } from '../shell/live';
import { isTyping } from '../shell/shell';
import type { Act } from './acts';
import { fieldsOf } from './columns';
import { copyRows } from './copy-rows';
import type { Density } from './density';
import { doAct } from './do-act';
import { Empty } from './empty';
import { Grid } from './grid';
import { withNewSearch } from './new-search';
import { ResultBar } from './result-bar';
import { actOfKey, again, isForRows, WALKING } from './row-keys';
import {
  compareAddress,
  EVERYTHING,
  exportWhich,
  NOTHING,
  type Selection,
  selectedCount,
  toggled,
  withIds,
} from './selection';
import { Sieve } from './sieve';
import { useAnchor } from './use-anchor';
import { useKeptSieve } from './use-kept-sieve';
import { usePlace } from './use-place';
import { type FirstAnswer, usePool } from './use-pool';
import { useView } from './use-view';

// what is done to several comes when several are chosen
const Bulk = dynamic(() => import('./bulk'), { ssr: false });
const Peek = dynamic(() => import('./peek'), { ssr: false });

interface PoolScreenProps {
  briefId: number;
  briefs: { id: number; name: string }[];
  /** The pool as the current brief wants it. */
  ofBrief: { name: string; view: string };
  sieves: StoredSieve[];
  sets: SetChoices;
  density: Density;
  /** First page of the view in the address; null when the engine was not there. */
  first: FirstAnswer | null;
  /** Who is asked for figures of backlinks, traffic and keywords; null: nobody. */
  asks: string | null;
}

/** The pool: the sieve beside the grid. The address holds the whole view. */
export function PoolScreen({
  briefId,
  briefs,
  ofBrief,
  sieves,
  sets,
  density: startDensity,
  first,
  asks,
}: PoolScreenProps) {
  const router = useRouter();
  const redraw = useRedraw();
  const client = useQueryClient();
  const now = useNow();
  const [cursor, setCursor] = useState(0);
  const [selection, setSelection] = useState<Selection>(NOTHING);
  const startOver = useCallback(() => {
    setCursor(0);
    setSelection(NOTHING);
  }, []);
  const { view, change, setColumns, sortBy } = useView(startOver);
  const [open, setOpen] = useState<string | null>(null);
  const [menuOpen, setMenuOpen] = useState(false);
  const [density, setDensity] = useState<Density>(startDensity);
  const [isPeeking, setPeeking] = useState(false);
  const [isSieveOver, setSieveOver] = useState(false);
  const [withExcluded, setExcluded] = useState(false);
  const from = useRef(0);

  const { anchor, hovered, cursorAt, rowAt: rowAtNow, scrollBy } = useAnchor(setCursor);
  const pool = usePool(view, fieldsOf(view.columns), open, first, withExcluded, anchor);
  cursorAt.current = cursor;
  rowAtNow.current = pool.rowAt;

  const address = formatView(view).toString();
  const problems = view.problems ?? [];
  const { kept, isChanged, setOpened } = useKeptSieve(sieves, address, view.parts.length > 0);
  usePlace(address, cursor, setCursor);

  const { rowAt } = pool;
  const select = (index: number, how: 'one' | 'range') => {
    const row = rowAt(index);
    if (!row) return;
    if (how === 'one') {
      from.current = index;
      setSelection((before) => toggled(before, row.id));
      return;
    }
    const [low, high] = [Math.min(from.current, index), Math.max(from.current, index)];
    const ids = Array.from({ length: high - low + 1 }, (_, i) => rowAt(low + i)?.id).filter((id) => id !== undefined);
    if (ids.length < high - low + 1)
      toast('Rows that are not loaded yet are left out: scroll over them, or select all that match');
    setSelection((before) => withIds(before, ids, true));
  };
  const moveCursor = useCallback((index: number) => setCursor(index), []);
  const hover = useCallback(
    (index: number | null) => {
      hovered.current = index;
    },
    [hovered],
  );

  const selected = selectedCount(selection, pool.total);
  const current = rowAt(cursor);
  const actOn = (what: Act) =>
    void doAct(what, {
      only: selected > 0 ? null : (current ?? null),
      selection,
      view,
      withExcluded,
      now,
      client,
      pool,
    }).then(() => what.kind === 'tag' && redraw());

  const copy = () => void copyRows({ view, address, selection, selected, total: pool.total, rowAt, now });
  const gridKey = (event: Pick<KeyboardEvent, 'key' | 'ctrlKey' | 'metaKey' | 'altKey'>): boolean => {
    if (event.altKey) return false;
    const key = pressed('pool', event);
    if (key === 'selectAll') setSelection(EVERYTHING);
    else if (key === 'copy') {
      if (selected === 0 || String(window.getSelection()) !== '') return false;
      copy();
    } else if (key === 'selectNone') {
      if (isPeeking) setPeeking(false);
      else setSelection(NOTHING);
    } else if (key === 'peek') setPeeking(!isPeeking);
    else if (key === 'order' && current) openOrder(current.name);
    else if (key === 'beside') {
      const beside = compareAddress(selection) ?? (current ? `/compare?id=${current.id}` : null);
      if (beside) router.push(beside);
    } else {
      const what = actOfKey(key, { current: current ?? null, isOne: selected === 0, briefId, now });
      if (!what) return false;
      actOn(what);
    }
    return true;
  };

  const search = () => {
    const { at, next } = withNewSearch(view);
    setOpen(at);
    if (!next) return;
    const before = view;
    change(next);
    if (next.parts.length === before.parts.length)
      toast('A new search begins', { action: { label: 'Undo', onClick: () => change(before) } });
  };
  const clear = () => {
    if (view.parts.length === 0) return;
    const before = view;
    setOpen(null);
    setOpened(null);
    change({ ...view, parts: [] });
    toast(`${plural(before.parts.length, 'condition')} cleared: the whole pool is shown`, {
      action: {
        label: 'Undo',
        onClick: () => {
          change(before);
          setOpened(kept?.id ?? null);
        },
      },
    });
  };
  const onKey = (event: globalThis.KeyboardEvent) => {
    const grid = document.getElementById('grid');
    // a menu or a notice that goes takes the focus along: the row that is highlighted hears its keys all the same
    if (grid && isForRows(event)) {
      const isHeard = gridKey(event) || (WALKING.has(pressed('pool', event)) && !grid.dispatchEvent(again(event)));
      if (isHeard) {
        event.preventDefault();
        grid.focus({ preventScroll: true });
        return;
      }
    }
    if (isTyping(event)) return;
    const key = pressed('pool', event);
    if (key === 'search') {
      event.preventDefault();
      search();
    } else if (key === 'add') {
      event.preventDefault();
      setMenuOpen(true);
    } else if (key === 'clear') clear();
    else if (key === 'measure') actOn({ kind: 'measure' });
    else if (key === 'review') router.push(`/review?${address}`);
    else if (key === 'next') grid?.focus();
  };

  const chooseDensity = (next: Density) => {
    setDensity(next);
    // biome-ignore lint/suspicious/noDocumentCookie: the cookie lets the server draw the next page with rows of this height
    document.cookie = `density=${next}; path=/; max-age=31536000; samesite=strict`;
  };

  return (
    <div className="relative flex h-full">
      <Sieve
        view={view}
        pool={pool}
        open={open}
        sieves={sieves}
        current={kept}
        isChanged={isChanged}
        onOpened={setOpened}
        briefs={briefs}
        ofBrief={ofBrief}
        sets={sets}
        isOver={isSieveOver}
        onOver={setSieveOver}
        menuOpen={menuOpen}
        withExcluded={withExcluded}
        onMenu={setMenuOpen}
        onOpen={setOpen}
        onChange={change}
        onClear={clear}
        onExcluded={setExcluded}
        onKept={redraw}
      />
      <section className="flex min-w-0 flex-1 flex-col" aria-label="Result">
        <Hears onKey={onKey} />
        <div className="flex min-h-10 shrink-0 flex-wrap items-center gap-x-3 gap-y-1 border-b border-rule px-3.5 py-1 lg:h-10 lg:flex-nowrap lg:py-0">
          <button type="button" className="quiet lg:hidden" onClick={() => setSieveOver(true)}>
            Sieve <span className="small">{view.parts.length}</span>
          </button>
          {selected > 0 ? (
            <Bulk
              selected={selected}
              total={pool.total}
              tags={sets.tag}
              briefId={briefId}
              now={now}
              isAll={selection.all && selection.except.size === 0}
              asks={asks}
              exportWhich={exportWhich(selection, address)}
              onAct={actOn}
              onAll={() => setSelection(EVERYTHING)}
              onNone={() => setSelection(NOTHING)}
              onCopy={copy}
              compare={compareAddress(selection)}
            />
          ) : (
            <ResultBar
              view={view}
              total={pool.total}
              isLoading={pool.isLoading}
              kept={kept}
              address={address}
              density={density}
              onDensity={chooseDensity}
              onColumns={setColumns}
            />
          )}
        </div>
        {problems.length > 0 && (
          <p role="alert" className="border-b border-rule bg-quince px-3.5 py-1.5">
            Left out of this address: {problems.join('. ')}.
          </p>
        )}
        {pool.problem && (
          <p role="alert" className="border-b border-rule bg-quince px-3.5 py-1.5">
            {pool.problem}
          </p>
        )}
        <div className="flex min-h-0 flex-1">
          {!pool.isLoading && pool.total === 0 && !pool.problem ? (
            <Empty hasDomains={pool.size > 0} />
          ) : (
            <Grid
              pool={pool}
              sorts={view.sorts}
              columns={view.columns}
              density={density}
              cursor={Math.min(cursor, Math.max(0, pool.total - 1))}
              selection={selection}
              onHover={hover}
              onCursor={moveCursor}
              onSort={sortBy}
              onColumns={setColumns}
              onSelect={select}
              onOpen={(row) => router.push(`/domains/${row.name}`)}
              onKey={gridKey}
              scrollBy={scrollBy}
            />
          )}
          {isPeeking && current && (
            <Peek row={current} now={now} next={rowAt(cursor + 1)?.name} onClose={() => setPeeking(false)} />
          )}
        </div>
        <p
          className="small flex h-6 shrink-0 border-t border-rule px-3.5 leading-6"
          aria-live="polite"
          data-testid="origin"
        >
          <span className="min-w-0 flex-1 truncate">
            {current &&
              `${current.display}: status ${phaseOrigin(current, now)}; ${linksOrigin(current, now)}; history ${pastOrigin(current, now)}`}
          </span>
          <button type="button" className="set shrink-0 leading-4" onClick={() => setPeeking(!isPeeking)}>
            {isPeeking ? 'close the look' : 'look at it'} (v)
          </button>
        </p>
      </section>
    </div>
  );
}
