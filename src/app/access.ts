import type { NextRequest } from 'next/server';
import { accessKey, feedKeyOf, isSameKey } from '../store/base/access-key';
import { dataFolder, loadConfig } from '../store/base/config';

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
export const cookieName = (request: NextRequest) =>
  `jam-ladle-${/:(\d+)$/.exec(request.headers.get('host') ?? '')?.[1] ?? '80'}`;

/** What a script bears; null: nothing. */
export const bornBy = (request: NextRequest): string | null =>
  /^Bearer (.+)$/.exec(request.headers.get('authorization') ?? '')?.[1] ?? null;

/** Whether a request has the key: in the cookie that opening the printed address sets, or as a script bears it. */
export function holdsKey(request: NextRequest, key: string): boolean {
  const given = bornBy(request) ?? request.cookies.get(cookieName(request))?.value;
  return given !== undefined && isSameKey(given, key);
}

/** Whether a feed is asked for with the key that opens feeds alone. */
export function holdsFeedKey(request: NextRequest, key: string): boolean {
  return isSameKey(request.nextUrl.searchParams.get('key') ?? '', feedKeyOf(key));
}
