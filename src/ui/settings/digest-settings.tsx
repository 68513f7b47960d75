'use client';

import { useEffect, useState } from 'react';
import { toast } from 'sonner';
import { NEWS_KINDS, NEWS_WAYS, NEWS_WORDS, type NewsWay } from '../../core/news/news';
import { call } from '../api';
import { LineField, TickField } from '../forms/field';
import Link from '../link';
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
      toast(problem ?? `Written to outbox/${file} of the data folder`);
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
      <Tells />
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

const WAYS: Record<NewsWay, string> = { browser: 'this browser', mail: 'mail', webhook: 'webhook' };

/** Which news reach the person by which ways, as they happen. */
function Tells() {
  return (
    <fieldset>
      <legend className="font-semibold">Told as it happens</legend>
      <div className="mt-1 grid w-fit grid-cols-[auto_auto_auto_auto] items-baseline gap-x-5 gap-y-1">
        {NEWS_KINDS.map((kind) => (
          <div key={kind} className="contents">
            <span>{NEWS_WORDS[kind]}</span>
            {NEWS_WAYS.map((way) => (
              <TickField key={way} name={`tells.${kind}`} value={way}>
                {WAYS[way]}
                <span className="sr-only">: {NEWS_WORDS[kind]}</span>
              </TickField>
            ))}
          </div>
        ))}
      </div>
      <Allow />
      <p className="small">
        Mail goes by the server below, at most every quarter of an hour; the{' '}
        <Link className="set" href="/setup">
          webhook
        </Link>{' '}
        is set up and tried under What works; deadlines also stand in the calendar under Deadlines.
      </p>
    </fieldset>
  );
}

/** Lets this browser show notifications, where it can be asked. */
function Allow() {
  const [state, setState] = useState<NotificationPermission | 'none' | null>(null);
  useEffect(() => setState('Notification' in window ? Notification.permission : 'none'), []);
  if (state === null || state === 'granted') return null;
  if (state === 'none')
    return <p className="small">This browser shows no notifications here: it wants https or 127.0.0.1.</p>;
  if (state === 'denied')
    return (
      <p className="small">
        This browser was told not to show notifications of this page; it has them in its settings.
      </p>
    );
  return (
    <button
      type="button"
      className="quiet mt-1"
      onClick={() => void Notification.requestPermission().then((given) => setState(given))}
    >
      Let this browser show them
    </button>
  );
}
