'use client';

import { toast } from 'sonner';
import { z } from 'zod';
import { call } from '../api';
import { AmountLine, ChoiceField, LineField } from '../forms/field';
import { Form } from '../forms/form';
import { day, someAmount } from '../forms/typed';
import { dayField } from '../parts/day-field';
import { useRedraw } from '../server-state';
import { useNow } from '../shell/live';

const KINDS = ['sale', 'income', 'renewal', 'other cost'] as const;

const TypedEntry = z.object({
  kind: z.enum(KINDS),
  amountMinor: someAmount('the sum'),
  currency: z.string().trim().toUpperCase(),
  at: day.pipe(z.number('Say on which day.')),
  words: z.string().trim(),
});

/** Enters what a domain brought or cost. */
export function EntryForm({ name, currency, onDone }: { name: string; currency: string; onDone(): void }) {
  const redraw = useRedraw();
  const now = useNow();
  return (
    <Form
      schema={TypedEntry}
      values={{ kind: 'sale', amountMinor: '', currency, at: now > 0 ? dayField(now) : '', words: '' }}
      label="Enter it"
      busyLabel="Entering"
      isQuiet
      act={async (body) => {
        const { id } = await call('POST /holdings/{name}/entries', { params: { name }, body });
        const setRemoved = (isRemoved: boolean) =>
          call('PATCH /holdings/{name}/entries', { params: { name }, body: { id, isRemoved } }).then(redraw);
        toast(`Entered for ${name}`, {
          action: { label: 'Undo', onClick: () => void setRemoved(true).catch((error: Error) => toast(error.message)) },
        });
        redraw();
        onDone();
      }}
    >
      <div className="flex items-end gap-3">
        <ChoiceField
          name="kind"
          label="What"
          place="small"
          aria-label="Kind of sum"
          options={KINDS.map((kind) => [kind, kind] as const)}
        />
        <AmountLine name="amountMinor" label="Sum" place="small" className="w-24" />
        <LineField name="currency" label="Currency" place="small" className="w-16" maxLength={3} />
        <LineField name="at" label="On" place="small" type="date" className="" />
        <LineField name="words" label="Words" place="small" outer="grow" maxLength={500} />
      </div>
    </Form>
  );
}
