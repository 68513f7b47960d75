import type { NextRequest } from 'next/server';
import { z } from 'zod';
import { issuesOf } from '../../contracts/issues';
import { REFUSALS, Refusal, type RefusalCode, type RefusalTold, refusalOf } from '../../core/refusal';

/** An error to be told to the caller as problem details (RFC 9457). */
export class Problem extends Refusal {
  constructor(
    readonly status: number,
    readonly title: string,
    readonly detail: string,
    /** What to do about it. */
    advice?: string,
  ) {
    super(CODE_OF[status] ?? 'conflict', detail, { advice });
  }
}

const CODE_OF: Record<number, RefusalCode> = {
  400: 'makes-no-sense',
  403: 'wrong-origin',
  404: 'not-here',
  413: 'too-large',
  421: 'wrong-host',
  503: 'engine-away',
};

/** The address by which the product is used just now: links that leave it lead back there. */
export function addressInUse(request: NextRequest): string {
  return `${request.nextUrl.protocol}//${request.headers.get('host') ?? request.nextUrl.host}`;
}

type Context = { params: Promise<Record<string, string>> };
type Handler = (request: NextRequest, params: Record<string, string>) => Promise<Response>;

const LOCAL_HOSTS = new Set(['127.0.0.1', 'localhost', '[::1]']);

/**
 * What every handler shares: only requests meant for this machine and from its own pages are answered, and whatever goes
 * wrong leaves as problem details.
 */
export function handle(handler: Handler): (request: NextRequest, context: Context) => Promise<Response> {
  return async (request, context) => {
    try {
      checkOrigin(request);
      return await handler(request, await context.params);
    } catch (error) {
      return problem(error);
    }
  };
}

/** A page elsewhere that points a name of its own at 127.0.0.1, or posts a form here, is refused. */
function checkOrigin(request: NextRequest): void {
  const host = request.headers.get('host') ?? '';
  if (!LOCAL_HOSTS.has(host.replace(/:\d+$/, '')))
    throw new Problem(
      421,
      'Wrong host',
      `This server does not answer for "${host.slice(0, 100)}".`,
      'Use http://127.0.0.1.',
    );
  const origin = request.headers.get('origin');
  if (origin && origin !== `http://${host}`)
    throw new Problem(403, 'Wrong origin', 'Requests from pages of other origins are refused.');
  if (request.method !== 'GET' && request.headers.get('sec-fetch-site') === 'cross-site')
    throw new Problem(403, 'Wrong origin', 'Requests from pages of other origins are refused.');
}

function problem(error: unknown): Response {
  if (error instanceof z.ZodError)
    return problem(new Refusal('makes-no-sense', z.prettifyError(error), { issues: issuesOf(error) }));
  if (error instanceof SyntaxError) return problemResponse(400, 'The request is no JSON', senseless(error.message));
  if (/UNIQUE constraint failed/.test((error as Error).message))
    return problem(new Refusal('name-taken', 'There is one with this name already.'));
  const told = refusalOf(error);
  if (told.code === 'broke') console.error(error);
  const { status, title } = error instanceof Problem ? error : REFUSALS[told.code];
  return problemResponse(status, title, told);
}

const senseless = (message: string): RefusalTold => ({ code: 'makes-no-sense', message, advice: null, issues: [] });

function problemResponse(status: number, title: string, { code, message, advice, issues }: RefusalTold): Response {
  return Response.json(
    {
      type: 'about:blank',
      status,
      title,
      detail: message,
      code,
      ...(advice && { advice }),
      ...(issues.length > 0 && { issues }),
    },
    { status, headers: { 'content-type': 'application/problem+json' } },
  );
}

/** Body as JSON by a schema. @throws ZodError or SyntaxError, which `handle` turns into a 400. */
export async function readJson<T>(request: NextRequest, schema: z.ZodType<T>): Promise<T> {
  return schema.parse(await request.json());
}

export function readId(text: string): number {
  if (!/^\d{1,15}$/.test(text))
    throw new Problem(400, 'The request makes no sense', `"${text.slice(0, 40)}" is no number.`);
  return Number(text);
}

export function notFound(what: string): Problem {
  return new Problem(404, 'Not here', `There is no ${what}.`);
}
