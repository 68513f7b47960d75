'use client';

import { useState } from 'react';
import { toast } from 'sonner';
import { call } from '../api';
import { useRedraw } from '../server-state';
import { undoToast } from '../undo';

const VERDICTS = [
  ['clear', 'Clear'],
  ['unsure', 'Unsure'],
  ['conflict', 'In conflict'],
] as const;

/** What the person decides about the trademarks of a name, with a note. */
export function MarkReview({ name }: { name: string }) {
  const redraw = useRedraw();
  const [note, setNote] = useState('');
  const decide = async (verdict: (typeof VERDICTS)[number][0]) => {
    try {
      const { act } = await call('POST /domains/{name}/marks', { params: { name }, body: { verdict, note } });
      setNote('');
      undoToast('Kept, with the time', act, redraw);
      redraw();
    } catch (error) {
      toast((error as Error).message);
    }
  };
  return (
    <div className="mt-2 flex flex-wrap items-center gap-2">
      <input
        className="field w-64"
        value={note}
        maxLength={2000}
        placeholder="what you looked at"
        aria-label="Note on the trademarks"
        onChange={(event) => setNote(event.target.value)}
      />
      {VERDICTS.map(([verdict, label]) => (
        <button key={verdict} type="button" className="quiet" onClick={() => void decide(verdict)}>
          {label}
        </button>
      ))}
    </div>
  );
}
