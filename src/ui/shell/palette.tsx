'use client';

import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { Command } from 'cmdk';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import type { Sent } from '../../contracts/calls';
import { call } from '../api';
import { useSettled } from '../parts/use-settled';
import { SETTING_LABELS } from '../settings/labels';
import { PLACES } from './header';

const MORE = [
  { href: '/sources?add=crawl', label: 'Crawl sites' },
  { href: '/sources?add=search', label: 'Search for keywords' },
  { href: '/sources?add=referrers', label: 'Use a file of referring pages' },
  { href: '/page', label: 'Look at one page' },
  { href: '/setup', label: 'Set up: what works, and what it takes' },
  { href: '/shortlist', label: 'Shortlist and bid plan' },
  { href: '/sources?add=sales', label: 'Add a list of sales' },
  { href: '/sources?add=keywords', label: 'Add a list of keywords' },
  { href: '/learning', label: 'Outcomes against estimates' },
  { href: '/compare', label: 'Compare domains side by side' },
  { href: '/targets', label: 'Broken links, and whom to write to' },
  { href: '/sources?add=list', label: 'Import a list' },
  { href: '/sources?add=feed', label: 'Read a venue feed' },
  { href: '/sources?add=links', label: 'Import backlink data' },
  { href: '/pool?c=phase%3Afree%2Cpending-delete', label: 'Pool: available or about to drop' },
  { href: '/acts', label: 'Last acts, and undoing them' },
];

const THEMES = [
  { value: 'light', label: 'Light' },
  { value: 'dark', label: 'Dark' },
  { value: '', label: 'Light or dark as the system says' },
];

function chooseTheme(value: string): void {
  // biome-ignore lint/suspicious/noDocumentCookie: the cookie lets the server draw the next page in the right colours at once
  document.cookie = `theme=${value}; path=/; max-age=31536000; samesite=strict`;
  if (value) document.documentElement.dataset.theme = value;
  else delete document.documentElement.dataset.theme;
}

const LEAST_LETTERS = 2;
const DOMAINS_SHOWN = 6;
const REST_MS = 120;

/** Domains of the pool whose names hold some letters, the strongest first. */
function useDomains(text: string): string[] {
  const letters = useSettled(text, REST_MS).trim().toLowerCase();
  const isEnough = letters.length >= LEAST_LETTERS && /^[a-z0-9.-]+$/.test(letters);
  const { data = [] } = useQuery({
    queryKey: ['pool', 'names with', letters],
    enabled: isEnough,
    placeholderData: keepPreviousData,
    queryFn: async ({ signal }) => {
      const body: Sent<'POST /pool/columns'> = {
        parts: [{ type: 'text', fact: 'name', mode: 'contains', values: [letters.split('.')[0]], not: false }],
        sorts: [{ fact: 'strength', descending: true }],
        offset: 0,
        limit: DOMAINS_SHOWN,
        fields: [],
      };
      const { rows } = await call('POST /pool/columns', { body, signal });
      return rows.name.filter((name) => name.includes(letters));
    },
  });
  return isEnough ? data : [];
}

function useSieves(): { id: number; name: string; view: string }[] {
  const { data = [] } = useQuery({
    queryKey: ['sieves'],
    staleTime: 0,
    queryFn: async ({ signal }) => (await call('GET /sieves', { signal })).sieves,
  });
  return data;
}

/** Goes anywhere by a few letters: screens, actions, domains of the pool, kept sieves, settings; a typed domain opens its dossier. */
export default function Palette({ onClose }: { onClose(): void }) {
  const router = useRouter();
  const [text, setText] = useState('');
  const go = (href: string) => {
    onClose();
    router.push(href);
  };
  const item = 'rounded px-3 py-1.5 data-[selected=true]:bg-damson-soft';
  const domains = useDomains(text);
  const sieves = useSieves();
  const isDomain = /^[^\s.]+(\.[^\s.]+)+$/.test(text.trim());
  return (
    <Command.Dialog
      open
      onOpenChange={(isOpen) => !isOpen && onClose()}
      label="Go to"
      overlayClassName="fixed inset-0 z-40 bg-ink/20"
      contentClassName="fixed left-1/2 top-24 z-50 w-[520px] max-w-[calc(100vw-16px)] -translate-x-1/2 rounded-lg border border-rule bg-sheet p-2 shadow-xl"
    >
      <Command.Input
        value={text}
        onValueChange={setText}
        placeholder="A screen, an action, a domain, a kept sieve or a setting"
        className="field mb-2 w-full"
      />
      <Command.List className="max-h-80 overflow-auto">
        {domains.length === 0 && !isDomain && (
          <Command.Empty className="small px-3 py-2">Nothing by that name.</Command.Empty>
        )}
        {isDomain && (
          <Command.Item
            forceMount
            value={`dossier ${text}`}
            className={item}
            onSelect={() => go(`/domains/${encodeURIComponent(text.trim().toLowerCase())}`)}
          >
            Dossier of {text.trim()}
          </Command.Item>
        )}
        {[...PLACES, ...MORE].map(({ href, label }) => (
          <Command.Item key={href} value={label} className={item} onSelect={() => go(href)}>
            {label}
          </Command.Item>
        ))}
        {domains
          .filter((name) => name !== text.trim().toLowerCase())
          .map((name) => (
            <Command.Item
              key={name}
              forceMount
              value={`domain ${name}`}
              className={item}
              onSelect={() => go(`/domains/${name}`)}
            >
              Dossier of {name}
            </Command.Item>
          ))}
        {sieves.map(({ id, name, view }) => (
          <Command.Item
            key={id}
            value={`kept sieve ${id} ${name}`}
            className={item}
            onSelect={() => go(`/pool?${view}`)}
          >
            Kept sieve: {name}
          </Command.Item>
        ))}
        {SETTING_LABELS.map((label) => (
          <Command.Item
            key={label}
            value={`setting ${label}`}
            className={item}
            onSelect={() => go(`/settings?find=${encodeURIComponent(label)}`)}
          >
            Setting: {label}
          </Command.Item>
        ))}
        {THEMES.map(({ value, label }) => (
          <Command.Item
            key={label}
            value={`Colours: ${label}`}
            className={item}
            onSelect={() => {
              chooseTheme(value);
              onClose();
            }}
          >
            Colours: {label}
          </Command.Item>
        ))}
      </Command.List>
    </Command.Dialog>
  );
}
