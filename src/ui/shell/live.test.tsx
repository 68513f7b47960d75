import { QueryClient, QueryClientProvider, useQuery } from '@tanstack/react-query';
import { act, render, screen } from '@testing-library/react';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { LiveProvider, useLive } from './live';

/** What the server's stream of events would say. */
let say: (event: object) => void = () => {};
class Stream {
  onmessage: ((message: { data: string }) => void) | null = null;
  constructor() {
    say = (event) => this.onmessage?.({ data: JSON.stringify(event) });
  }
  close() {
    say = () => {};
  }
}

beforeEach(() => {
  vi.useFakeTimers();
  vi.stubGlobal('EventSource', Stream);
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

function Asking({ of, ask }: { of: string; ask(): number }) {
  const { data } = useQuery({ queryKey: [of], queryFn: () => Promise.resolve(ask()) });
  return (
    <p>
      {of} {data} {useLive().poolVersion}
    </p>
  );
}

describe('what follows the pool', () => {
  it('is asked at once after one change, and at its own pace after many', async () => {
    const asked = { pool: 0, decision: 0 };
    render(
      <QueryClientProvider client={new QueryClient()}>
        <LiveProvider startNow={0}>
          <Asking of="pool" ask={() => ++asked.pool} />
          <Asking of="decision" ask={() => ++asked.decision} />
        </LiveProvider>
      </QueryClientProvider>,
    );
    const pass = (ms: number) => act(() => vi.advanceTimersByTimeAsync(ms));
    await pass(0);
    expect(asked).toEqual({ pool: 1, decision: 1 });
    say({ type: 'pool', version: 7 });
    await pass(50);
    expect(asked).toEqual({ pool: 2, decision: 2 });
    expect(screen.getByText(/^pool 2 7$/)).toBeTruthy();
    for (let version = 8; version < 48; version++) {
      say({ type: 'pool', version });
      await pass(100);
    }
    // four seconds of changes
    expect(asked.pool).toBeGreaterThanOrEqual(10);
    expect(asked.pool).toBeLessThanOrEqual(13);
    expect(asked.decision).toBeLessThanOrEqual(3);
    await pass(5000);
    // what changed last has been asked for
    expect(asked.decision).toBe(3);
  });
});
