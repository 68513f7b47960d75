import { handle, Problem } from '../respond';

/** What the interface does not have is told in its own form, too. */
const nothing = handle(async (request) => {
  throw new Problem(
    404,
    'There is nothing here',
    `${request.method} ${request.nextUrl.pathname.slice(0, 200)} is no call of the interface.`,
    'All of them are described in /api/v1/openapi.json.',
  );
});

export { nothing as DELETE, nothing as GET, nothing as PATCH, nothing as POST, nothing as PUT };
