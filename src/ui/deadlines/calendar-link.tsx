'use client';

import { toast } from 'sonner';
import { feedAddress } from '../feed-address';

const PATH = '/api/v1/deadlines/calendar';

/** The address a calendar program subscribes to. */
export function CalendarLink({ reminderMinutes }: { reminderMinutes: number }) {
  const copy = async () => {
    try {
      await navigator.clipboard.writeText(await feedAddress(PATH));
      toast('The address of the calendar is copied; subscribe to it in your calendar program');
    } catch (error) {
      toast(`Not copied: ${(error as Error).message}`);
    }
  };
  return (
    <span className="flex flex-wrap items-center gap-3">
      <span className="small">
        {reminderMinutes > 0 ? `reminders ${reminderMinutes} min before` : 'no reminders'}, set in Settings
      </span>
      <a className="quiet" href={PATH} download="jam-ladle.ics">
        Save as a calendar file
      </a>
      <button type="button" className="quiet" onClick={() => void copy()}>
        Copy the feed’s address
      </button>
    </span>
  );
}
