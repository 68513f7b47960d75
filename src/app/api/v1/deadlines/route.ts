import { DEADLINE_KINDS, type DeadlineKind } from '../../../../core/deadlines/deadline';
import { deadlinesIn, SCOPES } from '../../../../services/deadlines/deadlines';
import { readSettings } from '../../../../store/base/settings';
import { getEngine, getStore } from '../../../server';
import { Problem, route } from '../../respond';

/** Deadlines in order of time: `scope` mine (watched by hand or shortlisted), near (with near misses) or all, `kinds` by commas, `hours` ahead. */
export const GET = route('GET /deadlines', async ({ request }) => {
  const query = request.nextUrl.searchParams;
  const wanted = query.get('scope') ?? 'mine';
  const scope = SCOPES.find((one) => one === wanted);
  const kinds = query.get('kinds')?.split(',') ?? [...DEADLINE_KINDS];
  const hours = Number(query.get('hours') ?? 24 * 60);
  if (!scope || !(hours > 0) || kinds.some((kind) => !DEADLINE_KINDS.includes(kind as DeadlineKind)))
    throw new Problem(
      400,
      'The request makes no sense',
      'scope, kinds or hours are none that there are.',
      `scope is mine, near or all, kinds are of ${DEADLINE_KINDS.join(', ')}, hours a number above 0.`,
    );
  const store = await getStore();
  const { deadlines, total } = await deadlinesIn(store, getEngine(), { scope, kinds: kinds as DeadlineKind[], hours });
  return { timeZone: readSettings(store).timeZone, total, deadlines };
});
