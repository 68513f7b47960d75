'use client';

import { useSearchParams } from 'next/navigation';
import { useCallback, useEffect, useState } from 'react';
import { DEFAULT_SORT, formatView, MAX_SORTS, type PoolView, parseView } from '../../core/pool/conditions';
import { countsBackwards, type FactName, factSpec } from '../../core/pool/facts';
import { isTyping } from '../shell/shell';
import { AddressLine } from './address-line';

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
  const [line] = useState(
    () =>
      new AddressLine(addressOf(view), (address) => {
        // the whole pool is said to be meant: an address with nothing is that of a first visit
        window.history.replaceState(null, '', `/pool?${address || WHOLE}`);
      }),
  );
  useEffect(() => {
    // the browser's own back and forward
    const onBack = () => {
      line.forget();
      setView(parseView(new URLSearchParams(window.location.search)));
    };
    // a link or a key may lead elsewhere, and an address that is written while the router is on its way calls it back
    const onPress = (event: MouseEvent) => {
      if ((event.target as Element).closest?.('a[href]')) line.now();
    };
    const onKey = (event: KeyboardEvent) => {
      if (!isTyping(event) && (event.key === 'Enter' || event.key.length === 1)) line.now();
    };
    window.addEventListener('popstate', onBack);
    document.addEventListener('click', onPress, true);
    document.addEventListener('keydown', onKey, true);
    return () => {
      window.removeEventListener('popstate', onBack);
      document.removeEventListener('click', onPress, true);
      document.removeEventListener('keydown', onKey, true);
      line.forget();
    };
  }, [line]);
  useEffect(() => {
    const asked = parseView(new URLSearchParams(parameters));
    if (line.isWish(addressOf(asked))) setView((before) => (addressOf(before) === addressOf(asked) ? before : asked));
  }, [parameters, line]);

  const writeSoon = useCallback((next: PoolView) => line.follow(addressOf(next)), [line]);
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

const addressOf = (view: PoolView): string => formatView(view).toString();

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
