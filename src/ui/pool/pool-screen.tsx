'use client';

import { useRouter, useSearchParams } from 'next/navigation';
import { DropdownMenu } from 'radix-ui';
import { type KeyboardEvent, useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { toast } from 'sonner';
import type { SetChoices } from '../../contracts/pool';
import type { StoredSieve } from '../../contracts/sieves';
import {
  DEFAULT_SORT,
  eachPart,
  formatView,
  MAX_SORTS,
  type PoolView,
  parseView,
  partAt,
  withPart,
} from '../../core/pool/conditions';
import type { DomainView } from '../../core/pool/domain-view';
import { countsBackwards, type FactName, factSpec } from '../../core/pool/facts';
import { count, linksOrigin, pastOrigin, phaseOrigin } from '../../core/wording/format';
import { Evidence, patchDetails, useDetails } from '../evidence';
import { openOrder } from '../orders/open';
import { Hears } from '../shell/hears';
import { useLive, useNow } from '../shell/live';
import { isTyping } from '../shell/shell';
import { type Act, act, DAY_MS } from './acts';
import { Bulk, Menu } from './bulk';
import { COLUMNS, DEFAULT_COLUMNS, shownColumns } from './columns';
import type { Density } from './density';
import { Grid } from './grid';
import {
  compareAddress,
  EVERYTHING,
  NOTHING,
  type Selection,
  selectedCount,
  toggled,
  whichOf,
  withIds,
} from './selection';
import { freshCondition, Sieve } from './sieve';
import { useOpened } from './use-opened';
import { usePlace } from './use-place';
import { type Answer, usePool } from './use-pool';
import { WrittenAddresses } from './written-addresses';

interface PoolScreenProps {
  briefId: number;
  briefs: { id: number; name: string }[];
  /** The pool as the current brief wants it. */
  ofBrief: { name: string; view: string };
  sieves: StoredSieve[];
  sets: SetChoices;
  density: Density;
  /** First page of the view in the address; null when the engine was not there. */
  first: Answer | null;
}

const ADDRESS_MS = 200;
const item = 'block px-3 py-1 outline-none data-[highlighted]:bg-damson-soft';

/** The pool: the sieve beside the grid. The address holds the whole view. */
export function PoolScreen({ briefId, briefs, ofBrief, sieves, sets, density: startDensity, first }: PoolScreenProps) {
  const router = useRouter();
  const parameters = useSearchParams();
  const now = useNow();
  const { poolVersion } = useLive();
  const [view, setView] = useState<PoolView & { problems?: string[] }>(() =>
    parseView(new URLSearchParams(parameters)),
  );
  const [open, setOpen] = useState<string | null>(null);
  const [menuOpen, setMenuOpen] = useState(false);
  const [cursor, setCursor] = useState(0);
  const [selection, setSelection] = useState<Selection>(NOTHING);
  const [density, setDensity] = useState<Density>(startDensity);
  const [isPeeking, setPeeking] = useState(false);
  const [withExcluded, setExcluded] = useState(false);
  const hovered = useRef<number | null>(null);
  const from = useRef(0);
  const scrollBy = useRef<((rows: number) => void) | null>(null);

  // what lies under the pointer, or under the cursor, stays where it is when rows come in above it
  const anchor = useMemo(() => {
    let held: { id: number; at: number } | null = null;
    return {
      of: () => {
        const at = hovered.current ?? cursorRef.current;
        const row = rowAtRef.current?.(at);
        held = row ? { id: row.id, at } : null;
        return held?.id ?? null;
      },
      moved: (index: number) => {
        if (!held || index === held.at) return;
        scrollBy.current?.(index - held.at);
        if (hovered.current !== null) hovered.current += index - held.at;
        setCursor((before) => (held && before === held.at ? index : before));
      },
    };
  }, []);
  const cursorRef = useRef(0);
  const rowAtRef = useRef<((index: number) => DomainView | undefined) | null>(null);
  const pool = usePool(view, open, first, withExcluded, anchor);
  cursorRef.current = cursor;
  rowAtRef.current = pool.rowAt;

  const address = formatView(view).toString();
  const problems = view.problems ?? [];
  const same = sieves.find((sieve) => sameSieve(sieve.view, address));
  // one that was opened stays itself while it is changed
  const [openedId, setOpened] = useState<number | null>(null);
  useEffect(() => {
    if (same) setOpened(same.id);
  }, [same]);
  const kept = same ?? (view.parts.length > 0 ? sieves.find(({ id }) => id === openedId) : null) ?? null;
  useOpened(address, openedId, setOpened);
  usePlace(address, cursor, setCursor);

  // the browser's own back and forward
  useEffect(() => {
    const onBack = () => setView(parseView(new URLSearchParams(window.location.search)));
    window.addEventListener('popstate', onBack);
    return () => window.removeEventListener('popstate', onBack);
  }, []);
  const written = useRef(new WrittenAddresses());
  useEffect(() => {
    const asked = parseView(new URLSearchParams(parameters));
    if (written.current.isEcho(formatView(asked).toString())) return;
    setView((before) => (formatView(before).toString() === formatView(asked).toString() ? before : asked));
  }, [parameters]);

  const writeAddress = useCallback((next: PoolView) => {
    const address = formatView(next).toString();
    written.current.write(address);
    window.history.replaceState(null, '', `/pool?${address}`);
  }, []);
  // the address follows when the hand rests: browsers allow few changes of it a second
  const addressTimer = useRef<ReturnType<typeof setTimeout> | null>(null);
  const change = useCallback(
    (next: PoolView) => {
      setView(next);
      setCursor(0);
      setSelection(NOTHING);
      if (addressTimer.current) clearTimeout(addressTimer.current);
      addressTimer.current = setTimeout(() => writeAddress(next), ADDRESS_MS);
    },
    [writeAddress],
  );

  const sortBy = (fact: FactName, isAdded: boolean) => {
    const at = view.sorts.findIndex((sort) => sort.fact === fact);
    const startsDown = factSpec(fact).kind === 'number' || countsBackwards(fact);
    if (!isAdded) {
      const descending = at === 0 ? !view.sorts[0].descending : startsDown;
      change({ ...view, sorts: [{ fact, descending }] });
      return;
    }
    const sorts = [...view.sorts];
    if (at < 0) sorts.push({ fact, descending: startsDown });
    else if (sorts[at].descending === startsDown) sorts[at] = { fact, descending: !startsDown };
    else sorts.splice(at, 1);
    change({ ...view, sorts: sorts.length > 0 ? sorts.slice(0, MAX_SORTS) : [DEFAULT_SORT] });
  };
  const setColumns = useCallback(
    (columns: PoolView['columns']) => {
      setView((before) => {
        const next = { ...before, columns };
        if (addressTimer.current) clearTimeout(addressTimer.current);
        addressTimer.current = setTimeout(() => writeAddress(next), ADDRESS_MS);
        return next;
      });
    },
    [writeAddress],
  );

  const { rowAt, patch } = pool;
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
  const hover = useCallback((index: number | null) => {
    hovered.current = index;
  }, []);

  const selected = selectedCount(selection, pool.total);
  const current = rowAt(cursor);
  const doAct = async (what: Act, only: DomainView | null) => {
    const which = only ? { ids: [only.id] } : whichOf(selection, view.parts, withExcluded);
    const change: Partial<DomainView> =
      what.kind === 'judge'
        ? { judged: what.judged, judgedReason: what.reason ?? null, judgedAt: now }
        : what.kind === 'shortlist' || what.kind === 'unshortlist'
          ? { shortlisted: what.kind === 'shortlist' }
          : what.kind === 'watch' || what.kind === 'unwatch'
            ? { watched: what.kind === 'watch' ? 'by hand' : null }
            : {};
    if (Object.keys(change).length > 0) {
      const ids = only ? new Set([only.id]) : selection.all ? new Set<number>() : selection.ids;
      patch(ids, change);
      if (only) patchDetails(only.name, change);
    }
    try {
      await act(what, which, only?.display ?? null, pool.refresh);
      if (what.kind === 'tag') router.refresh();
    } catch (error) {
      toast((error as Error).message);
      pool.refresh();
    }
  };
  const actOn = (what: Act) => void doAct(what, selected > 0 ? null : (current ?? null));

  const copy = async () => {
    try {
      const columns = shownColumns(view.columns).map(({ column }) => column);
      const rows: DomainView[] = [];
      for (let i = 0; i < pool.total && rows.length < selected; i++) {
        const row = rowAt(i);
        if (!row) break;
        if (selection.all ? !selection.except.has(row.id) : selection.ids.has(row.id)) rows.push(row);
      }
      let text: string;
      if (rows.length === selected)
        text = rows.map((row) => columns.map((column) => column.text(row, now)).join('\t')).join('\n');
      else {
        const form = new FormData();
        form.set('format', 'tsv');
        form.set('which', exportWhich(selection, address));
        text = await (await fetch('/api/v1/export', { method: 'POST', body: form })).text();
      }
      await navigator.clipboard.writeText(text);
      toast(`${count(selected)} ${selected === 1 ? 'row' : 'rows'} copied`);
    } catch (error) {
      toast(`Not copied: ${(error as Error).message}`);
    }
  };

  const gridKey = (event: Pick<KeyboardEvent, 'key' | 'ctrlKey' | 'metaKey' | 'altKey'>): boolean => {
    const isWith = event.ctrlKey || event.metaKey;
    if (isWith && event.key === 'a') setSelection(EVERYTHING);
    else if (isWith && event.key === 'c' && selected > 0 && String(window.getSelection()) === '') void copy();
    else if (isWith || event.altKey) return false;
    else if (event.key === 'Escape') {
      if (isPeeking) setPeeking(false);
      else setSelection(NOTHING);
    } else if (event.key === 's' && current)
      actOn({ kind: selected === 0 && current.shortlisted ? 'unshortlist' : 'shortlist', brief: briefId });
    else if (event.key === 'y') actOn({ kind: 'judge', judged: 'keep' });
    else if (event.key === 'n') actOn({ kind: 'judge', judged: 'pass' });
    else if (event.key === '!') actOn({ kind: 'judge', judged: 'spam' });
    else if (event.key === '+') actOn({ kind: 'judge', judged: 'clean' });
    else if (event.key === 'z') actOn({ kind: 'judge', judged: 'snoozed', until: now + 7 * DAY_MS });
    else if (event.key === 'u') actOn({ kind: 'judge', judged: 'not-yet' });
    else if (event.key === 'e') actOn({ kind: 'judge', judged: 'excluded' });
    else if (event.key === 'w') actOn({ kind: selected === 0 && current?.watched === 'by hand' ? 'unwatch' : 'watch' });
    else if (event.key === 'v') setPeeking(!isPeeking);
    else if (event.key === 'o' && current) openOrder(current.name);
    else if (event.key === 'b') {
      const beside = compareAddress(selection);
      if (beside) router.push(beside);
      else if (current) router.push(`/compare?id=${current.id}`);
    } else return false;
    return true;
  };

  /** A new search for letters, in the place of the old one. */
  const search = () => {
    let at: string | null = null;
    eachPart(view.parts, (part, path) => {
      if (part.type === 'text') at ??= path;
    });
    if (at === null) {
      change({ ...view, parts: [...view.parts, freshCondition('name')] });
      setOpen(String(view.parts.length));
      return;
    }
    const old = partAt(view.parts, at);
    setOpen(at);
    if (old?.type !== 'text' || (old.values.length === 0 && !old.list)) return;
    const before = view;
    const { list: _, ...rest } = old;
    change({ ...view, parts: withPart(view.parts, at, { ...rest, values: [] }) });
    toast('A new search begins', { action: { label: 'Undo', onClick: () => change(before) } });
  };
  const onKey = (event: globalThis.KeyboardEvent) => {
    const grid = document.getElementById('grid');
    // a menu or a notice that goes takes the focus along: the row that is highlighted hears its keys all the same
    if (grid && isForRows(event)) {
      const isHeard = gridKey(event) || (WALKING.has(event.key) && !grid.dispatchEvent(again(event)));
      if (isHeard) {
        event.preventDefault();
        grid.focus({ preventScroll: true });
        return;
      }
    }
    if (isTyping(event)) return;
    if (event.key === '/') {
      event.preventDefault();
      search();
    } else if (event.key === 'a') {
      event.preventDefault();
      setMenuOpen(true);
    } else if (event.key === 'c') actOn({ kind: 'measure' });
    else if (event.key === 'r') router.push(`/review?${address}`);
    else if (event.key === 'j' || event.key === 'ArrowDown') grid?.focus();
  };

  const exports = useMemo(
    () => ['csv', 'tsv', 'jsonl'].map((format) => ({ format, href: `/api/v1/export?format=${format}&${address}` })),
    [address],
  );
  const shownIds = new Set(shownColumns(view.columns).map(({ column }) => column.id));
  const chooseDensity = (next: Density) => {
    setDensity(next);
    // biome-ignore lint/suspicious/noDocumentCookie: the cookie lets the server draw the next page with rows of this height
    document.cookie = `density=${next}; path=/; max-age=31536000; samesite=strict`;
  };

  return (
    <div className="flex h-full">
      <Sieve
        view={view}
        pool={pool}
        open={open}
        sieves={sieves}
        current={kept}
        isChanged={kept !== null && same === undefined}
        onOpened={setOpened}
        briefs={briefs}
        ofBrief={ofBrief}
        sets={sets}
        menuOpen={menuOpen}
        withExcluded={withExcluded}
        onMenu={setMenuOpen}
        onOpen={setOpen}
        onChange={change}
        onExcluded={setExcluded}
        onKept={() => router.refresh()}
      />
      <section className="flex min-w-0 flex-1 flex-col" aria-label="Result">
        <Hears onKey={onKey} />
        <div className="flex h-10 shrink-0 items-center gap-3 border-b border-rule px-3.5">
          {selected > 0 ? (
            <Bulk
              selected={selected}
              total={pool.total}
              tags={sets.tag}
              briefId={briefId}
              now={now}
              isAll={selection.all && selection.except.size === 0}
              exportWhich={exportWhich(selection, address)}
              onAct={actOn}
              onAll={() => setSelection(EVERYTHING)}
              onNone={() => setSelection(NOTHING)}
              onCopy={() => void copy()}
              compare={compareAddress(selection)}
            />
          ) : (
            <>
              <button
                type="button"
                className="press"
                disabled={pool.total === 0}
                onClick={() =>
                  router.push(
                    kept && kept.fresh > 0 ? `/review?c=fresh:${kept.id}&sort=strength:down` : `/review?${address}`,
                  )
                }
              >
                Review {kept && kept.fresh > 0 ? `${count(kept.fresh)} new` : ''}
              </button>
              <span className="min-w-0 truncate text-muted" role="status">
                <strong className="text-ink">{count(pool.total)}</strong> domains, sorted by{' '}
                {view.sorts.map(({ fact }, i) => (
                  <span key={fact}>
                    {i > 0 && ', then '}
                    <strong className="text-ink">{factSpec(fact).label.toLowerCase()}</strong>
                  </span>
                ))}
                {pool.isLoading ? ', sifting' : ''}
              </span>
              <span className="ml-auto flex gap-2">
                <Menu label="Columns">
                  {COLUMNS.map((column) => (
                    <DropdownMenu.CheckboxItem
                      key={column.id}
                      className={`${item} flex gap-2`}
                      checked={shownIds.has(column.id)}
                      disabled={column.id === 'domain'}
                      onSelect={(event) => event.preventDefault()}
                      onCheckedChange={(isOn) => {
                        const set = view.columns ?? DEFAULT_COLUMNS;
                        setColumns({
                          ...set,
                          shown: isOn
                            ? [...set.shown, { id: column.id, width: null }]
                            : set.shown.filter(({ id }) => id !== column.id),
                        });
                      }}
                    >
                      <span className="w-3">{shownIds.has(column.id) ? '✓' : ''}</span>
                      {column.title}
                    </DropdownMenu.CheckboxItem>
                  ))}
                  <DropdownMenu.Separator className="my-1 border-t border-rule" />
                  <DropdownMenu.Item className={item} onSelect={() => setColumns(null)}>
                    The usual ones
                  </DropdownMenu.Item>
                  <DropdownMenu.Separator className="my-1 border-t border-rule" />
                  <DropdownMenu.Label className="small px-3">Rows</DropdownMenu.Label>
                  {(['close', 'usual', 'wide'] as const).map((one) => (
                    <DropdownMenu.CheckboxItem
                      key={one}
                      className={`${item} flex gap-2`}
                      checked={density === one}
                      onCheckedChange={() => chooseDensity(one)}
                    >
                      <span className="w-3">{density === one ? '✓' : ''}</span>
                      {{ close: 'close together', usual: 'as usual', wide: 'wide apart' }[one]}
                    </DropdownMenu.CheckboxItem>
                  ))}
                </Menu>
                <Menu label="Export">
                  {exports.map(({ format, href }) => (
                    <DropdownMenu.Item key={format} asChild className={item}>
                      <a href={href} download>
                        All {count(pool.total)} rows as {{ csv: 'CSV', tsv: 'TSV', jsonl: 'JSON Lines' }[format]}
                      </a>
                    </DropdownMenu.Item>
                  ))}
                </Menu>
              </span>
            </>
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
            <Peek
              row={current}
              version={poolVersion}
              now={now}
              next={rowAt(cursor + 1)?.name}
              onClose={() => setPeeking(false)}
            />
          )}
        </div>
        <p
          className="small flex h-6 shrink-0 border-t border-rule px-3.5 leading-6"
          aria-live="polite"
          data-testid="origin"
        >
          <span className="min-w-0 flex-1 truncate">
            {current &&
              `${current.display}: phase ${phaseOrigin(current, now)}; ${linksOrigin(current, now)}; past ${pastOrigin(current, now)}`}
          </span>
          <button type="button" className="set shrink-0 leading-4" onClick={() => setPeeking(!isPeeking)}>
            {isPeeking ? 'close the look' : 'look at it'} (v)
          </button>
        </p>
      </section>
    </div>
  );
}

/** The evidence on the current row, which follows the cursor: figures at once, the rest when the hand rests. */
function Peek({
  row,
  version,
  now,
  next,
  onClose,
}: {
  row: DomainView;
  version: number;
  now: number;
  next?: string;
  onClose(): void;
}) {
  const details = useDetails(row.name, version, next ? [next] : [], 60);
  return (
    <aside aria-label="Quick look" className="w-[360px] shrink-0 overflow-auto border-l border-rule bg-paper px-5 py-4">
      <button type="button" className="set float-right text-small" onClick={onClose}>
        close
      </button>
      <Evidence row={row} details={details} now={now} narrow />
    </aside>
  );
}

/** The same conditions and order; columns that differ make it no other sieve. */
function sameSieve(kept: string, address: string): boolean {
  const bare = (text: string) => {
    const parameters = new URLSearchParams(text);
    parameters.delete('columns');
    return parameters.toString();
  };
  return bare(kept) === bare(address);
}

/** Keys that the grid itself hears. */
const WALKING = new Set('ArrowUp ArrowDown j J k K PageUp PageDown Home End Enter x'.split(' ').concat(' '));
const again = ({ key, shiftKey }: globalThis.KeyboardEvent) =>
  new window.KeyboardEvent('keydown', { key, shiftKey, bubbles: true, cancelable: true });

/** Whether a key is meant for the rows although they have not the focus: nothing else has it, or all of them are to be selected. */
function isForRows(event: globalThis.KeyboardEvent): boolean {
  const target = event.target as HTMLElement;
  if (target.closest('#grid') || document.querySelector('[role=dialog],[role=menu]')) return false;
  const isAll = (event.ctrlKey || event.metaKey) && event.key === 'a';
  if (isAll) return !target.isContentEditable && !['INPUT', 'TEXTAREA', 'SELECT'].includes(target.tagName);
  return target === document.body;
}

function exportWhich(selection: Selection, view: string): string {
  return JSON.stringify(selection.all ? { view, except: [...selection.except] } : { ids: [...selection.ids] });
}

function Empty({ hasDomains }: { hasDomains: boolean }) {
  return (
    <div className="bg-sheet flex-1 p-8">
      <h2 className="font-serif text-title font-semibold">
        {hasDomains ? 'Nothing gets through' : 'The pool is empty'}
      </h2>
      <p className="mt-2 max-w-md">
        {hasDomains
          ? 'Each condition on the left says what it keeps out by itself alone. Relax, switch off or remove the one with the largest figure.'
          : 'Domains come from sources: crawl a site that your subject trusts, or load a drop list.'}
      </p>
      {!hasDomains && (
        <p className="mt-3">
          <a href="/sources?add=crawl" className="press">
            Add a source
          </a>
        </p>
      )}
    </div>
  );
}
