'use client';

import { useRouter } from 'next/navigation';
import { useEffect, useState } from 'react';
import { toast } from 'sonner';
import { call } from '../api';
import { isTyping } from '../shell/shell';

/** What can be done with a domain from its dossier; s and c do the same by key. */
export function DossierActions({
  name,
  briefId,
  briefName,
  shortlisted,
}: {
  name: string;
  briefId: number;
  briefName: string;
  shortlisted: boolean;
}) {
  const router = useRouter();
  const [isOn, setOn] = useState(shortlisted);
  const toggle = async () => {
    try {
      if (isOn) await call(`/shortlist/${name}?brief=${briefId}`, { method: 'DELETE' });
      else await call('/shortlist', { body: { briefId, names: [name] } });
      setOn(!isOn);
      toast(isOn ? `Off the shortlist for ${briefName}` : `On the shortlist for ${briefName}`);
    } catch (error) {
      toast((error as Error).message);
    }
  };
  const check = async () => {
    try {
      await call('/checks', { body: { names: [name] } });
      toast('Checking, then measuring');
      router.refresh();
    } catch (error) {
      toast((error as Error).message);
    }
  };
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (isTyping(event)) return;
      if (event.key === 's') void toggle();
      else if (event.key === 'c') void check();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  });
  return (
    <div className="ml-auto flex shrink-0 gap-2">
      <button type="button" className={isOn ? 'quiet' : 'press'} onClick={() => void toggle()}>
        {isOn ? 'Take off the shortlist' : 'Shortlist'}
      </button>
      <button type="button" className="quiet" onClick={() => void check()}>
        Check and measure
      </button>
    </div>
  );
}
