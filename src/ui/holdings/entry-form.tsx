'use client';

import { useRouter } from 'next/navigation';
import { toast } from 'sonner';
import { call } from '../api';
import { ActionForm } from '../fields';
import { chosenOf, textOf } from '../form-data';
import { useNow } from '../shell/live';
import { readBid } from '../shortlist/stages';

const KINDS = ['sale', 'income', 'renewal', 'other cost'] as const;

/** Enters what a domain brought or cost. */
export function EntryForm({ name, currency, onDone }: { name: string; currency: string; onDone(): void }) {
  const router = useRouter();
  const now = useNow();
  const enter = async (form: FormData) => {
    const amountMinor = readBid(String(form.get('amount')));
    if (!amountMinor) throw new Error('Write the sum as 140 or 140.50.');
    const at = Date.parse(String(form.get('at')));
    if (!Number.isFinite(at)) throw new Error('Say on which day.');
    const body = {
      at,
      kind: chosenOf(form, 'kind', KINDS),
      amountMinor,
      currency: textOf(form, 'currency'),
      words: textOf(form, 'words'),
    };
    const { id } = await call('POST /holdings/{name}/entries', { params: { name }, body });
    const setRemoved = (isRemoved: boolean) =>
      call('PATCH /holdings/{name}/entries', { params: { name }, body: { id, isRemoved } }).then(() =>
        router.refresh(),
      );
    toast(`Entered for ${name}`, {
      action: { label: 'Undo', onClick: () => void setRemoved(true).catch((error: Error) => toast(error.message)) },
    });
    router.refresh();
    onDone();
  };
  return (
    <ActionForm label="Enter it" busyLabel="Entering" isQuiet act={enter}>
      <div className="flex items-end gap-3">
        <label>
          <span className="small block">What</span>
          <select name="kind" className="field" aria-label="Kind of sum">
            {KINDS.map((kind) => (
              <option key={kind}>{kind}</option>
            ))}
          </select>
        </label>
        <label>
          <span className="small block">Sum</span>
          <input name="amount" className="field w-24 text-right" inputMode="decimal" required />
        </label>
        <label>
          <span className="small block">Currency</span>
          <input name="currency" className="field w-16" maxLength={3} defaultValue={currency} />
        </label>
        <label>
          <span className="small block">On</span>
          <input
            type="date"
            name="at"
            className="field"
            defaultValue={now > 0 ? new Date(now).toISOString().slice(0, 10) : ''}
          />
        </label>
        <label className="grow">
          <span className="small block">Words</span>
          <input name="words" className="field w-full" maxLength={500} />
        </label>
      </div>
    </ActionForm>
  );
}
