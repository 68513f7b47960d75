'use client';

import { useState } from 'react';
import { toast } from 'sonner';
import { ago } from '../../core/wording/format';
import { call } from '../api';

/** What is damaged in the database, and what puts it right; nothing where nothing is known to be. */
export function DamageNotice({ damage, now }: { damage: { at: number; found: string[] } | null; now: number }) {
  const [isRestoring, setIsRestoring] = useState(false);
  if (!damage) return null;
  const words = damage.found.slice(0, 6).join('; ');
  const restore = async () => {
    setIsRestoring(true);
    try {
      const { restored, kept } = await call('POST /backups/{name}/restore', { params: { name: 'newest' } });
      toast(`${restored} is in place; what was there is kept as ${kept}`);
      window.location.reload();
    } catch (error) {
      toast((error as Error).message);
      setIsRestoring(false);
    }
  };
  return (
    <section role="alert" aria-labelledby="damage" className="border-l-2 border-damson bg-quince px-3 py-2">
      <h2 id="damage">The database is damaged</h2>
      <p className="mt-1 wrap-anywhere">
        {words.charAt(0).toUpperCase() + words.slice(1)}
        {damage.found.length > 6 && ` and ${damage.found.length - 6} more`}. Found {ago(damage.at, now)}.
      </p>
      <p className="small">
        What stands there may be wrong or missing. Put the newest copy that is whole in its place; what is there now is
        kept as a copy.
      </p>
      <button type="button" className="set mt-1.5" disabled={isRestoring} onClick={() => void restore()}>
        {isRestoring ? 'restoring …' : 'Restore the newest whole copy'}
      </button>
    </section>
  );
}
