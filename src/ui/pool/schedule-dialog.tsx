import { useState } from 'react';
import type { StoredSieve } from '../../contracts/sieves';
import { ago, count } from '../../core/wording/format';
import { call } from '../api';
import { useNow } from '../shell/live';
import { undoToast } from '../undo';
import { Box } from './dialog-box';
import type { Props } from './kept-props';

/** When a kept sieve runs, and what becomes of what is new in it. */
export function Schedule({
  sieve,
  briefs,
  onClose,
  onKept,
  onGone,
}: {
  sieve: StoredSieve;
  briefs: Props['briefs'];
  onClose(): void;
  onKept(): void;
  onGone(view: string): void;
}) {
  const now = useNow();
  const [form, setForm] = useState(sieve);
  const [problem, setProblem] = useState<string | null>(null);
  const set = (change: Partial<StoredSieve>) => setForm({ ...form, ...change });
  const time = `${String(Math.floor(form.runMinute / 60)).padStart(2, '0')}:${String(form.runMinute % 60).padStart(2, '0')}`;
  const save = async () => {
    try {
      const { name, runs, runMinute, inDigest, shortlistBrief, depth } = form;
      await call('PATCH /sieves/{id}', {
        params: { id: sieve.id },
        body: { name, runs, runMinute, inDigest, shortlistBrief, depth },
      });
      onKept();
      onClose();
    } catch (error) {
      setProblem((error as Error).message);
    }
  };
  const remove = async () => {
    try {
      const { act } = await call('DELETE /sieves/{id}', { params: { id: sieve.id } });
      onKept();
      onGone(sieve.view);
      onClose();
      undoToast(`"${sieve.name}" deleted`, act, onKept);
    } catch (error) {
      setProblem((error as Error).message);
    }
  };
  const radio = (runs: StoredSieve['runs'], label: React.ReactNode) => (
    <label className="flex items-center gap-2 py-0.5">
      <input type="radio" name="runs" checked={form.runs === runs} onChange={() => set({ runs })} />
      {label}
    </label>
  );
  return (
    <Box title={`"${sieve.name}"`} onClose={onClose}>
      <form
        className="flex flex-col gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          void save();
        }}
      >
        <p className="small">
          {sieve.lastAt === null
            ? 'Has not run yet: the first run only notes what is there.'
            : `Last run ${ago(sieve.lastAt, now)}: ${count(sieve.lastTotal)} passed.`}
        </p>
        <label>
          Name
          <input
            className="field mt-1 w-full"
            value={form.name}
            onChange={(event) => set({ name: event.target.value })}
          />
        </label>
        <fieldset>
          <legend className="font-semibold">Runs</legend>
          {radio('off', 'only when asked to')}
          {radio(
            'daily',
            <>
              daily at{' '}
              <input
                type="time"
                className="field"
                aria-label="Time of day, UTC"
                value={time}
                onChange={(event) => {
                  const [hours, minutes] = event.target.value.split(':').map(Number);
                  if (Number.isFinite(hours) && Number.isFinite(minutes))
                    set({ runs: 'daily', runMinute: hours * 60 + minutes });
                }}
              />{' '}
              UTC
            </>,
          )}
          {radio('imports', 'after each import, crawl, check and measure')}
        </fieldset>
        <fieldset>
          <legend className="font-semibold">What is new since the last run</legend>
          <p className="small">is marked in the grid, counted on Today and offered as a feed; and</p>
          <label className="flex items-center gap-2 py-0.5">
            <input
              type="checkbox"
              checked={form.inDigest}
              onChange={(event) => set({ inDigest: event.target.checked })}
            />
            goes into the daily digest
          </label>
          <label className="flex items-center gap-2 py-0.5">
            is measured, only what passes here:
            <select
              className="field"
              value={form.depth}
              onChange={(event) => set({ depth: event.target.value as StoredSieve['depth'] })}
            >
              <option value="nothing">not at all</option>
              <option value="links">checks and links</option>
              <option value="everything">everything: history, referring domains, trademarks too</option>
            </select>
          </label>
          <label className="flex items-center gap-2 py-0.5">
            goes on the shortlist for
            <select
              className="field"
              value={form.shortlistBrief ?? ''}
              onChange={(event) =>
                set({ shortlistBrief: event.target.value === '' ? null : Number(event.target.value) })
              }
            >
              <option value="">no brief</option>
              {briefs.map(({ id, name }) => (
                <option key={id} value={id}>
                  {name}
                </option>
              ))}
            </select>
          </label>
        </fieldset>
        {problem && (
          <p role="alert" className="bg-quince px-2 py-1">
            {problem}
          </p>
        )}
        <p className="flex gap-2">
          <button type="button" className="quiet" onClick={() => void remove()}>
            Delete
          </button>
          <button type="button" className="quiet ml-auto" onClick={onClose}>
            Leave it
          </button>
          <button type="submit" className="press">
            Save
          </button>
        </p>
      </form>
    </Box>
  );
}
