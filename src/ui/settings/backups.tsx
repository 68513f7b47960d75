'use client';

import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { toast } from 'sonner';
import { count } from '../../core/wording/format';
import { call } from '../api';
import { useRedraw } from '../server-state';
import { useLive } from '../shell/live';
import { undoToast } from '../undo';

const nameOf = (path: string) => path.slice(path.lastIndexOf('/') + 1);

/** Copies of the data folder, made while everything runs, and restored. */
/** How many copies can be kept; another number that was set stands among them. */
const KEPT = [0, 3, 7, 14, 30];

export function Backups({ kept }: { kept: number }) {
  const redraw = useRedraw();
  const { jobs } = useLive();
  const [restoring, setRestoring] = useState<string | null>(null);
  const done = [...jobs.values()].filter(({ kind, state }) => kind === 'backup' && state === 'done').length;
  // read again when one more is done
  const { data: backups = null } = useQuery({
    queryKey: ['backups', done],
    placeholderData: keepPreviousData,
    queryFn: async ({ signal }) => (await call('GET /backups', { signal })).backups,
  });
  const restore = async (name: string) => {
    setRestoring(name);
    try {
      const { kept } = await call('POST /backups/{name}/restore', { params: { name } });
      toast(`${name} is in place; what was there is kept as ${kept}`);
      window.location.reload();
    } catch (error) {
      toast((error as Error).message);
      setRestoring(null);
    }
  };
  const make = async () => {
    try {
      await call('POST /backups');
      toast('The data folder is being copied');
      redraw();
    } catch (error) {
      toast((error as Error).message);
    }
  };
  const keep = async (copiesKept: number) => {
    try {
      const { act } = await call('PATCH /settings', { body: { copiesKept } });
      undoToast('It counts from the next copy on', act, redraw);
      redraw();
    } catch (error) {
      toast((error as Error).message);
    }
  };
  return (
    <section aria-labelledby="backups">
      <h2 id="backups">Copies of the data folder</h2>
      <p className="small">
        Made while everything runs. A copy is a data folder: take it to another machine and start there with{' '}
        <code>JAM_LADLE_DATA</code> naming it. Restored here, what is there now is kept as a copy. Each is looked
        through before it counts; keys of accounts are not copied.
      </p>
      {backups?.map(({ path, databaseBytes }) => (
        <p key={path} className="small flex items-baseline gap-3 border-t border-faint py-0.5">
          <span className="grow wrap-anywhere">
            {path}, {count(Math.ceil(databaseBytes / 1e6))} MB
          </span>
          <button
            type="button"
            className="set"
            disabled={restoring !== null}
            aria-label={`Restore ${nameOf(path)}`}
            onClick={() => void restore(nameOf(path))}
          >
            {restoring === nameOf(path) ? 'restoring …' : 'restore'}
          </button>
        </p>
      ))}
      <div className="mt-2 flex items-center gap-4">
        <button type="button" className="quiet" onClick={() => void make()}>
          Copy it now
        </button>
        <label className="flex items-baseline gap-2">
          One a day by itself:
          <select className="field" value={kept} onChange={(event) => void keep(Number(event.target.value))}>
            {[...KEPT.filter((many) => many < kept), kept, ...KEPT.filter((many) => many > kept)].map((many) => (
              <option key={many} value={many}>
                {many === 0 ? 'none' : `the last ${many} are kept`}
              </option>
            ))}
          </select>
        </label>
      </div>
    </section>
  );
}
