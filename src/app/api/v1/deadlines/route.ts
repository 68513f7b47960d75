import { DEADLINE_KINDS, type DeadlineKind } from '../../../../core/deadlines/deadline';
import { readSettings } from '../../../../store/database';
import { deadlinesIn } from '../../../deadlines';
import { getStore } from '../../../server';
import { handle, Problem } from '../../respond';

/** Deadlines in order of time: `scope` mine (watched or shortlisted) or all, `kinds` by commas, `hours` ahead. */
export const GET = handle(async (request) => {
  const query = request.nextUrl.searchParams;
  const scope = query.get('scope') ?? 'mine';
  const kinds = query.get('kinds')?.split(',') ?? [...DEADLINE_KINDS];
  const hours = Number(query.get('hours') ?? 24 * 60);
  if (
    (scope !== 'mine' && scope !== 'all') ||
    !(hours > 0) ||
    kinds.some((kind) => !DEADLINE_KINDS.includes(kind as DeadlineKind))
  )
    throw new Problem(
      400,
      'The request makes no sense',
      'scope, kinds or hours are none that there are.',
      `scope is mine or all, kinds are of ${DEADLINE_KINDS.join(', ')}, hours a number above 0.`,
    );
  const store = await getStore();
  const { deadlines, total } = await deadlinesIn(store, { scope, kinds: kinds as DeadlineKind[], hours });
  return Response.json({ timeZone: readSettings(store).timeZone, total, deadlines });
});
