import { act, renderHook } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { MAX_SORTS } from '../../core/pool/conditions';
import { address } from '../testing';
import { useView } from './use-view';

/** The browser is at an address, and the router tells of it. */
const goTo = (search: string) => {
  History.prototype.replaceState.call(window.history, null, '', `/pool?${search}`);
  address.search = search;
};
const viewOf = (search: string) => {
  goTo(search);
  const changed = vi.fn();
  const { result, rerender } = renderHook(() => useView(changed));
  return { now: () => result.current, changed, rerender };
};
const sorts = (view: ReturnType<typeof viewOf>) =>
  view.now().view.sorts.map(({ fact, descending }) => `${fact} ${descending ? 'down' : 'up'}`);

describe('the order of the pool', () => {
  it('is by the head that was clicked, numbers from the top, and turns at the second click', () => {
    const view = viewOf('sort=domain:up');
    act(() => view.now().sortBy('referringDomains', false));
    expect(sorts(view)).toEqual(['referringDomains down']);
    act(() => view.now().sortBy('referringDomains', false));
    expect(sorts(view)).toEqual(['referringDomains up']);
  });

  it('takes further heads after the first: added, turned, left out again', () => {
    const view = viewOf('sort=strength:down');
    act(() => view.now().sortBy('ending', true));
    expect(sorts(view)).toEqual(['strength down', 'ending up']);
    act(() => view.now().sortBy('ending', true));
    expect(sorts(view)).toEqual(['strength down', 'ending down']);
    act(() => view.now().sortBy('ending', true));
    expect(sorts(view)).toEqual(['strength down']);
  });

  it('never has more heads than can be told apart, and always one', () => {
    const view = viewOf('sort=strength:down');
    for (const fact of ['trust', 'backlinks', 'referringDomains', 'length', 'hyphens'] as const)
      act(() => view.now().sortBy(fact, true));
    expect(view.now().view.sorts).toHaveLength(MAX_SORTS);
    const one = viewOf('sort=strength:up');
    act(() => one.now().sortBy('strength', true));
    expect(one.now().view.sorts).toHaveLength(1);
  });
});

describe('the address of the pool', () => {
  it('follows when the hand rests, with the last of several changes', () => {
    vi.useFakeTimers();
    try {
      const written = vi.spyOn(window.history, 'replaceState').mockImplementation(() => {});
      const view = viewOf('c=phase:free');
      act(() => view.now().sortBy('trust', false));
      act(() => view.now().sortBy('backlinks', false));
      expect(written).not.toHaveBeenCalled();
      vi.advanceTimersByTime(1000);
      expect(written.mock.calls.map(([, , to]) => decodeURIComponent(String(to)))).toEqual([
        '/pool?c=phase:free&sort=backlinks:down',
      ]);
      expect(view.changed).toHaveBeenCalledTimes(2);
    } finally {
      vi.useRealTimers();
      vi.restoreAllMocks();
    }
  });

  it('changes the view when it comes from elsewhere, and not when it is the echo of what was written', () => {
    vi.useFakeTimers();
    try {
      const view = viewOf('c=phase:free');
      act(() => view.now().sortBy('trust', false));
      vi.advanceTimersByTime(1000);
      act(() => view.now().sortBy('backlinks', false));
      address.search = 'c=phase:free&sort=trust:down';
      view.rerender();
      expect(sorts(view)).toEqual(['backlinks down']);
      goTo('c=phase:pending-delete');
      view.rerender();
      expect(view.now().view.parts).toHaveLength(1);
      expect(JSON.stringify(view.now().view.parts)).toContain('pending-delete');
    } finally {
      vi.useRealTimers();
      vi.restoreAllMocks();
    }
  });

  it('tells what of it could not be read', () => {
    expect(viewOf('c=nonsense:1').now().view.problems?.length).toBeGreaterThan(0);
  });
});

it('columns are changed without anything else being shown', () => {
  const view = viewOf('c=phase:free');
  act(() => view.now().setColumns({ shown: [{ id: 'domain', width: null }] } as never));
  expect(view.now().view.columns).toEqual({ shown: [{ id: 'domain', width: null }] });
  expect(view.changed).not.toHaveBeenCalled();
});
