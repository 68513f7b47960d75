'use client';

import { useRouter } from 'next/navigation';
import { useEffect, useState } from 'react';
import { toast } from 'sonner';
import { call } from '../api';
import { count } from '../format';
import { useLive } from '../shell/live';

interface Backup {
  path: string;
  databaseBytes: number;
}

/** Copies of the data folder, made while everything runs. */
export function Backups() {
  const router = useRouter();
  const { jobs } = useLive();
  const [backups, setBackups] = useState<Backup[] | null>(null);
  const done = [...jobs.values()].filter(({ kind, state }) => kind === 'backup' && state === 'done').length;
  // biome-ignore lint/correctness/useExhaustiveDependencies: read again when one more is done
  useEffect(() => {
    call<{ backups: Backup[] }>('/backups')
      .then((answer) => setBackups(answer.backups))
      .catch(() => undefined);
  }, [done]);
  const make = async () => {
    try {
      await call('/backups', { method: 'POST' });
      toast('The data folder is being copied');
      router.refresh();
    } catch (error) {
      toast((error as Error).message);
    }
  };
  return (
    <section aria-labelledby="backups">
      <h2 id="backups">Copies of the data folder</h2>
      <p className="small">
        Made while everything runs. A copy is a data folder: start with <code>JAM_LADLE_DATA</code> naming it to restore
        it, or take it to another machine.
      </p>
      {backups?.map(({ path, databaseBytes }) => (
        <p key={path} className="small border-t border-faint py-0.5 wrap-anywhere">
          {path}, {count(Math.ceil(databaseBytes / 1e6))} MB
        </p>
      ))}
      <button type="button" className="quiet mt-1.5" onClick={() => void make()}>
        Copy it now
      </button>
    </section>
  );
}
