'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { toast } from 'sonner';
import type { Confirmed } from '../../core/lifecycle/confirmed';
import type { Judgement } from '../../core/pool/facts';
import { call } from '../api';
import Link from '../link';
import { openOrder } from '../orders/open';
import { act } from '../pool/acts';
import { useRedraw } from '../server-state';
import { Hears } from '../shell/hears';
import { pressed } from '../shell/key-list';
import { useNow } from '../shell/live';
import { isTyping } from '../shell/shell';
import { ConfirmNote, confirmDomain } from './confirm';
import { Marks } from './marks';

/** What can be done with a domain from its dossier; s, w, f and c do the same by key. */
export function DossierActions({
  id,
  name,
  briefId,
  briefName,
  shortlisted,
  isWatched,
  judged,
  judgedReason,
  judgedAt,
  judgedBy,
}: {
  id: number;
  name: string;
  briefId: number;
  briefName: string;
  shortlisted: boolean;
  isWatched: boolean;
  judged: Judgement;
  judgedReason: string | null;
  judgedAt: number | null;
  judgedBy: string | null;
}) {
  const router = useRouter();
  const redraw = useRedraw();
  const now = useNow();
  const [isOn, setOn] = useState(shortlisted);
  const [confirmed, setConfirmed] = useState<Confirmed | null>(null);
  const [isAsking, setAsking] = useState(false);
  const beside = `/compare?name=${encodeURIComponent(name)}`;
  const orSay = async (what: () => Promise<void>) => {
    try {
      await what();
    } catch (error) {
      toast((error as Error).message);
    }
  };
  const toggle = () =>
    orSay(async () => {
      if (isOn) await call('DELETE /shortlist/{name}', { params: { name }, query: { brief: briefId } });
      else await call('POST /shortlist', { body: { briefId, names: [name] } });
      setOn(!isOn);
      toast(isOn ? `Off the shortlist for ${briefName}` : `On the shortlist for ${briefName}`);
    });
  const check = () =>
    orSay(async () => {
      await call('POST /checks', { body: { names: [name] } });
      toast('Checking, then measuring');
      redraw();
    });
  const watch = () =>
    orSay(async () => {
      await act({ kind: isWatched ? 'unwatch' : 'watch' }, { ids: [id] }, name, redraw);
      redraw();
    });
  const confirm = () =>
    orSay(async () => {
      if (isAsking) return;
      setAsking(true);
      try {
        setConfirmed(await confirmDomain(name));
        redraw();
      } finally {
        setAsking(false);
      }
    });
  const onKey = (event: KeyboardEvent) => {
    if (isTyping(event)) return;
    const key = pressed('dossier', event);
    if (key === 'shortlist') void toggle();
    else if (key === 'measure') void check();
    else if (key === 'watch') void watch();
    else if (key === 'confirm') void confirm();
    else if (key === 'beside') router.push(beside);
    else if (key === 'order') openOrder(name);
  };
  return (
    <div className="flex min-w-0 shrink-0 flex-col gap-2 lg:ml-auto lg:items-end print:hidden">
      <Hears onKey={onKey} />
      <div className="flex flex-wrap gap-2">
        <button type="button" className="press" disabled={isAsking} onClick={() => void confirm()}>
          {isAsking ? 'Asking, down to the registrar' : 'Confirm it now'}
        </button>
        <button type="button" className="quiet" onClick={() => openOrder(name)}>
          Order
        </button>
        <button type="button" className="quiet" onClick={() => void toggle()}>
          {isOn ? 'Remove from the shortlist' : 'Shortlist'}
        </button>
        <button type="button" className="quiet" onClick={() => void watch()}>
          {isWatched ? 'Watch no longer' : 'Watch'}
        </button>
        <button type="button" className="quiet" onClick={() => void check()}>
          Check and measure
        </button>
        <Link href={beside} className="quiet">
          Compare
        </Link>
      </div>
      <div className="flex flex-wrap items-center justify-end gap-x-4 gap-y-2">
        <span className="small">
          export as{' '}
          {(['html', 'json'] as const).map((format) => (
            <a key={format} className="ml-1 underline" href={`/api/v1/domains/${name}/file?format=${format}`} download>
              {format === 'html' ? 'a page' : 'JSON'}
            </a>
          ))}
        </span>
        <Marks id={id} name={name} judged={judged} reason={judgedReason} at={judgedAt} by={judgedBy} />
      </div>
      {confirmed && (
        <div className="max-w-[560px]">
          <ConfirmNote confirmed={confirmed} now={now} />
        </div>
      )}
    </div>
  );
}
