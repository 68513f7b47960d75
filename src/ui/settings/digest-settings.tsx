'use client';

import { toast } from 'sonner';
import { call } from '../api';
import { LineField, TickField } from '../forms/field';
import { useRedraw } from '../server-state';

interface DigestSettingsProps {
  /** Whether a mail server is set, whose password is kept. */
  hasMailServer: boolean;
  /** The last digest. */
  digest: { file: string | null; problem: string | null } | null;
}

/** When the digest of what is new is made, and how it is sent. */
export function DigestSettings({ hasMailServer, digest }: DigestSettingsProps) {
  const redraw = useRedraw();
  const makeDigest = async () => {
    try {
      const { file, problem } = await call('POST /digest');
      toast(problem ?? (file ? `Written to outbox/${file} of the data folder` : 'Nothing is new in the kept sieves'));
      redraw();
    } catch (error) {
      toast((error as Error).message);
    }
  };
  return (
    <>
      <div className="flex flex-wrap items-end gap-x-6 gap-y-4">
        <LineField
          name="digestMinute"
          label="Digest of what is new"
          hint="daily, UTC; empty for none"
          type="time"
          className="w-28"
        />
        <button type="button" className="quiet" onClick={() => void makeDigest()}>
          Make one now
        </button>
      </div>
      <TickField name="digestEvents">the digest tells what happened to watched and shortlisted names</TickField>
      {digest?.problem && (
        <p role="alert" className="bg-quince px-3 py-2">
          {digest.problem}
        </p>
      )}
      <div className="flex flex-wrap gap-x-6 gap-y-4">
        <LineField name="digestFrom" label="Digest from" outer="min-w-0 grow" />
        <LineField name="digestTo" label="to" outer="min-w-0 grow" />
      </div>
      <div className="flex flex-wrap items-end gap-x-6 gap-y-4">
        <LineField
          name="smtpUrl"
          label="Mail server"
          hint="smtp://user@host:port; empty: only a file in the outbox"
          outer="min-w-0 grow"
        />
        <LineField
          name="smtpPassword"
          label="its password"
          type="password"
          autoComplete="off"
          placeholder={hasMailServer ? 'as it is' : ''}
          className="w-32"
        />
      </div>
    </>
  );
}
