import { type NextRequest, NextResponse } from 'next/server';
import { cookieManners, cookieName, holdsKey, isForUs, originOf, signedIn, wantedKey } from './app/access';
import { isSameKey } from './store/base/access-key';
import { dataFolder } from './store/base/config';
import { peopleOf } from './store/base/people';

/** React's own words on errors, and the socket by which changed code comes, need more while one works on it (`npm run dev`). */
const isDevelopment = process.env.NODE_ENV === 'development';

/** Pages are for who has the key, and have a strict content security policy: only our own scripts, by nonce, and nothing from elsewhere. */
export function proxy(request: NextRequest): NextResponse {
  if (!isForUs(request))
    return new NextResponse('Jam Ladle does not answer under this name. Who started it says under which it does.', {
      status: 421,
    });
  const refusal = askForKey(request);
  if (refusal) return refusal;
  const nonce = btoa(crypto.randomUUID());
  const policy = [
    `default-src 'self'`,
    `script-src 'self' 'nonce-${nonce}' 'strict-dynamic'${isDevelopment ? " 'unsafe-eval'" : ''}`,
    `style-src 'self' 'unsafe-inline'`,
    `img-src 'self' data:`,
    `connect-src 'self'${isDevelopment ? ' ws:' : ''}`,
    `object-src 'none'`,
    `base-uri 'none'`,
    `form-action 'self'`,
    `frame-ancestors 'none'`,
  ].join('; ');
  const headers = new Headers(request.headers);
  headers.set('content-security-policy', policy);
  const response = NextResponse.next({ request: { headers } });
  response.headers.set('content-security-policy', policy);
  response.headers.set('x-content-type-options', 'nosniff');
  // none for others; without one for our own pages a form would not say where it comes from
  response.headers.set('referrer-policy', 'same-origin');
  // kept by nobody, and not packed: on one machine that costs more than it saves
  response.headers.set('cache-control', 'private, no-store, no-transform');
  return response;
}

/**
 * In real mode the address that is printed at the start carries a key. Opening it sets a cookie, and the key leaves the address; who has
 * neither gets nothing.
 */
function askForKey(request: NextRequest): NextResponse | null {
  const key = wantedKey();
  if (key === null) return null;
  const { nextUrl } = request;
  const given = nextUrl.searchParams.get('key');
  if (given !== null && isSameKey(given, key)) {
    const address = nextUrl.clone();
    address.searchParams.delete('key');
    const response = NextResponse.redirect(new URL(`${address.pathname}${address.search}`, originOf(request)));
    response.cookies.set(cookieName(request), key, { ...cookieManners(request), maxAge: YEAR_S });
    return response;
  }
  if (holdsKey(request, key) || nextUrl.pathname === '/sign-in' || signedIn(request) !== null) return null;
  if (peopleOf(dataFolder()).length > 0) {
    const signIn = new URL('/sign-in', originOf(request));
    signIn.searchParams.set('to', `${nextUrl.pathname}${nextUrl.search}`);
    return NextResponse.redirect(signIn, 303);
  }
  return new NextResponse(
    'This Jam Ladle belongs to somebody. Open the address that was printed when it was started: it carries the key.\n',
    { status: 401, headers: { 'content-type': 'text/plain; charset=utf-8', 'cache-control': 'no-store' } },
  );
}
const YEAR_S = 31_536_000;

export const config = { matcher: ['/((?!api/|_next/static|favicon.ico|icon.svg).*)'] };
