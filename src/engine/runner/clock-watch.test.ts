import pino from 'pino';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { lastSeen } from '../../store/base/after-set-back';
import type { Store } from '../../store/base/database';
import { freshStore } from '../../store/base/testing';
import { addWatch, dueWatches } from '../../store/sources/watches';
import { ClockWatch } from './clock-watch';

const MINUTE = 60_000;
const HOUR = 60 * MINUTE;
const NOON = Date.UTC(2026, 10, 20, 12);
const warned = vi.fn();
const log = Object.assign(pino({ level: 'silent' }), { warn: warned });
let store: Store;

beforeEach(async () => {
  vi.useFakeTimers({ toFake: ['Date'], now: NOON });
  warned.mockClear();
  store = await freshStore();
  addWatch(
    store,
    {
      kind: 'folder',
      target: '/srv/lists',
      name: 'Lists',
      options: { excludedEndings: [], checkAfter: false },
      sourceId: null,
      everyMs: 15 * MINUTE,
    },
    NOON + 10 * MINUTE,
  );
});
afterEach(() => vi.useRealTimers());

describe('the watch on the clock', () => {
  it('moves along what was to happen when the clock is set back while it runs, and says so in the log, once', () => {
    const watch = new ClockWatch(store, log);
    watch.turn();
    expect(lastSeen(store)).toBe(NOON);
    vi.setSystemTime(NOON - 5 * HOUR);
    watch.turn();
    watch.turn();
    expect(warned).toHaveBeenCalledOnce();
    expect(dueWatches(store, NOON - 5 * HOUR + 11 * MINUTE)).toHaveLength(1);
    expect(lastSeen(store)).toBe(NOON - 5 * HOUR);
  });

  it('sees at its start what happened while nothing ran', () => {
    new ClockWatch(store, log).turn();
    vi.setSystemTime(NOON - 48 * HOUR);
    new ClockWatch(store, log);
    expect(warned).toHaveBeenCalledOnce();
    expect(dueWatches(store, NOON - 48 * HOUR + 15 * MINUTE)).toHaveLength(1);
    new ClockWatch(store, log);
    expect(warned).toHaveBeenCalledOnce();
  });

  it('lets a clock be that goes on or is set forward', () => {
    const watch = new ClockWatch(store, log);
    watch.turn();
    vi.setSystemTime(NOON + 9 * HOUR);
    watch.turn();
    expect(warned).not.toHaveBeenCalled();
  });
});
