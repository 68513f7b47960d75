import { useQuery } from '@tanstack/react-query';
import { createElement } from 'react';
import { renderToString } from 'react-dom/server';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { ServerState } from './server-state';

vi.mock('next/navigation', () => ({ useRouter: () => ({ refresh: () => undefined }) }));

function Asking() {
  const { data = 'nothing yet' } = useQuery({ queryKey: ['pool'], queryFn: () => 'much' });
  return createElement('p', null, data);
}

beforeEach(() => {
  vi.useFakeTimers();
});
afterEach(() => {
  vi.useRealTimers();
});

describe('a page that the server draws', () => {
  it('is held by nothing when it is drawn: no timer waits to forget what it asked for', () => {
    const drawn = renderToString(createElement(ServerState, null, createElement(Asking)));
    expect(drawn).toContain('nothing yet');
    expect(vi.getTimerCount()).toBe(0);
  });
});
