import { escapeUTF8 } from 'entities';
import { type NextRequest, NextResponse } from 'next/server';
import { dataFolder } from '../../store/base/config';
import { isPassword } from '../../store/base/people';
import { openSession, SESSION_DAYS } from '../../store/base/sessions';
import { cookieManners, originOf, sessionName } from '../access';
import { checkOrigin, problem } from '../api/respond';
import { logSignIn } from '../sign-in-log';
import { SignInTries } from '../sign-in-tries';

const DAY_S = 86_400;
const MOST_FORM_BYTES = 10_000;

/** One for the process, also where code is loaded twice. */
const globals = globalThis as { jamLadleTries?: SignInTries };
globals.jamLadleTries ??= new SignInTries();
const tries = globals.jamLadleTries;

/** From where a request comes: what carries it says so, and a proxy adds whom it carries it for at the end. */
const placeOf = (request: NextRequest) => request.headers.get('x-forwarded-for')?.split(',').at(-1)?.trim() ?? 'here';

/** Where one goes when one is in: a path of ours. */
function wayTo(given: string | null): string {
  return given !== null && /^\/(?![/\\])/.test(given) && !given.startsWith('/sign-') ? given : '/';
}

/** The form, which needs no script. */
export function GET(request: NextRequest): NextResponse {
  return page(wayTo(request.nextUrl.searchParams.get('to')));
}

export async function POST(request: NextRequest): Promise<Response> {
  try {
    checkOrigin(request);
  } catch (error) {
    return problem(error);
  }
  if (Number(request.headers.get('content-length') ?? MOST_FORM_BYTES + 1) > MOST_FORM_BYTES)
    return page('/', 'That is no name and password.', 413);
  const form = await request.formData().catch(() => null);
  const text = (field: string) => String(form?.get(field) ?? '');
  const name = text('name').trim();
  const to = wayTo(text('to'));
  const place = placeOf(request);
  const waitMs = tries.waitMs(place, Date.now());
  if (waitMs > 0) {
    logSignIn('too soon', name, place);
    const seconds = Math.ceil(waitMs / 1000);
    const response = page(to, `Too many wrong passwords. Try again in ${seconds} s.`, 429, name);
    response.headers.set('retry-after', String(seconds));
    return response;
  }
  // counted before it is known: many at once are many tries
  tries.failed(place, Date.now());
  if (!(await isPassword(dataFolder(), name, text('password')))) {
    logSignIn('wrong', name, place);
    return page(to, 'This name and password do not belong together.', 401, name);
  }
  tries.succeeded(place);
  logSignIn('in', name, place);
  const response = NextResponse.redirect(new URL(to, originOf(request)), 303);
  const manners = { ...cookieManners(request), maxAge: SESSION_DAYS * DAY_S };
  response.cookies.set(sessionName(request), openSession(dataFolder(), name), manners);
  return response;
}

function page(to: string, wrong = '', status = 200, name = ''): NextResponse {
  const said = wrong === '' ? '' : `<p role="alert">${escapeUTF8(wrong)}</p>`;
  return new NextResponse(
    `<!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width">
<title>Sign in · Jam Ladle</title><style>${STYLE}</style></head><body><main><h1>Jam Ladle</h1>
<form method="post" action="/sign-in">${said}<input type="hidden" name="to" value="${escapeUTF8(to)}">
<label>Name <input name="name" autocomplete="username" required autofocus value="${escapeUTF8(name)}"></label>
<label>Password <input name="password" type="password" autocomplete="current-password" required></label>
<button>Sign in</button></form></main></body></html>`,
    { status, headers: { 'content-type': 'text/html; charset=utf-8', 'cache-control': 'no-store' } },
  );
}

/** The colours and measures of the product, without its files: nobody who is not in gets those. */
const STYLE = `:root{color-scheme:light}body{margin:0;background:#f6efe2;color:#2a1f25;font:15px/1.45 system-ui,sans-serif}
main{max-width:20rem;margin:18vh auto 0;padding:0 1rem}h1{font:600 1.7rem Georgia,serif;color:#6b2346;margin:0 0 1rem}
label{display:block;margin:.75rem 0;font-weight:600}input:not([type=hidden]){display:block;box-sizing:border-box;width:100%;margin-top:.25rem;
padding:.4rem .5rem;border:1px solid #cdbfa9;border-radius:3px;background:#fdfaf2;font:inherit}button{margin-top:.5rem;padding:.4rem 1rem;
border:0;border-radius:3px;background:#6b2346;color:#fff;font:600 1em system-ui,sans-serif}p{margin:0;padding:.25rem .5rem;background:#f6e6c3}
:focus-visible{outline:2px solid #6b2346;outline-offset:2px}`;
