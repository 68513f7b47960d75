import { deadlineCalendar } from '../../../../../core/formats/calendar';
import { readSettings } from '../../../../../store/base/settings';
import { calendarEntries, myDeadlines } from '../../../../../store/lifecycle/deadlines';
import { getStore } from '../../../../server';
import { addressInUse, route } from '../../../respond';

/** Deadlines of what is watched or shortlisted as an iCalendar feed (RFC 5545), for a calendar program to subscribe to. */
export const GET = route('GET /deadlines/calendar', async ({ request }) => {
  const store = await getStore();
  const now = store.now();
  const { reminderMinutes } = readSettings(store);
  const deadlines = myDeadlines(store, now, false).filter(({ kind }) => kind !== 're-check');
  const address = addressInUse(request);
  const text = deadlineCalendar(
    calendarEntries(store, deadlines, now),
    reminderMinutes,
    now,
    (name) => `${address}/domains/${name}`,
  );
  return new Response(text, {
    headers: {
      'content-type': 'text/calendar; charset=utf-8',
      'content-disposition': 'inline; filename="jam-ladle.ics"',
      'cache-control': 'no-cache',
    },
  });
});
