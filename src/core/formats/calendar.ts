import ical, { ICalAlarmType, ICalCalendarMethod, ICalEventStatus, ICalEventTransparency } from 'ical-generator';
import type { Deadline } from '../deadlines/deadline';

/** A deadline as calendars know it. */
export interface CalendarEntry extends Pick<Deadline, 'uid' | 'kind' | 'at' | 'until' | 'name' | 'words' | 'origin'> {
  /** Raised by one whenever the entry changes (RFC 5545, 3.8.7.4). */
  sequence: number;
  changedAt: number;
  /** It is not expected any more. */
  isCancelled: boolean;
}

/** A moment is shown as long as this, so that it can be seen. */
const MOMENT_MS = 15 * 60_000;

/**
 * The deadlines as an iCalendar feed (RFC 5545), in UTC, which every calendar shows in its own zone. Calendars know an entry again by
 * its UID and take it anew when its SEQUENCE is higher.
 *
 * @param reminderMinutes how long before each an alarm is set; 0: none.
 * @param addressOf where a domain's dossier is.
 */
export function deadlineCalendar(
  entries: readonly CalendarEntry[],
  reminderMinutes: number,
  now: number,
  addressOf: (name: string) => string,
): string {
  const calendar = ical({
    name: 'Jam Ladle deadlines',
    prodId: { company: 'Jam Ladle', product: 'Deadlines', language: 'EN' },
    method: ICalCalendarMethod.PUBLISH,
    ttl: 15 * 60,
  });
  for (const entry of entries) {
    const { uid, kind, at, until, name, words, origin, sequence, changedAt, isCancelled } = entry;
    const event = calendar.createEvent({
      id: `${uid}@jam-ladle`,
      sequence,
      stamp: new Date(now),
      lastModified: new Date(changedAt),
      start: new Date(at),
      end: new Date(until ?? at + MOMENT_MS),
      summary: `${name} ${words}`,
      description: origin,
      url: addressOf(name),
      categories: [{ name: kind }],
      status: isCancelled ? ICalEventStatus.CANCELLED : ICalEventStatus.CONFIRMED,
      // nobody is busy because a domain drops
      transparency: ICalEventTransparency.TRANSPARENT,
    });
    if (reminderMinutes > 0 && kind !== 're-check' && !isCancelled)
      event.createAlarm({
        type: ICalAlarmType.display,
        trigger: reminderMinutes * 60,
        description: `${name} ${words}`,
      });
  }
  // every line ends with CR and LF, the last one, too (RFC 5545, 3.1)
  return `${calendar.toString().trimEnd()}\r\n`;
}
