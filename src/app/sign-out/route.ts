import { type NextRequest, NextResponse } from 'next/server';
import { dataFolder } from '../../store/base/config';
import { endSession } from '../../store/base/sessions';
import { originOf, sessionName, signedIn } from '../access';
import { checkOrigin, problem } from '../api/respond';
import { logSignIn } from '../sign-in-log';

/** Ends the session of the browser that asks. */
export async function POST(request: NextRequest): Promise<Response> {
  try {
    checkOrigin(request);
  } catch (error) {
    return problem(error);
  }
  const token = request.cookies.get(sessionName(request))?.value;
  const name = signedIn(request);
  if (token !== undefined) endSession(dataFolder(), token);
  if (name !== null) logSignIn('out', name, request.headers.get('x-forwarded-for') ?? 'here');
  const response = NextResponse.redirect(new URL('/sign-in', originOf(request)), 303);
  response.cookies.delete(sessionName(request));
  return response;
}
