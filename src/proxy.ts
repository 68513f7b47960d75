import { type NextRequest, NextResponse } from 'next/server';

/** React's own words on errors, and the socket by which changed code comes, need more while one works on it (`npm run dev`). */
const isDevelopment = process.env.NODE_ENV === 'development';

/** A strict content security policy for every page: only our own scripts, by nonce, and nothing from elsewhere. */
export function proxy(request: NextRequest): NextResponse {
  const host = (request.headers.get('host') ?? '').replace(/:\d+$/, '');
  if (!['127.0.0.1', 'localhost', '[::1]'].includes(host))
    return new NextResponse('Jam Ladle answers on 127.0.0.1 only.', { status: 421 });
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
  response.headers.set('referrer-policy', 'no-referrer');
  return response;
}

export const config = { matcher: ['/((?!api/|_next/static|favicon.ico|icon.svg).*)'] };
