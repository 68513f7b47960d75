'use client';

import { useRouter } from 'next/navigation';
import { toast } from 'sonner';
import { call } from '../api';
import { Labelled } from '../fields';
import type { SettingsView } from './sections';

/** "06:30" as minutes after midnight; null for an empty field. */
export function minuteOf(time: string): number | null {
  const found = /^(\d{2}):(\d{2})$/.exec(time);
  return found ? Number(found[1]) * 60 + Number(found[2]) : null;
}

const twoDigits = (value: number) => String(Math.floor(value)).padStart(2, '0');

interface DigestSettingsProps {
  settings: SettingsView;
  /** The last digest. */
  digest: { file: string | null; problem: string | null } | null;
}

/** When the digest of what is new is made, and how it is sent. */
export function DigestSettings({ settings, digest }: DigestSettingsProps) {
  const router = useRouter();
  const makeDigest = async () => {
    try {
      const { file, problem } = await call('POST /digest');
      toast(problem ?? (file ? `Written to outbox/${file} of the data folder` : 'Nothing is new in the kept sieves'));
      router.refresh();
    } catch (error) {
      toast((error as Error).message);
    }
  };
  return (
    <>
      <div className="flex items-end gap-6">
        <Labelled label="Digest of what is new" hint="daily, UTC; empty for none">
          <input
            name="digestTime"
            type="time"
            className="field w-28"
            defaultValue={
              settings.digestMinute === null
                ? ''
                : `${twoDigits(settings.digestMinute / 60)}:${twoDigits(settings.digestMinute % 60)}`
            }
          />
        </Labelled>
        <button type="button" className="quiet" onClick={() => void makeDigest()}>
          Make one now
        </button>
      </div>
      <label className="flex items-center gap-1.5">
        <input type="checkbox" name="digestEvents" defaultChecked={settings.digestEvents} />
        the digest tells what happened to watched and shortlisted names
      </label>
      {digest?.problem && (
        <p role="alert" className="bg-quince px-3 py-2">
          {digest.problem}
        </p>
      )}
      <div className="flex gap-6">
        <div className="grow">
          <Labelled label="Digest from">
            <input name="digestFrom" className="field w-full" defaultValue={settings.digestFrom} />
          </Labelled>
        </div>
        <div className="grow">
          <Labelled label="to">
            <input name="digestTo" className="field w-full" defaultValue={settings.digestTo} />
          </Labelled>
        </div>
      </div>
      <div className="flex items-end gap-6">
        <div className="grow">
          <Labelled label="Mail server" hint="smtp://user@host:port; empty: only a file in the outbox">
            <input name="smtpUrl" className="field w-full" defaultValue={settings.smtpUrl} />
          </Labelled>
        </div>
        <Labelled label="its password">
          <input
            name="smtpPassword"
            type="password"
            autoComplete="off"
            placeholder={settings.smtpUrl === '' ? '' : 'as it is'}
            className="field w-32"
          />
        </Labelled>
      </div>
    </>
  );
}
