'use client';

import { useState } from 'react';
import { toast } from 'sonner';
import { z } from 'zod';
import { WatchSchema } from '../../contracts/source-forms';
import type { TriedMailbox } from '../../contracts/sources';
import { readMailbox } from '../../core/formats/mailbox';
import { call } from '../api';
import { ChoiceField, LineField, TickField } from '../forms/field';
import { Form } from '../forms/form';
import { number, sentBy, words } from '../forms/typed';
import { useRedraw } from '../server-state';
import { TriedView } from '../setup/tried-view';
import { INTERVALS } from './intervals';

const TypedMail = sentBy(
  z
    .object({
      target: z
        .string()
        .trim()
        .refine((address) => readMailbox(address) !== null, 'Write it as imaps://login@host/folder.'),
      password: z.string(),
      from: z.string().trim(),
      subject: z.string().trim(),
      name: z.string().trim(),
      everyMinutes: number(),
      excludedEndings: words,
      checkAfter: z.boolean(),
    })
    .transform((typed) => ({ ...typed, kind: 'mail' as const, name: typed.name || nameOf(typed.target) })),
  WatchSchema,
);

function nameOf(target: string): string {
  const mailbox = readMailbox(target);
  return mailbox ? `${mailbox.folder}, ${mailbox.login}` : target;
}

/** Has a folder of mails watched for lists that arrive; it can be tried before. */
export function MailForm({ excludedEndings }: { excludedEndings: string[] }) {
  const redraw = useRedraw();
  const [tried, setTried] = useState<TriedMailbox | null>(null);
  return (
    <>
      <Form
        schema={TypedMail}
        values={{
          target: '',
          password: '',
          from: '',
          subject: '',
          name: '',
          everyMinutes: '60',
          excludedEndings: excludedEndings.join(', '),
          checkAfter: false,
        }}
        label="Watch it"
        busyLabel="Noting it"
        isEmptied
        act={async (body) => {
          await call('POST /watches', { body });
          setTried(null);
          toast('It is looked at now, and again and again');
          redraw();
        }}
        other={{
          label: 'Try it',
          act: async ({ target, password, from, subject }) =>
            setTried(await call('POST /watches/try', { body: { target, password, from, subject } })),
        }}
      >
        <p>
          Every list that arrives in a mail folder is read: attachments, and where a mail has none, the table or the
          list of names in its text. Mails stay as they are, unread ones too; the first look goes back 31 days.
        </p>
        <LineField
          name="target"
          label="Mail folder"
          hint="imaps://login@host/folder"
          placeholder="imaps://mara@mail.tarnhives.org/Drop lists"
        />
        <LineField
          name="password"
          label="Password"
          hint="kept in keys.json of the data folder, for you alone to read"
          type="password"
          autoComplete="off"
          className="w-56"
        />
        <div className="grid grid-cols-1 gap-4 lg:grid-cols-2">
          <LineField name="from" label="Sender has" hint="empty for anybody" />
          <LineField name="subject" label="Subject has" hint="empty for anything" />
        </div>
        <LineField name="name" label="Name" maxLength={120} />
        <ChoiceField
          name="everyMinutes"
          label="Look at it"
          options={INTERVALS.slice(1).map(([minutes, words]) => [String(minutes), words] as const)}
        />
        <LineField name="excludedEndings" label="Excluded TLDs" hint="by commas" />
        <TickField name="checkAfter">check and measure what is new</TickField>
      </Form>
      {tried && (
        <div className="mt-4">
          <TriedView tried={tried} now={tried.at} isInside />
        </div>
      )}
    </>
  );
}
