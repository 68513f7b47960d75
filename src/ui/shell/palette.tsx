'use client';

import { Command } from 'cmdk';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { PLACES } from './header';

const MORE = [
  { href: '/sources?add=crawl', label: 'Crawl sites' },
  { href: '/sources?add=search', label: 'Search for phrases' },
  { href: '/sources?add=referrers', label: 'Use a referrer file' },
  { href: '/page', label: 'Look at one page' },
  { href: '/shortlist/plan', label: 'Bid plan' },
  { href: '/learning', label: 'Outcomes against estimates' },
  { href: '/ideas', label: 'Ideas: names nobody has had' },
  { href: '/compare', label: 'Compare domains side by side' },
  { href: '/targets', label: 'Dead targets, and whom to write to' },
  { href: '/sources?add=list', label: 'Import a list' },
  { href: '/sources?add=feed', label: 'Read a venue feed' },
  { href: '/sources?add=links', label: 'Import a link index' },
  { href: '/pool?c=phase%3Afree%2Cpending-delete', label: 'Pool: free or about to drop' },
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

/** Goes anywhere by a few letters; a typed domain opens its dossier. */
export default function Palette({ onClose }: { onClose(): void }) {
  const router = useRouter();
  const [text, setText] = useState('');
  const go = (href: string) => {
    onClose();
    router.push(href);
  };
  const item = 'rounded px-3 py-1.5 data-[selected=true]:bg-damson-soft';
  const isDomain = /^[^\s.]+(\.[^\s.]+)+$/.test(text.trim());
  return (
    <Command.Dialog
      open
      onOpenChange={(isOpen) => !isOpen && onClose()}
      label="Go to"
      overlayClassName="fixed inset-0 z-40 bg-ink/20"
      contentClassName="fixed left-1/2 top-24 z-50 w-[520px] -translate-x-1/2 rounded-lg border border-rule bg-sheet p-2 shadow-xl"
    >
      <Command.Input
        value={text}
        onValueChange={setText}
        placeholder="A screen, an action, or a domain"
        className="field mb-2 w-full"
      />
      <Command.List className="max-h-80 overflow-auto">
        <Command.Empty className="small px-3 py-2">Nothing by that name.</Command.Empty>
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
