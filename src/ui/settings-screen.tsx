'use client';

import { useState } from 'react';
import { toast } from 'sonner';
import { call } from './api';
import { Labelled, wordsOf } from './fields';

interface SettingsView {
  userAgent: string;
  crawlDelayMs: number;
  allowedPrivate: string[];
  resolvers: string[];
  rdapBootstrap: string;
  registryIntervalMs: number;
  archiveTimeMap: string;
}

/** How the product behaves towards the outside. A change counts for work that starts after it. */
export function SettingsScreen({ settings, mode }: { settings: SettingsView; mode: 'real' | 'demo' }) {
  const [problem, setProblem] = useState<string | null>(null);
  const save = async (form: FormData) => {
    try {
      await call('/settings', {
        method: 'PATCH',
        body: {
          userAgent: String(form.get('userAgent')),
          crawlDelayMs: Number(form.get('crawlDelayMs')),
          registryIntervalMs: Number(form.get('registryIntervalMs')),
          allowedPrivate: wordsOf(form.get('allowedPrivate')),
          resolvers: wordsOf(form.get('resolvers')),
          rdapBootstrap: String(form.get('rdapBootstrap')),
          archiveTimeMap: String(form.get('archiveTimeMap')),
        },
      });
      setProblem(null);
      toast('Settings are saved; they count for work that starts from now on');
    } catch (error) {
      setProblem((error as Error).message);
    }
  };
  return (
    <form
      className="mx-auto flex max-w-2xl flex-col gap-4 px-6 py-6"
      onSubmit={(event) => {
        event.preventDefault();
        void save(new FormData(event.currentTarget));
      }}
    >
      <div>
        <h1>Settings</h1>
        <p className="small">
          {mode === 'demo'
            ? 'Demo: every server is a stand-in on this machine, and the clock is that of the made-up world.'
            : 'Real mode: questions go to real servers.'}
        </p>
      </div>
      <Labelled label="User agent" hint="how the crawler names itself">
        <input name="userAgent" className="field w-full" defaultValue={settings.userAgent} />
      </Labelled>
      <div className="flex gap-6">
        <Labelled label="Pause per host" hint="ms between two pages">
          <input
            name="crawlDelayMs"
            type="number"
            min={0}
            className="field w-28"
            defaultValue={settings.crawlDelayMs}
          />
        </Labelled>
        <Labelled label="Pause per registry" hint="ms between two questions">
          <input
            name="registryIntervalMs"
            type="number"
            min={0}
            className="field w-28"
            defaultValue={settings.registryIntervalMs}
          />
        </Labelled>
      </div>
      <Labelled
        label="Private addresses that may be reached"
        hint="like 127.0.0.1 or 192.168.7.0/24; all others are refused"
      >
        <input name="allowedPrivate" className="field w-full" defaultValue={settings.allowedPrivate.join(', ')} />
      </Labelled>
      <Labelled label="DNS resolvers" hint="host:port; empty for the system's own">
        <input name="resolvers" className="field w-full" defaultValue={settings.resolvers.join(', ')} />
      </Labelled>
      <Labelled label="RDAP bootstrap file" hint="address or path, RFC 9224">
        <input name="rdapBootstrap" className="field w-full" defaultValue={settings.rdapBootstrap} />
      </Labelled>
      <Labelled label="Archive" hint="TimeMap address with {url}, RFC 7089; empty for none">
        <input name="archiveTimeMap" className="field w-full" defaultValue={settings.archiveTimeMap} />
      </Labelled>
      {problem && (
        <p role="alert" className="bg-quince px-3 py-2 whitespace-pre-line">
          {problem}
        </p>
      )}
      <div>
        <button type="submit" className="press">
          Save the settings
        </button>
      </div>
    </form>
  );
}
