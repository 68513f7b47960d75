'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { toast } from 'sonner';
import type { StoredWatch } from '../../contracts/sources';
import { ago, duration } from '../../core/wording/format';
import { call } from '../api';
import { ActionForm, Labelled, wordsOf } from '../fields';
import { undoToast } from '../undo';
import { INTERVALS } from './venue-form';

const KIND_WORDS = { folder: 'folder', address: 'address', venue: 'venue' };

/** What is looked at again and again, with what the last look brought. */
export function Watches({ watches, now }: { watches: StoredWatch[]; now: number }) {
  const router = useRouter();
  /** @param done what is said then, with a way to undo it; null: nothing. */
  const act = async (what: () => Promise<{ act?: number | null }>, done: string | null = null) => {
    try {
      const answer = await what();
      if (done !== null) undoToast(done, answer.act ?? null, router.refresh);
      router.refresh();
    } catch (error) {
      toast((error as Error).message);
    }
  };
  const forget = (watch: StoredWatch) =>
    act(
      () => call('DELETE /watches/{id}', { params: { id: watch.id } }),
      `"${watch.name}" is watched no more; what it brought in stays`,
    );
  const rest = (watch: StoredWatch) =>
    act(
      () => call('PATCH /watches/{id}', { params: { id: watch.id }, body: { isOn: !watch.isOn } }),
      watch.isOn ? `"${watch.name}" is paused` : `"${watch.name}" runs again`,
    );
  return (
    <section aria-labelledby="watched" className="mt-8">
      <h2 id="watched">Watched files and addresses</h2>
      <table className="mt-1 w-full">
        <tbody>
          {watches.map((watch) => (
            <tr key={watch.id} className="border-t border-rule align-top" data-watch={watch.name}>
              <td className="max-w-72 py-1.5 pr-3">
                <span className="font-semibold">{watch.name}</span>
                <span className="small block truncate" title={watch.target}>
                  {KIND_WORDS[watch.kind]} {watch.target}
                </span>
              </td>
              <td className="py-1.5 pr-3">
                {watch.isOn ? `every ${duration(watch.everyMs)}` : 'paused'}
                <span className="small block">
                  {watch.lastAt === null ? 'not looked at yet' : `${ago(watch.lastAt, now)}: ${watch.outcome}`}
                </span>
              </td>
              <td className="py-1.5 text-right whitespace-nowrap">
                <button
                  type="button"
                  className="quiet"
                  onClick={() => void act(() => call('POST /watches/{id}/look', { params: { id: watch.id } }))}
                >
                  Run now
                </button>{' '}
                <button type="button" className="quiet" onClick={() => void rest(watch)}>
                  {watch.isOn ? 'Pause' : 'Resume'}
                </button>{' '}
                <button type="button" className="quiet" onClick={() => void forget(watch)}>
                  Remove
                </button>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

/** Has a folder or an address watched for lists. */
export function WatchForm({ excludedEndings }: { excludedEndings: string[] }) {
  const router = useRouter();
  const [kind, setKind] = useState<'folder' | 'address'>('folder');
  return (
    <ActionForm
      label="Watch it"
      busyLabel="Noting it"
      act={async (form) => {
        const target = String(form.get('target')).trim();
        const body = {
          kind,
          target,
          name: String(form.get('name')).trim() || target,
          everyMinutes: Number(form.get('every')),
          excludedEndings: wordsOf(form.get('exclusions')),
          checkAfter: form.get('check') === 'on',
        };
        await call('POST /watches', { body });
        toast('It is looked at now, and again and again');
        router.refresh();
      }}
    >
      <p>
        Every file that is new in a folder, or every new version at an address, is read as a list: recognised, or mapped
        as the last file with its header was.
      </p>
      <fieldset className="flex gap-6">
        <legend className="sr-only">What is watched</legend>
        {(['folder', 'address'] as const).map((value) => (
          <label key={value} className="flex items-center gap-2">
            <input type="radio" name="kind" checked={kind === value} onChange={() => setKind(value)} />
            {value === 'folder' ? 'a folder of this machine' : 'an address'}
          </label>
        ))}
      </fieldset>
      <Labelled label={kind === 'folder' ? 'Folder' : 'Address'} hint={kind === 'folder' ? 'its whole path' : 'http'}>
        <input
          name="target"
          required
          className="field w-full"
          placeholder={kind === 'folder' ? '/home/me/lists' : 'http://quaysidelots.com/drops.csv'}
        />
      </Labelled>
      <Labelled label="Name">
        <input name="name" maxLength={120} className="field w-full" />
      </Labelled>
      <Labelled label="Look at it">
        <select name="every" className="field" defaultValue={15}>
          {INTERVALS.slice(1).map(([minutes, words]) => (
            <option key={minutes} value={minutes}>
              {words}
            </option>
          ))}
        </select>
      </Labelled>
      <Labelled label="Excluded TLDs" hint="by commas">
        <input name="exclusions" className="field w-full" defaultValue={excludedEndings.join(', ')} />
      </Labelled>
      <label className="flex items-center gap-2">
        <input name="check" type="checkbox" /> check and measure what is new
      </label>
    </ActionForm>
  );
}
