import { cookies, headers } from 'next/headers';
import type { NextRequest } from 'next/server';
import { accessKey, feedKeyOf, isSameKey } from '../store/base/access-key';
import { dataFolder, loadConfig } from '../store/base/config';
import { isOurHost, originFor, type Reach, reachOf } from '../store/base/reach';
import { sessionOf } from '../store/base/sessions';

/** By folder: it is read once a process. */
const globals = globalThis as { jamLadleAccess?: Map<string, string | null> };
globals.jamLadleAccess ??= new Map();
const known = globals.jamLadleAccess;

/** The key that is asked for; null: the demo, whose data are made up, asks for none. */
export function wantedKey(): string | null {
  const folder = dataFolder();
  let key = known.get(folder);
  if (key === undefined) {
    key = loadConfig(folder).mode === 'demo' ? null : accessKey(folder);
    known.set(folder, key);
  }
  return key;
}

/** Cookies know no ports: two products of one machine keep theirs apart by name. */
export const cookieName = (request: NextRequest) => cookieNameFor(hostOf(request));
const cookieNameFor = (host: string) => `jam-ladle-${/:(\d+)$/.exec(host)?.[1] ?? '80'}`;

/** What a script bears; null: nothing. */
export const bornBy = (request: NextRequest): string | null =>
  /^Bearer (.+)$/.exec(request.headers.get('authorization') ?? '')?.[1] ?? null;

let reach: Reach | null = null;
/** From where this product can be reached; said by who started it. */
function reachNow(): Reach {
  reach ??= reachOf(process.env);
  return reach;
}

/** What a request was meant for. */
export const hostOf = (request: NextRequest): string => request.headers.get('host') ?? '';

/** Whether a request is meant for this product. */
export const isForUs = (request: NextRequest): boolean => isOurHost(hostOf(request), reachNow());

/** The address that a browser is on when it asks, without a path: `http://127.0.0.1:4310`. */
export const originOf = (request: NextRequest): string => originFor(hostOf(request), reachNow());

/** How cookies are set: they leave with requests of our own pages alone, and where a proxy encrypts, encrypted only. */
export const cookieManners = (request: NextRequest) => ({
  httpOnly: true,
  sameSite: 'strict' as const,
  path: '/',
  secure: originOf(request).startsWith('https:'),
});

/** Under which name a session stands. */
export const sessionName = (request: NextRequest) => sessionNameFor(hostOf(request));
const sessionNameFor = (host: string) => `${cookieNameFor(host)}-session`;

/** Who has signed in with a password; null: nobody. */
export function signedIn(request: NextRequest): string | null {
  const token = request.cookies.get(sessionName(request))?.value;
  return token === undefined ? null : sessionOf(dataFolder(), token);
}

/** Who has signed in, for a page; null: nobody, or with the key. */
export async function whoIsIn(): Promise<string | null> {
  const name = sessionNameFor((await headers()).get('host') ?? '');
  const token = (await cookies()).get(name)?.value;
  return token === undefined ? null : sessionOf(dataFolder(), token);
}

/** Whether a request has the key: in the cookie that opening the printed address sets, or as a script bears it. */
export function holdsKey(request: NextRequest, key: string): boolean {
  const given = bornBy(request) ?? request.cookies.get(cookieName(request))?.value;
  return given !== undefined && isSameKey(given, key);
}

/** Whether a feed is asked for with the key that opens feeds alone. */
export function holdsFeedKey(request: NextRequest, key: string): boolean {
  return isSameKey(request.nextUrl.searchParams.get('key') ?? '', feedKeyOf(key));
}
