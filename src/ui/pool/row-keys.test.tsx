import { renderHook } from '@testing-library/react';
import { beforeEach, describe, expect, it } from 'vitest';
import type { StoredSieve } from '../../contracts/sieves';
import { parseView } from '../../core/pool/conditions';
import type { DomainView } from '../../core/pool/domain-view';
import { withNewSearch } from './new-search';
import { actOfKey, isForRows } from './row-keys';
import { useKeptSieve } from './use-kept-sieve';

describe('keys over rows', () => {
  const row = { shortlisted: false, watched: null } as DomainView;
  const key = (name: Parameters<typeof actOfKey>[0], current: DomainView | null = row, isOne = true) =>
    actOfKey(name, { current, isOne, briefId: 4, now: 1000 });

  it('judge, put off and take back', () => {
    expect(
      (['keep', 'pass', 'spam', 'clean', 'takeBack', 'exclude'] as const).map(
        (name) => (key(name) as { judged: string }).judged,
      ),
    ).toEqual(['keep', 'pass', 'spam', 'clean', 'not-yet', 'excluded']);
    expect(key('snooze')).toEqual({ kind: 'judge', judged: 'snoozed', until: 1000 + 7 * 86_400_000 });
    expect(key('open')).toBeNull();
  });

  it('turn one row the other way round, and only put several on', () => {
    const on = { ...row, shortlisted: true, watched: 'by hand' } as DomainView;
    expect(key('shortlist')).toEqual({ kind: 'shortlist', brief: 4 });
    expect(key('shortlist', on)).toEqual({ kind: 'unshortlist', brief: 4 });
    expect(key('shortlist', on, false)).toEqual({ kind: 'shortlist', brief: 4 });
    expect(key('shortlist', null)).toBeNull();
    expect(key('watch', on)).toEqual({ kind: 'unwatch' });
    expect(key('watch', on, false)).toEqual({ kind: 'watch' });
  });

  describe('without the focus on the rows', () => {
    beforeEach(() => {
      document.body.innerHTML =
        '<div id="grid"><button id="cell"></button></div><input id="field"><button id="other"></button>';
    });
    const heard = (id: string | null, init: KeyboardEventInit) => {
      let isHeard = false;
      const target = id === null ? document.body : (document.getElementById(id) as HTMLElement);
      const listen = (event: KeyboardEvent) => {
        isHeard = isForRows(event);
      };
      target.addEventListener('keydown', listen);
      target.dispatchEvent(new KeyboardEvent('keydown', { bubbles: true, ...init }));
      target.removeEventListener('keydown', listen);
      return isHeard;
    };

    it('are for the rows where nothing else has it', () => {
      expect(heard(null, { key: 'y' })).toBe(true);
      expect(heard('other', { key: 'y' })).toBe(false);
      expect(heard('field', { key: 'y' })).toBe(false);
      // those inside hear it themselves
      expect(heard('cell', { key: 'y' })).toBe(false);
    });

    it('select all from a button, but not from a field, and nothing under a dialog', () => {
      expect(heard('other', { key: 'a', ctrlKey: true })).toBe(true);
      expect(heard('field', { key: 'a', ctrlKey: true })).toBe(false);
      document.body.insertAdjacentHTML('beforeend', '<div role="dialog"></div>');
      expect(heard(null, { key: 'y' })).toBe(false);
    });
  });
});

describe('a new search', () => {
  const view = (search: string) => parseView(new URLSearchParams(search));

  it('is added where there is none', () => {
    const { at, next } = withNewSearch(view('c=phase:free'));
    expect(at).toBe('1');
    expect(next?.parts).toHaveLength(2);
  });

  it('takes the place of the words that stand, and leaves an empty one as it is', () => {
    const found = withNewSearch(view('c=phase:free&c=name:honey'));
    expect(found.at).toBe('1');
    expect(found.next?.parts[1]).toMatchObject({ type: 'text', values: [] });
    expect(withNewSearch(found.next as ReturnType<typeof view>)).toEqual({ at: '1', next: null });
  });
});

describe('the kept sieve of a view', () => {
  const sieve = (id: number, kept: string) => ({ id, view: kept }) as StoredSieve;
  const sieves = [sieve(1, 'c=phase%3Afree&columns=domain'), sieve(2, 'c=phase%3Apending-delete')];
  const use = (address: string, hasParts = true) =>
    renderHook((props: { address: string; hasParts: boolean }) => useKeptSieve(sieves, props.address, props.hasParts), {
      initialProps: { address, hasParts },
    });

  it('is the one with the same conditions, whatever its columns', () => {
    const { result } = use('c=phase%3Afree');
    expect([result.current.kept?.id, result.current.isChanged]).toEqual([1, false]);
  });

  it('stays itself while it is changed, until its conditions are gone', () => {
    const { result, rerender } = use('c=phase%3Afree');
    rerender({ address: 'c=phase%3Afree&c=length%3A..8', hasParts: true });
    expect([result.current.kept?.id, result.current.isChanged]).toEqual([1, true]);
    rerender({ address: '', hasParts: false });
    expect([result.current.kept, result.current.isChanged]).toEqual([null, false]);
  });
});
