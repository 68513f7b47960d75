import { NextRequest } from 'next/server';
import { vi } from 'vitest';
import type { CallPath, PartsOf, Sent } from '../../contracts/calls';
import { accessKey } from '../../store/base/access-key';
import { dataFolder } from '../../store/base/config';
import type { Store } from '../../store/base/database';
import { freshStore } from '../../store/base/testing';
import { type Brief, listBriefs } from '../../store/shortlist/briefs';
import { briefOfTest } from '../../store/testing';

/** What routes are given instead of the process's own: a store of the test, and an engine that answers what the test says. */
const given: { store: Store | null; answers: Record<string, (...values: never[]) => unknown> } = {
  store: null,
  answers: {},
};
/** What was asked of the engine, in order. */
export const engineAsked: { call: string; values: unknown[] }[] = [];

const engine = new Proxy(
  {},
  {
    get:
      (_, call: string) =>
      async (...values: never[]) => {
        engineAsked.push({ call, values });
        const answer = given.answers[call];
        if (!answer) throw new Error(`the engine is starting: ${call}`);
        return answer(...values);
      },
  },
);

vi.mock('../server', () => ({
  getStore: async () => given.store,
  getEngine: () => engine,
  forgetStore: () => undefined,
  currentBrief: async () => {
    const briefs = listBriefs(given.store as Store);
    return { store: given.store, engine, briefs, brief: briefs[0] };
  },
}));

/** Begins a test: an empty store with one brief, and an engine that answers only what is given. */
export async function serving(answers: typeof given.answers = {}): Promise<{ store: Store; brief: Brief }> {
  const store = await freshStore();
  given.store = store;
  given.answers = answers;
  engineAsked.length = 0;
  vi.stubEnv('JAM_LADLE_DATA', store.folder);
  return { store, brief: briefOfTest(store) };
}

/** Another engine for what follows. */
export function engineAnswers(answers: typeof given.answers): void {
  given.answers = answers;
}

/** What was asked of one call of the engine, in order. */
export const called = (call: string): unknown[][] =>
  engineAsked.filter((one) => one.call === call).map(({ values }) => values);

/** A job as the engine answers it: one that was just ordered, but for what is given. */
export const jobOfTest = (part: object = {}): object => ({
  id: 3,
  kind: 'measure',
  sourceId: null,
  state: 'queued',
  progress: null,
  error: null,
  createdAt: 1,
  startedAt: null,
  finishedAt: null,
  params: {},
  checkpoint: null,
  next: [],
  ...part,
});

type Params<Path extends CallPath> = [PartsOf<Path>] extends [never]
  ? { params?: undefined }
  : { params: Record<PartsOf<Path>, string | number> };

export type AskedWith<Path extends CallPath> = {
  query?: string;
  body?: Sent<Path> | object;
  file?: string | Uint8Array;
  form?: FormData;
  /** Another key than that of the data folder; null: none. */
  key?: string | null;
} & Params<Path>;

/** What a route answers: its status, its JSON where it is some, else its text. */
export interface Told {
  status: number;
  // biome-ignore lint/suspicious/noExplicitAny: a test looks into answers of every shape; each is held against its contract by the route
  value: any;
  text: string;
  headers: Headers;
}

/** Calls a route as the server does. In tests a route holds what it answers against its contract, both ways. */
export async function ask<Path extends CallPath>(
  path: Path,
  ...[asked]: PartsOf<Path> extends never ? [asked?: AskedWith<Path>] : [asked: AskedWith<Path>]
): Promise<Told> {
  const [method, template] = path.split(' ');
  const params = Object.fromEntries(Object.entries(asked?.params ?? {}).map(([name, value]) => [name, String(value)]));
  const folder = template.replaceAll('{', '[').replaceAll('}', ']');
  const handlers = (await import(/* @vite-ignore */ `./v1${folder}/route.ts`)) as Record<
    string,
    (request: NextRequest, context: object) => Promise<Response>
  >;
  const address = Object.entries(params).reduce(
    (filled, [part, value]) => filled.replace(`{${part}}`, encodeURIComponent(value)),
    template,
  );
  const isJson = asked?.body !== undefined;
  const request = new NextRequest(`http://127.0.0.1:4310/api/v1${address}${asked?.query ? `?${asked.query}` : ''}`, {
    method,
    headers: {
      host: '127.0.0.1:4310',
      ...(asked?.key !== null && { authorization: `Bearer ${asked?.key ?? accessKey(dataFolder())}` }),
      ...(isJson && { 'content-type': 'application/json' }),
      ...(asked?.file !== undefined && { 'content-type': 'application/octet-stream' }),
    },
    body: isJson ? JSON.stringify(asked?.body) : ((asked?.form ?? asked?.file) as BodyInit | undefined),
  });
  const response = await handlers[method](request, { params: Promise.resolve(params) });
  const text = await response.text();
  const isTold =
    /json/.test(response.headers.get('content-type') ?? '') &&
    !/jsonl/.test(response.headers.get('content-type') ?? '');
  return { status: response.status, text, headers: response.headers, value: isTold ? JSON.parse(text) : null };
}
