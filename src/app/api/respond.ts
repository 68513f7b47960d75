import { isDeepStrictEqual } from 'node:util';
import type { NextRequest } from 'next/server';
import { z } from 'zod';
import { type Call, neededFor } from '../../contracts/call';
import { type Body, CALLS, type CallPath, type Given, type PartsOf, type QueryOf } from '../../contracts/calls';
import { issuesOf } from '../../contracts/issues';
import { readQuery } from '../../contracts/query';
import { REFUSALS, Refusal, type RefusalCode, type RefusalTold, refusalOf } from '../../core/refusal';
import { isEnough, SCOPE_WORDS } from '../../core/settings/token-scopes';
import { actingAs } from '../../core/work/actor';
import { YOU } from '../../core/work/you';
import { toldByStore } from '../../store/base/refusals';
import { tokenOf } from '../../store/base/tokens';
import { bornBy, holdsFeedKey, holdsKey, hostOf, isForUs, originOf, signedIn, wantedKey } from '../access';
import { getStore } from '../server';
import { jsonOf } from './bodies';

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
  return originOf(request);
}

type Context = { params: Promise<Record<string, string>> };

/** An answer with another status than its contract names first. */
class Answered<T> {
  constructor(
    readonly status: number,
    readonly value: T,
    readonly headers: Record<string, string> = {},
  ) {}
}
export const answered = <T>(status: number, value: T): Answered<T> => new Answered(status, value);

/** An answer that browsers keep as a file. */
export const asFile = <T>(name: string, value: T): Answered<T> =>
  new Answered(200, value, { 'content-disposition': `attachment; filename="${encodeURIComponent(name)}"` });

interface Asked<Path extends CallPath> {
  request: NextRequest;
  /** What stands in the braces of the path. */
  params: Record<PartsOf<Path>, string>;
  /** What was sent as JSON, read by the contract; null: a file was sent instead. */
  body: Body<Path>;
  /** What stands in the address behind the question mark, read by the contract. */
  query: QueryOf<Path>;
}

type Handler<Path extends CallPath> = (
  asked: Asked<Path>,
) => Response | Given<Path> | Answered<Given<Path>> | Promise<Response | Given<Path> | Answered<Given<Path>>>;

/**
 * A route, by the contract of its path: only requests meant for this machine and from its own pages are answered, what is sent is read
 * once, and whatever goes wrong leaves as problem details. A handler that has a file or a stream to give, or nothing, gives a Response.
 */
export function route<Path extends CallPath>(path: Path, handler: Handler<Path>) {
  const call: Call = CALLS[path];
  return async (request: NextRequest, context: Context): Promise<Response> => {
    try {
      checkOrigin(request);
      const who = await checkKey(request, path, call);
      // the contract is the one that these types are taken from
      const query = readQuery(call.query ?? {}, request.nextUrl.searchParams);
      const body = await readBody(request, call);
      const asked = { request, params: await context.params, body, query } as Asked<Path>;
      const given = await actingAs(who, async () => handler(asked));
      if (given instanceof Response) return given;
      const { status, value, headers } = given instanceof Answered ? given : new Answered(call.status ?? 200, given);
      if (CHECKS_ANSWERS) checkAnswer(path, call, value);
      return Response.json(value, { status, headers });
    } catch (error) {
      return problem(error);
    }
  };
}

async function readBody(request: NextRequest, call: Call): Promise<unknown> {
  if (!call.body) return null;
  const isJson = request.headers.get('content-type')?.startsWith('application/json') ?? false;
  return call.file && !isJson ? null : call.body.parse(await jsonOf(request));
}

/** In development and in tests every answer is held against its contract: both ways, what lacks and what is not named. */
const CHECKS_ANSWERS = process.env.NODE_ENV !== 'production' || process.env.JAM_LADLE_CHECKS_ANSWERS === '1';

function checkAnswer(path: string, { answer }: Call, value: unknown): void {
  if (!answer) throw new Error(`${path} has no answer in its contract`);
  const sent: unknown = JSON.parse(JSON.stringify(value));
  const read = answer.safeParse(sent);
  if (!read.success)
    throw new Error(`${path} answers what its contract does not allow: ${z.prettifyError(read.error)}`);
  const more = unnamed(sent, read.data);
  if (more.length > 0) throw new Error(`${path} answers more than its contract names: ${more.join(', ')}`);
}

/** Paths of what is in one value and not in the other. */
function unnamed(sent: unknown, read: unknown, at = ''): string[] {
  if (typeof sent !== 'object' || sent === null) return isDeepStrictEqual(sent, read) ? [] : [at];
  const other = (read ?? {}) as Record<string, unknown>;
  return Object.entries(sent).flatMap(([key, value]) =>
    key in other ? unnamed(value, other[key], `${at}.${key}`) : [`${at}.${key}`],
  );
}

/**
 * Another program of this machine reaches the port, too: it knows neither the key nor a token.
 *
 * @param path of the call, by its method.
 * @throws Refusal `no-key`, or `scope-too-small` where a token is born that does not let do it.
 */
export async function checkKey(
  request: NextRequest,
  path: string,
  { access, needs }: Pick<Call, 'access' | 'needs'>,
): Promise<string> {
  const key = access === 'open' ? null : wantedKey();
  if (key === null || holdsKey(request, key) || (access === 'feed' && holdsFeedKey(request, key))) return YOU;
  const name = signedIn(request);
  if (name !== null) return name;
  const token = bornBy(request);
  const entry = token === null ? null : tokenOf(await getStore(), token);
  const scope = entry?.scope ?? null;
  const needed = neededFor(path, { needs });
  if (entry !== null && isEnough(entry.scope, needed)) return `script ${entry.name}`;
  if (scope !== null)
    throw new Refusal('scope-too-small', `This token lets ${SCOPE_WORDS[scope]}; ${path} is more than that.`, {
      advice:
        needed === 'owner' ? 'Bear the key of the data folder.' : `Make a token that lets ${needed}, in Settings.`,
    });
  throw new Refusal('no-key', 'This belongs to somebody: the key of its data folder is asked for.', {
    advice:
      'Open the address that was printed at the start, or bear the token of the data folder: Authorization: Bearer …',
  });
}

/** A page elsewhere that points a name of its own at 127.0.0.1, or posts a form here, is refused. */
export function checkOrigin(request: NextRequest): void {
  if (!isForUs(request))
    throw new Problem(
      421,
      'Wrong host',
      `This server does not answer for "${hostOf(request).slice(0, 100)}".`,
      'Use http://127.0.0.1, or the address that JAM_LADLE_HOST or JAM_LADLE_ORIGIN says.',
    );
  const origin = request.headers.get('origin');
  if (origin && origin !== originOf(request))
    throw new Problem(403, 'Wrong origin', 'Requests from pages of other origins are refused.');
  if (request.method !== 'GET' && request.headers.get('sec-fetch-site') === 'cross-site')
    throw new Problem(403, 'Wrong origin', 'Requests from pages of other origins are refused.');
}

/** What went wrong, as problem details. */
export function problem(error: unknown): Response {
  if (error instanceof z.ZodError)
    return problem(new Refusal('makes-no-sense', z.prettifyError(error), { issues: issuesOf(error) }));
  if (error instanceof SyntaxError) return problemResponse(400, 'The request is no JSON', senseless(error.message));
  if (/UNIQUE constraint failed/.test((error as Error).message))
    return problem(new Refusal('name-taken', 'There is one with this name already.'));
  const told = refusalOf(toldByStore(error));
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
    {
      status,
      headers: {
        'content-type': 'application/problem+json',
        // what was not read of a refused body must not stand before the next request
        ...((status === 413 || status === 507) && { connection: 'close' }),
      },
    },
  );
}

export function readId(text: string): number {
  if (!/^\d{1,15}$/.test(text))
    throw new Problem(400, 'The request makes no sense', `"${text.slice(0, 40)}" is no number.`);
  return Number(text);
}

export function notFound(what: string): Problem {
  return new Problem(404, 'Not here', `There is no ${what}.`);
}
