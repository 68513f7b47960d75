'use client';

import { toast } from 'sonner';
import type { LastAct } from '../contracts/acts';
import { ago } from '../core/wording/format';
import { call } from './api';
import { useRedraw } from './server-state';
import { useNow } from './shell/live';

/** What was changed by hand lately, the latest first, each to be undone. */
export function ActsScreen({ acts }: { acts: LastAct[] }) {
  const redraw = useRedraw();
  const now = useNow();
  const undo = async (act: LastAct) => {
    try {
      await call(act.kind === 'act' ? 'POST /acts/{id}/undo' : 'POST /actions/{id}/undo', { params: { id: act.id } });
      toast(`Undone: ${act.words}`);
      redraw();
    } catch (error) {
      toast((error as Error).message);
    }
  };
  return (
    <div className="mx-auto max-w-[860px] px-6 py-6">
      <h1>Last acts</h1>
      <p className="small mt-1">
        What was changed by hand, the latest first. An account that comes back is asked for its key again; what was
        changed since by another act is undone after that one.
      </p>
      {acts.length === 0 ? (
        <p className="mt-4 border-t border-rule pt-3">Nothing has been changed by hand yet.</p>
      ) : (
        <table className="mt-3 w-full" aria-label="Last acts">
          <thead>
            <tr className="small text-left">
              <th scope="col" className="font-normal">
                When
              </th>
              <th scope="col" className="font-normal">
                What
              </th>
              <th scope="col" className="text-right font-normal">
                Undo
              </th>
            </tr>
          </thead>
          <tbody>
            {acts.map((act) => (
              <tr key={act.key} className="border-t border-rule">
                <td className="w-32 py-1.5 pr-3 whitespace-nowrap text-muted">{ago(act.at, now)}</td>
                <td className={`py-1.5 pr-3 wrap-anywhere ${act.undoneAt === null ? '' : 'text-muted line-through'}`}>
                  {act.words}
                </td>
                <td className="py-1.5 text-right">
                  {act.undoneAt === null ? (
                    <button
                      type="button"
                      className="quiet"
                      aria-label={`Undo: ${act.words}`}
                      onClick={() => void undo(act)}
                    >
                      Undo
                    </button>
                  ) : (
                    <span className="small">undone {ago(act.undoneAt, now)}</span>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </div>
  );
}
