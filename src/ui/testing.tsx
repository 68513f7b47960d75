import { cleanup, type RenderOptions } from '@testing-library/react';
import type { ReactNode } from 'react';
import { afterEach, beforeEach, vi } from 'vitest';
import { ServerState } from './server-state';

interface Toast {
  words: string;
  /** Presses the button that stands on it. */
  undo?: () => void;
}

interface Asked {
  method: string;
  path: string;
  body: unknown;
}

/**
 * What happened since a test began. This module is read anew for each file, and what stands in the place of others is kept by the worker, as all
 * modules are: both look at the same.
 */
const happened = Object.assign(globalThis, {
  ofScreens: (globalThis as { ofScreens?: Happened }).ofScreens ?? {
    sentTo: [],
    refreshed: { times: 0 },
    address: { search: '' },
    said: [],
    asked: [],
  },
}).ofScreens as Happened;

interface Happened {
  sentTo: string[];
  refreshed: { times: number };
  address: { search: string };
  said: Toast[];
  asked: Asked[];
}

/** Where the router was sent since the test began. */
export const sentTo = happened.sentTo;
/** How often a screen asked for its page anew. */
export const refreshed = happened.refreshed;
/** What stands after the `?` of the address. */
export const address = happened.address;
/** What was said on the edge of the screen, in order. */
export const said = happened.said;
/** What was asked of the server since `answering`, in order. */
export const asked = happened.asked;

vi.mock('sonner', () => ({
  toast: (words: string, options?: { action?: { onClick(): void } }) => {
    said.push({ words, undo: options?.action?.onClick });
  },
  Toaster: () => null,
}));

vi.mock('next/navigation', () => ({
  useRouter: () => ({
    push: (to: string) => sentTo.push(to),
    replace: (to: string) => sentTo.push(to),
    refresh: () => {
      refreshed.times++;
    },
  }),
  useSearchParams: () => searchParams(),
  usePathname: () => '/',
}));

// every screen stands within what keeps the server's answers
vi.mock('@testing-library/react', async (importActual) => {
  const actual = await importActual<typeof import('@testing-library/react')>();
  return {
    ...actual,
    render: (ui: ReactNode, options?: RenderOptions) => actual.render(ui, { wrapper: ServerState, ...options }),
    renderHook: <Result, Props>(hook: (props: Props) => Result, options?: { initialProps?: Props }) =>
      actual.renderHook(hook, { wrapper: ServerState, ...options }),
  };
});

type Respond = (asked: Asked) => unknown;

let parsed = { search: '', parameters: new URLSearchParams() };
/** The same object as long as the address is the same, as the router has it. */
function searchParams(): URLSearchParams {
  if (parsed.search !== address.search)
    parsed = { search: address.search, parameters: new URLSearchParams(address.search) };
  return parsed.parameters;
}

/** A problem as the server says it (RFC 9457). */
export const problem = (detail: string, status = 400) => ({ problem: { detail, code: 'invalid', issues: [] }, status });

/** Lets a test be the server: what `respond` gives is the answer, a `problem` its refusal; undefined is an empty answer. */
export function answering(respond: Respond): void {
  vi.stubGlobal('fetch', async (input: string, { method = 'GET', body }: RequestInit = {}) => {
    const one = {
      method,
      path: String(input).replace('/api/v1', ''),
      body: typeof body === 'string' ? JSON.parse(body) : body,
    };
    asked.push(one);
    const value = await respond(one);
    if (value === undefined) return new Response(null, { status: 204 });
    const refusal = value as ReturnType<typeof problem>;
    return refusal.problem && refusal.status
      ? Response.json(refusal.problem, { status: refusal.status })
      : Response.json(value, { status: 200 });
  });
}

beforeEach(() => {
  sentTo.length = 0;
  refreshed.times = 0;
  asked.length = 0;
  said.length = 0;
  address.search = '';
  window.localStorage?.clear();
  // what the stand-in for a browser does not have and screens ask for
  window.HTMLElement.prototype.scrollIntoView = () => {};
  window.HTMLElement.prototype.hasPointerCapture = () => false;
  window.HTMLElement.prototype.releasePointerCapture = () => {};
  vi.stubGlobal(
    'ResizeObserver',
    class {
      observe() {}
      unobserve() {}
      disconnect() {}
    },
  );
});

afterEach(() => {
  cleanup();
  // the page is that of all files in turn
  document.body.replaceChildren();
  vi.unstubAllGlobals();
});
