'use client';

import { useSearchParams } from 'next/navigation';
import { useCallback, useEffect, useRef, useState } from 'react';
import { DEFAULT_SORT, formatView, MAX_SORTS, type PoolView, parseView } from '../../core/pool/conditions';
import { countsBackwards, type FactName, factSpec } from '../../core/pool/facts';
import { WrittenAddresses } from './written-addresses';

const ADDRESS_MS = 200;
/** What stands in an address of the whole pool. */
const WHOLE = 'all=1';

export interface ViewInAddress {
  view: PoolView & { problems?: string[] };
  change(next: PoolView): void;
  setColumns(columns: PoolView['columns']): void;
  sortBy(fact: FactName, isAdded: boolean): void;
}

/** The view that the address holds, and what changes it. @param onChange other rows will be shown. */
export function useView(onChange: () => void): ViewInAddress {
  const parameters = useSearchParams();
  const [view, setView] = useState<PoolView & { problems?: string[] }>(() =>
    parseView(new URLSearchParams(parameters)),
  );
  // the browser's own back and forward
  useEffect(() => {
    const onBack = () => setView(parseView(new URLSearchParams(window.location.search)));
    window.addEventListener('popstate', onBack);
    return () => window.removeEventListener('popstate', onBack);
  }, []);
  const written = useRef(new WrittenAddresses());
  const addressTimer = useRef<ReturnType<typeof setTimeout> | null>(null);
  useEffect(() => {
    const asked = parseView(new URLSearchParams(parameters));
    const here = parseView(new URLSearchParams(window.location.search));
    if (written.current.isEcho(formatView(asked).toString(), formatView(here).toString())) return;
    // what was about to be written is of the view that was left
    if (addressTimer.current) clearTimeout(addressTimer.current);
    setView((before) => (formatView(before).toString() === formatView(asked).toString() ? before : asked));
  }, [parameters]);

  const writeAddress = useCallback((next: PoolView) => {
    const address = formatView(next).toString();
    written.current.write(address);
    // the whole pool is said to be meant: an address with nothing is that of a first visit
    window.history.replaceState(null, '', `/pool?${address || WHOLE}`);
  }, []);
  // the address follows when the hand rests: browsers allow few changes of it a second
  const writeSoon = useCallback(
    (next: PoolView) => {
      if (addressTimer.current) clearTimeout(addressTimer.current);
      addressTimer.current = setTimeout(() => writeAddress(next), ADDRESS_MS);
    },
    [writeAddress],
  );
  const change = useCallback(
    (next: PoolView) => {
      setView(next);
      onChange();
      writeSoon(next);
    },
    [onChange, writeSoon],
  );

  const setColumns = useCallback(
    (columns: PoolView['columns']) => {
      setView((before) => {
        const next = { ...before, columns };
        writeSoon(next);
        return next;
      });
    },
    [writeSoon],
  );
  const sortBy = (fact: FactName, isAdded: boolean) => change({ ...view, sorts: sortsWith(view.sorts, fact, isAdded) });
  return { view, change, setColumns, sortBy };
}

/** The order after a click on a head: by that fact, or with it after the others; the other way round, or without it again. */
function sortsWith(sorts: PoolView['sorts'], fact: FactName, isAdded: boolean): PoolView['sorts'] {
  const at = sorts.findIndex((sort) => sort.fact === fact);
  const startsDown = factSpec(fact).kind === 'number' || countsBackwards(fact);
  if (!isAdded) return [{ fact, descending: at === 0 ? !sorts[0].descending : startsDown }];
  const next = [...sorts];
  if (at < 0) next.push({ fact, descending: startsDown });
  else if (next[at].descending === startsDown) next[at] = { fact, descending: !startsDown };
  else next.splice(at, 1);
  return next.length > 0 ? next.slice(0, MAX_SORTS) : [DEFAULT_SORT];
}
