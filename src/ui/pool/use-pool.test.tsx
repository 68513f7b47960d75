import { act, renderHook, waitFor } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import type { RowField } from '../../core/pool/row-columns';
import { answering, asked } from '../testing';
import { PAGE_ROWS } from './page-rows';
import { type FirstAnswer, usePool } from './use-pool';

const TOTAL = 3 * PAGE_ROWS;
interface Asked {
  offset: number;
  limit: number;
  fields: RowField[];
}

/** Rows as the server gives them: every figure that is asked for is the row's place. */
function answerOf({ offset, limit, fields }: Asked) {
  const places = Array.from({ length: Math.min(limit, TOTAL - offset) }, (_, n) => offset + n);
  const cells = Object.fromEntries(fields.map((field) => [field, places]));
  const rows = { id: places.map((n) => n + 1), name: places.map((n) => `vale${n}.org`), fields: cells };
  return {
    size: TOTAL,
    excluded: 0,
    total: TOTAL,
    parts: [],
    collisions: {},
    troubles: {},
    histograms: [],
    anchorAt: -1,
    version: 1,
    rows,
  };
}

const view = { parts: [], sorts: [], columns: null };
const anchor = { of: () => null, moved: () => undefined };

function show(first: number) {
  answering(({ body }) => answerOf(body as Asked));
  const start = answerOf({ offset: 0, limit: first, fields: ['trust'] }) as unknown as FirstAnswer;
  return renderHook(({ fields }: { fields: RowField[] }) => usePool(view, fields, null, start, false, anchor), {
    initialProps: { fields: ['trust'] },
  });
}
const offsets = () => asked.map(({ body }) => (body as Asked).offset / PAGE_ROWS);

describe('rows of the pool', () => {
  it('come with the screen, and the rest of their page when its end is near', async () => {
    const { result } = show(100);
    expect(result.current.rowAt(99)).toMatchObject({ id: 100, name: 'vale99.org', trust: 99, strength: null });
    act(() => result.current.ensure(0, 40));
    expect(offsets()).toEqual([]);
    act(() => result.current.ensure(60, 95));
    await waitFor(() => expect(result.current.rowAt(150)?.trust).toBe(150));
    expect(offsets()).toEqual([0]);
    act(() => result.current.ensure(190, 230));
    await waitFor(() => expect(result.current.rowAt(230)?.trust).toBe(230));
    expect(offsets()).toEqual([0, 1]);
  });

  it('are loaded again where a column is drawn that they do not carry, also those that came while it was not', async () => {
    const { result, rerender } = show(PAGE_ROWS);
    rerender({ fields: ['trust', 'strength'] });
    await waitFor(() => expect(result.current.rowAt(5)?.strength).toBe(5));
    rerender({ fields: ['trust'] });
    act(() => result.current.ensure(PAGE_ROWS, PAGE_ROWS + 30));
    await waitFor(() => expect(result.current.rowAt(PAGE_ROWS)?.trust).toBe(PAGE_ROWS));
    expect(result.current.rowAt(PAGE_ROWS)?.strength).toBeNull();
    rerender({ fields: ['trust', 'strength'] });
    await waitFor(() => expect(result.current.rowAt(PAGE_ROWS)?.strength).toBe(PAGE_ROWS));
  });

  it('that were asked for with fewer fields do not take the place of those with more', async () => {
    const { result, rerender } = show(PAGE_ROWS);
    act(() => result.current.ensure(PAGE_ROWS, PAGE_ROWS + 30));
    rerender({ fields: ['trust', 'strength'] });
    await waitFor(() => expect(result.current.rowAt(PAGE_ROWS)?.strength).toBe(PAGE_ROWS));
    // fewer than what came do no harm
    rerender({ fields: ['strength'] });
    expect(result.current.rowAt(PAGE_ROWS)?.strength).toBe(PAGE_ROWS);
  });
});
