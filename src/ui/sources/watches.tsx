'use client';

import { useWatch } from 'react-hook-form';
import { toast } from 'sonner';
import { z } from 'zod';
import { WatchSchema } from '../../contracts/source-forms';
import type { StoredWatch } from '../../contracts/sources';
import { ago, duration } from '../../core/wording/format';
import { call } from '../api';
import { ChoiceField, LineField, RadioField, TickField } from '../forms/field';
import { Form } from '../forms/form';
import { number, sentBy, words } from '../forms/typed';
import { PlainTable, plainColumnsFor } from '../parts/plain-table';
import { useRedraw } from '../server-state';
import { undoToast } from '../undo';
import { INTERVALS } from './intervals';

const KIND_WORDS = { folder: 'folder', address: 'address', mail: 'mail folder', venue: 'venue' };

const column = plainColumnsFor<StoredWatch>();

/** What is looked at again and again, with what the last look brought. */
export function Watches({ watches, now }: { watches: StoredWatch[]; now: number }) {
  const redraw = useRedraw();
  /** @param done what is said then, with a way to undo it; null: nothing. */
  const act = async (what: () => Promise<{ act?: number | null }>, done: string | null = null) => {
    try {
      const answer = await what();
      if (done !== null) undoToast(done, answer.act ?? null, redraw);
      redraw();
    } catch (error) {
      toast((error as Error).message);
    }
  };
  const forget = (watch: StoredWatch) =>
    act(
      () => call('DELETE /watches/{id}', { params: { id: watch.id } }),
      watch.kind === 'mail'
        ? `"${watch.name}" is watched no more, and its password is forgotten; what it brought in stays`
        : `"${watch.name}" is watched no more; what it brought in stays`,
    );
  const rest = (watch: StoredWatch) =>
    act(
      () => call('PATCH /watches/{id}', { params: { id: watch.id }, body: { isOn: !watch.isOn } }),
      watch.isOn ? `"${watch.name}" is paused` : `"${watch.name}" runs again`,
    );
  return (
    <section aria-labelledby="watched" className="mt-8">
      <h2 id="watched">Watched folders and addresses</h2>
      <PlainTable
        label="Watched folders and addresses"
        isHeadless
        className="mt-1"
        rows={watches}
        rowId={({ id }) => String(id)}
        rowProps={({ name }) => ({ 'data-watch': name })}
        columns={[
          column(
            'Name',
            ({ name, kind, target }) => (
              <>
                <span className="font-semibold">{name}</span>
                <span className="small block truncate" title={target}>
                  {KIND_WORDS[kind]} {target}
                </span>
              </>
            ),
            { isHead: true, className: 'max-w-72' },
          ),
          column('How often, and what came', ({ isOn, everyMs, lastAt, outcome }) => (
            <>
              {isOn ? `every ${duration(everyMs)}` : 'paused'}
              <span className="small block">
                {lastAt === null ? 'not looked at yet' : `${ago(lastAt, now)}: ${outcome}`}
              </span>
            </>
          )),
          column(
            'What can be done',
            (watch) => (
              <>
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
              </>
            ),
            { isNumber: true, className: 'whitespace-nowrap' },
          ),
        ]}
      />
    </section>
  );
}

const TypedWatch = sentBy(
  z
    .object({
      kind: z.enum(['folder', 'address']),
      target: z.string().trim(),
      name: z.string().trim(),
      everyMinutes: number(),
      excludedEndings: words,
      checkAfter: z.boolean(),
    })
    .transform((typed) => ({ ...typed, name: typed.name || typed.target })),
  WatchSchema,
);

/** Has a folder or an address watched for lists. */
export function WatchForm({ excludedEndings }: { excludedEndings: string[] }) {
  const redraw = useRedraw();
  return (
    <Form
      schema={TypedWatch}
      values={{
        kind: 'folder',
        target: '',
        name: '',
        everyMinutes: '15',
        excludedEndings: excludedEndings.join(', '),
        checkAfter: false,
      }}
      label="Watch it"
      busyLabel="Noting it"
      act={async (body) => {
        await call('POST /watches', { body });
        toast('It is looked at now, and again and again');
        redraw();
      }}
    >
      <p>
        Every file that is new in a folder, or every new version at an address, is read as a list: recognised, or mapped
        as the last file with its header was.
      </p>
      <WatchedTarget />
      <LineField name="name" label="Name" maxLength={120} />
      <ChoiceField
        name="everyMinutes"
        label="Look at it"
        options={INTERVALS.slice(1).map(([minutes, words]) => [String(minutes), words] as const)}
      />
      <LineField name="excludedEndings" label="Excluded TLDs" hint="by commas" />
      <TickField name="checkAfter">check and measure what is new</TickField>
    </Form>
  );
}

/** A folder of this machine, or an address. */
function WatchedTarget() {
  const isFolder = useWatch<z.input<typeof TypedWatch>, 'kind'>({ name: 'kind' }) === 'folder';
  return (
    <>
      <fieldset className="flex gap-6">
        <legend className="sr-only">What is watched</legend>
        {(['folder', 'address'] as const).map((value) => (
          <RadioField key={value} name="kind" value={value}>
            {value === 'folder' ? 'a folder of this machine' : 'an address'}
          </RadioField>
        ))}
      </fieldset>
      <LineField
        name="target"
        label={isFolder ? 'Folder' : 'Address'}
        hint={isFolder ? 'its whole path' : 'http'}
        placeholder={isFolder ? '/home/me/lists' : 'http://quaysidelots.com/drops.csv'}
      />
    </>
  );
}
