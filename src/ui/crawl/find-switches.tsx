'use client';

import { useState } from 'react';
import { toast } from 'sonner';
import type { SwitchCount } from '../../contracts/crawl';
import type { LeaveOut } from '../../core/crawl/leave-out';
import { count } from '../../core/wording/format';
import { call } from '../api';
import { useRedraw } from '../server-state';
import { LEAVE_OUT_WORDS } from './leave-out-words';

/** What is left out of the finds, switch by switch, with how many domains each keeps out or would. */
export function FindSwitchList({
  sourceId,
  switches,
  out,
}: {
  sourceId: number;
  switches: SwitchCount[];
  out: number;
}) {
  const redraw = useRedraw();
  /** What was turned here, until the source says the same. */
  const [turned, setTurned] = useState<Partial<Record<LeaveOut, boolean>>>({});
  const isOut = (one: SwitchCount) => turned[one.cause] ?? one.isOn;
  const turn = async (cause: LeaveOut, isOn: boolean) => {
    const leaveOut = switches.filter((one) => (one.cause === cause ? isOn : isOut(one))).map((one) => one.cause);
    setTurned({ ...turned, [cause]: isOn });
    try {
      await call('PATCH /sources/{id}/finds', { params: { id: sourceId }, body: { leaveOut } });
      redraw();
    } catch (error) {
      setTurned(turned);
      toast((error as Error).message);
    }
  };
  return (
    <section aria-labelledby="left-out">
      <h2 id="left-out">Left out of the finds</h2>
      <p className="small mb-1">
        {out === 0 ? 'Nothing is left out.' : `${count(out)} of the domains found are left out.`}{' '}
        <a href={`/api/v1/sources/${sourceId}/aside`} className="set" download>
          All with their reasons
        </a>
      </p>
      {switches.map((one) => {
        const { cause, would, alone } = one;
        const isOn = isOut(one);
        return (
          <label key={cause} className="flex items-baseline gap-2 border-t border-rule py-1" data-switch={cause}>
            <input type="checkbox" checked={isOn} onChange={(event) => void turn(cause, event.target.checked)} />
            <span>{LEAVE_OUT_WORDS[cause]}</span>
            <span className="small ml-auto whitespace-nowrap">
              {isOn ? `keeps out ${count(would)}, ${count(alone)} of them alone` : `would keep out ${count(would)}`}
            </span>
          </label>
        );
      })}
    </section>
  );
}
