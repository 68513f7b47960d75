import type { NextRequest } from 'next/server';
import { checkKey, Problem, problem } from '../respond';

/** What the interface does not have is told in its own form, too. */
async function answer(request: NextRequest): Promise<Response> {
  try {
    await checkKey(request, `${request.method} ${request.nextUrl.pathname}`, {});
  } catch (error) {
    return problem(error);
  }
  return problem(
    new Problem(
      404,
      'There is nothing here',
      `${request.method} ${request.nextUrl.pathname.slice(0, 200)} is no call of the interface.`,
      'All of them are described in /api/v1/openapi.json.',
    ),
  );
}

export { answer as DELETE, answer as GET, answer as PATCH, answer as POST, answer as PUT };
