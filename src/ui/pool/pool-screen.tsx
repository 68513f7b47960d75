'use client';

import { useRouter, useSearchParams } from 'next/navigation';
import { DropdownMenu } from 'radix-ui';
import { useCallback, useEffect, useMemo, useState } from 'react';
import { toast } from 'sonner';
import { formatView, type PoolView, parseView } from '../../core/pool/conditions';
import { type FactName, factSpec } from '../../core/pool/facts';
import { call } from '../api';
import { count, linksOrigin, pastOrigin, phaseOrigin } from '../format';
import { useNow } from '../shell/live';
import { isTyping } from '../shell/shell';
import type { DomainView } from '../types';
import { Grid } from './grid';
import { Sieve } from './sieve';
import { type Answer, usePool } from './use-pool';

interface PoolScreenProps {
  briefId: number;
  sieves: { id: number; name: string; view: string }[];
  sources: { id: number; name: string }[];
  /** First page of the view in the address; null when the engine was not there. */
  first: Answer | null;
}

/** The pool: the sieve beside the grid. The address holds the whole view. */
export function PoolScreen({ briefId, sieves, sources, first }: PoolScreenProps) {
  const router = useRouter();
  const parameters = useSearchParams();
  const now = useNow();
  const [view, setView] = useState<PoolView & { problems?: string[] }>(() =>
    parseView(new URLSearchParams(parameters)),
  );
  const [open, setOpen] = useState<number | null>(null);
  const [menuOpen, setMenuOpen] = useState(false);
  const [cursor, setCursor] = useState(0);
  const [selected, setSelected] = useState<ReadonlySet<string>>(new Set());
  const pool = usePool(view, open, first);
  const address = formatView(view).toString();
  const problems = view.problems ?? [];

  // the browser's own back and forward
  useEffect(() => {
    const onBack = () => setView(parseView(new URLSearchParams(window.location.search)));
    window.addEventListener('popstate', onBack);
    return () => window.removeEventListener('popstate', onBack);
  }, []);
  useEffect(() => {
    const asked = parseView(new URLSearchParams(parameters));
    setView((before) => (formatView(before).toString() === formatView(asked).toString() ? before : asked));
  }, [parameters]);

  const change = useCallback((next: PoolView) => {
    setView(next);
    setCursor(0);
    window.history.replaceState(null, '', `/pool?${formatView(next)}`);
  }, []);

  const sortBy = (fact: FactName) => {
    const isSame = view.sort.fact === fact;
    const startsDown = factSpec(fact).kind === 'number' || fact === 'age' || fact === 'firstSeen';
    change({ ...view, sort: { fact, descending: isSame ? !view.sort.descending : startsDown } });
  };
  const select = useCallback((row: DomainView) => {
    setSelected((before) => {
      const after = new Set(before);
      if (!after.delete(row.name)) after.add(row.name);
      return after;
    });
  }, []);

  const { patch } = pool;
  const shortlist = useCallback(
    async (names: string[], add: boolean) => {
      try {
        if (add) {
          const { added } = await call<{ added: string[] }>('/shortlist', { body: { briefId, names } });
          for (const name of names) patch(name, { shortlisted: true });
          toast(
            added.length === 1 ? `${added[0]} is on the shortlist` : `${added.length} domains are on the shortlist`,
            {
              action: added.length > 0 ? { label: 'Undo', onClick: () => void shortlist(added, false) } : undefined,
            },
          );
        } else {
          for (const name of names) {
            await call(`/shortlist/${name}?brief=${briefId}`, { method: 'DELETE' });
            patch(name, { shortlisted: false });
          }
          toast(
            names.length === 1 ? `${names[0]} is off the shortlist` : `${names.length} domains are off the shortlist`,
          );
        }
      } catch (error) {
        toast((error as Error).message);
      }
    },
    [briefId, patch],
  );
  const current = pool.rowAt(cursor);
  const check = useCallback(async () => {
    const names = selected.size > 0 ? [...selected] : current ? [current.name] : [];
    if (names.length === 0) return;
    try {
      await call('/checks', { body: { names } });
      toast(`${names.length === 1 ? names[0] : `${count(names.length)} domains`}: checking, then measuring`);
    } catch (error) {
      toast((error as Error).message);
    }
  }, [selected, current]);

  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (isTyping(event)) return;
      if (event.key === '/') {
        event.preventDefault();
        const at = view.conditions.findIndex((condition) => condition.type === 'text');
        if (at >= 0) setOpen(at);
        else {
          change({
            ...view,
            conditions: [...view.conditions, { type: 'text', fact: 'name', mode: 'contains', values: [], not: false }],
          });
          setOpen(view.conditions.length);
        }
      } else if (event.key === 'a') {
        event.preventDefault();
        setMenuOpen(true);
      } else if (event.key === 'c') void check();
      else if (event.key === 'j' || event.key === 'ArrowDown') document.getElementById('grid')?.focus();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [view, change, check]);

  const exports = useMemo(
    () => ['csv', 'tsv', 'jsonl'].map((format) => ({ format, href: `/api/v1/export?format=${format}&${address}` })),
    [address],
  );

  return (
    <div className="flex h-full">
      <Sieve
        view={view}
        pool={pool}
        open={open}
        sieves={sieves}
        sources={sources}
        menuOpen={menuOpen}
        onMenu={setMenuOpen}
        onOpen={setOpen}
        onChange={change}
        onKept={() => router.refresh()}
      />
      <section className="flex min-w-0 flex-1 flex-col" aria-label="Result">
        <div className="flex h-10 shrink-0 items-center gap-4 border-b border-rule px-3.5">
          {selected.size > 0 ? (
            <>
              <strong>{count(selected.size)} selected</strong>
              <button type="button" className="press" onClick={() => void shortlist([...selected], true)}>
                Shortlist
              </button>
              <button type="button" className="quiet" onClick={() => void check()}>
                Check and measure
              </button>
              <button type="button" className="quiet" onClick={() => setSelected(new Set())}>
                Select none
              </button>
            </>
          ) : (
            <span className="text-muted" role="status">
              <strong className="text-ink">{count(pool.total)}</strong> domains, sorted by{' '}
              <strong className="text-ink">{factSpec(view.sort.fact).label.toLowerCase()}</strong>
              {pool.isLoading ? ', sifting' : ''}
            </span>
          )}
          <DropdownMenu.Root>
            <DropdownMenu.Trigger className="quiet ml-auto">Export</DropdownMenu.Trigger>
            <DropdownMenu.Portal>
              <DropdownMenu.Content
                align="end"
                sideOffset={4}
                className="z-50 rounded border border-rule bg-sheet py-1 shadow-lg"
              >
                {exports.map(({ format, href }) => (
                  <DropdownMenu.Item
                    key={format}
                    asChild
                    className="block px-3 py-1 outline-none data-[highlighted]:bg-damson-soft"
                  >
                    <a href={href} download>
                      All {count(pool.total)} rows as {{ csv: 'CSV', tsv: 'TSV', jsonl: 'JSON Lines' }[format]}
                    </a>
                  </DropdownMenu.Item>
                ))}
              </DropdownMenu.Content>
            </DropdownMenu.Portal>
          </DropdownMenu.Root>
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
        {!pool.isLoading && pool.total === 0 && !pool.problem ? (
          <Empty hasDomains={pool.size > 0} />
        ) : (
          <Grid
            view={view}
            pool={pool}
            cursor={Math.min(cursor, Math.max(0, pool.total - 1))}
            selected={selected}
            onCursor={setCursor}
            onSort={sortBy}
            onSelect={select}
            onOpen={(row) => router.push(`/domains/${row.name}`)}
            onShortlist={(row) => void shortlist([row.name], !row.shortlisted)}
          />
        )}
        <p
          className="small h-6 shrink-0 truncate border-t border-rule px-3.5 leading-6"
          aria-live="polite"
          data-testid="origin"
        >
          {current &&
            `${current.display}: phase ${phaseOrigin(current, now)}; ${linksOrigin(current, now)}; past ${pastOrigin(current, now)}`}
        </p>
      </section>
    </div>
  );
}

function Empty({ hasDomains }: { hasDomains: boolean }) {
  return (
    <div className="bg-sheet flex-1 p-8">
      <h2 className="font-serif text-title font-semibold">
        {hasDomains ? 'Nothing gets through' : 'The pool is empty'}
      </h2>
      <p className="mt-2 max-w-md">
        {hasDomains
          ? 'Each condition on the left says what it keeps out by itself alone. Relax or remove the one with the largest figure.'
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
