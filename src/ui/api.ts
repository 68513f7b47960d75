import type { Answer, Body, CallPath, PartsOf, QueryOf, Sent } from '../contracts/calls';
import type { Issue, RefusalCode } from '../core/refusal';

/** What the server says when a call cannot be done (RFC 9457). */
export class CallError extends Error {
  constructor(
    message: string,
    /** Why, for code; `unreachable` where nothing answered. */
    readonly code: RefusalCode | 'unreachable',
    /** What is wrong with which field. */
    readonly issues: readonly Issue[] = [],
  ) {
    super(message);
  }
}

type Query = Record<string, string | number | boolean | undefined> | URLSearchParams;
/** What may stand in the address of a call, by the names of its contract. */
type QueryFor<Path extends CallPath> =
  | { [Name in keyof QueryOf<Path>]?: string | number | boolean | undefined }
  | URLSearchParams;

/** What goes with a call: what its path, its body or its file ask for, and no more. */
export type With<Path extends CallPath> = { query?: QueryFor<Path>; signal?: AbortSignal } & ([PartsOf<Path>] extends [
  never,
]
  ? { params?: undefined }
  : { params: Record<PartsOf<Path>, string | number> }) &
  (null extends Body<Path>
    ? { body?: Sent<Path>; file?: Blob }
    : Sent<Path> extends undefined
      ? { body?: undefined; file?: Blob }
      : { body: Sent<Path>; file?: undefined });

type Given<Path extends CallPath> =
  Record<never, never> extends With<Path> ? [given?: With<Path>] : [given: With<Path>];

/** Calls the product's HTTP interface, by method and path of a contract. @throws CallError with a message for people. */
export async function call<Path extends CallPath>(path: Path, ...[given]: Given<Path>): Promise<Answer<Path>> {
  const {
    params,
    query,
    body,
    file,
    signal,
  }: { params?: object; query?: Query; body?: unknown; file?: Blob; signal?: AbortSignal } = given ?? {};
  const [method, template] = path.split(' ');
  const filled = Object.entries(params ?? {}).reduce(
    (address, [name, value]) => address.replace(`{${name}}`, encodeURIComponent(value)),
    template,
  );
  const asked = query === undefined ? '' : `?${query instanceof URLSearchParams ? query : searchOf(query)}`;
  // the server holds what it answers against the same contract, in development and in tests
  return (await send(method, filled + asked, body, file, signal)) as Answer<Path>;
}

function searchOf(query: Exclude<Query, URLSearchParams>): URLSearchParams {
  const given = Object.entries(query).filter(([, value]) => value !== undefined);
  return new URLSearchParams(given.map(([name, value]) => [name, String(value)]));
}

async function send(
  method: string,
  path: string,
  body: unknown,
  file: Blob | undefined,
  signal: AbortSignal | undefined,
): Promise<unknown> {
  const type = body !== undefined ? 'application/json' : file ? 'application/octet-stream' : null;
  let response: Response;
  try {
    response = await fetch(`/api/v1${path}`, {
      method,
      signal,
      headers: type === null ? {} : { 'content-type': type },
      body: body !== undefined ? JSON.stringify(body) : file,
    });
  } catch (error) {
    if (signal?.aborted) throw error;
    throw new CallError('Jam Ladle does not answer. Is it still running?', 'unreachable');
  }
  if (response.status === 204) return undefined;
  const value = await response.json().catch((error: unknown) => {
    // given up while the answer came in
    if (signal?.aborted) throw error;
    return null;
  });
  if (!response.ok)
    throw new CallError(
      [value?.detail ?? `The server answered ${response.status}.`, value?.advice].filter(Boolean).join(' '),
      value?.code ?? 'broke',
      value?.issues ?? [],
    );
  return value;
}
