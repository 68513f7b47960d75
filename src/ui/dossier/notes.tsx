'use client';

import { toast } from 'sonner';
import { z } from 'zod';
import type { StoredNote } from '../../contracts/domains';
import { moment } from '../../core/wording/format';
import { YOU } from '../../core/work/you';
import { call } from '../api';
import { BareArea } from '../forms/field';
import { Form } from '../forms/form';
import { text } from '../forms/typed';
import { useRedraw } from '../server-state';
import { useNow } from '../shell/live';

const TypedNote = z.object({ text: text('Write something first.') });

/** What the person wrote about it, each with its time. */
export function Notes({ name, notes }: { name: string; notes: StoredNote[] }) {
  const redraw = useRedraw();
  const now = useNow();
  const orSay = async (what: () => Promise<void>) => {
    try {
      await what();
      redraw();
    } catch (error) {
      toast((error as Error).message);
    }
  };
  const remove = (id: number) =>
    orSay(async () => {
      await call('DELETE /domains/{name}/notes/{id}', { params: { name, id } });
      toast('The note is gone', {
        action: {
          label: 'Undo',
          onClick: () =>
            void orSay(async () => {
              await call('POST /domains/{name}/notes/{id}', { params: { name, id } });
            }),
        },
      });
    });
  return (
    <section aria-labelledby="own-notes" className="min-w-0">
      <h3 id="own-notes" className="font-semibold">
        Your notes
      </h3>
      <Form
        schema={TypedNote}
        values={{ text: '' }}
        label="Keep it"
        busyLabel="Keeping"
        isQuiet
        className="mt-1.5 gap-1"
        isEmptied
        act={async (body) => {
          await call('POST /domains/{name}/notes', { params: { name }, body });
          redraw();
        }}
      >
        <BareArea
          name="text"
          className="h-14 w-full"
          id="new-note"
          maxLength={10_000}
          placeholder="what you think of it"
          aria-label="New note"
          onKeyDown={(event) => {
            if (event.key === 'Enter' && (event.ctrlKey || event.metaKey)) event.currentTarget.form?.requestSubmit();
            else if (event.key === 'Escape') event.currentTarget.blur();
          }}
        />
      </Form>
      {notes.map((note) => (
        <div key={note.id} className="mt-1 flex gap-3 border-t border-rule py-1">
          <p className="min-w-0 flex-1 break-words whitespace-pre-wrap">
            <bdi>{note.text}</bdi>
          </p>
          <span className="small shrink-0">
            {note.who !== YOU && `${note.who}, `}
            {moment(note.at, now)}
          </span>
          <button type="button" className="small shrink-0 underline" onClick={() => void remove(note.id)}>
            take away
          </button>
        </div>
      ))}
    </section>
  );
}
