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

/** Calls the product's HTTP interface. @throws CallError with a message for people. */
export async function call<T>(
  path: string,
  options: { method?: string; body?: unknown; file?: Blob; signal?: AbortSignal } = {},
): Promise<T> {
  const { method = options.body !== undefined || options.file ? 'POST' : 'GET', body, file, signal } = options;
  let response: Response;
  try {
    response = await fetch(`/api/v1${path}`, {
      method,
      signal,
      headers:
        body !== undefined
          ? { 'content-type': 'application/json' }
          : file
            ? { 'content-type': 'application/octet-stream' }
            : {},
      body: body !== undefined ? JSON.stringify(body) : file,
    });
  } catch (error) {
    if (signal?.aborted) throw error;
    throw new CallError('Jam Ladle does not answer. Is it still running?', 'unreachable');
  }
  if (response.status === 204) return undefined as T;
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
  return value as T;
}
