'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { toast } from 'sonner';
import type { StoredNote } from '../../contracts/domains';
import { moment } from '../../core/wording/format';
import { call } from '../api';
import { useNow } from '../shell/live';

/** What the person wrote about it, each with its time. */
export function Notes({ name, notes }: { name: string; notes: StoredNote[] }) {
  const router = useRouter();
  const now = useNow();
  const [text, setText] = useState('');
  const orSay = async (what: () => Promise<void>) => {
    try {
      await what();
      router.refresh();
    } catch (error) {
      toast((error as Error).message);
    }
  };
  const write = () =>
    orSay(async () => {
      if (text.trim() === '') return;
      await call('POST /domains/{name}/notes', { params: { name }, body: { text } });
      setText('');
    });
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
      <form
        className="mt-1.5 flex items-start gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          void write();
        }}
      >
        <textarea
          className="field h-14 flex-1"
          id="new-note"
          value={text}
          maxLength={10_000}
          placeholder="what you think of it"
          aria-label="New note"
          onChange={(event) => setText(event.target.value)}
          onKeyDown={(event) => {
            if (event.key === 'Enter' && (event.ctrlKey || event.metaKey)) void write();
            else if (event.key === 'Escape') event.currentTarget.blur();
          }}
        />
        <button type="submit" className="quiet" disabled={text.trim() === ''}>
          Keep it
        </button>
      </form>
      {notes.map((note) => (
        <div key={note.id} className="mt-1 flex gap-3 border-t border-rule py-1">
          <p className="min-w-0 flex-1 break-words whitespace-pre-wrap">
            <bdi>{note.text}</bdi>
          </p>
          <span className="small shrink-0">{moment(note.at, now)}</span>
          <button type="button" className="small shrink-0 underline" onClick={() => void remove(note.id)}>
            take away
          </button>
        </div>
      ))}
    </section>
  );
}
