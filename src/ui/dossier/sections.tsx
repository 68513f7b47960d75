'use client';

import { Hears } from '../shell/hears';
import { placeOf, pressed } from '../shell/key-list';
import { isTyping } from '../shell/shell';

/** Sections of a dossier in their order, each with its key. */
const SECTIONS = [
  ['links', 'Links'],
  ['anchors', 'Anchor texts'],
  ['past', 'History'],
  ['record', 'Registration'],
  ['name', 'Name'],
  ['readers', 'Mentions'],
  ['listings', 'Listings'],
  ['checks', 'Checks'],
  ['notes', 'Notes'],
] as const;

/** The way to each section, by a click or by its digit. */
export function SectionNav() {
  const onKey = (event: KeyboardEvent) => {
    if (isTyping(event)) return;
    const key = pressed('dossier', event);
    if (key === 'top') go('top');
    else if (key === 'note') {
      event.preventDefault();
      document.getElementById('new-note')?.focus();
    } else if (key === 'section') go(SECTIONS[placeOf(event)][0]);
  };
  return (
    <nav
      aria-label="Sections"
      className="top-0 z-10 mt-3 flex flex-wrap gap-x-4 gap-y-[6px] border-b border-rule lg:sticky bg-paper py-1.5 print:hidden"
    >
      <Hears onKey={onKey} />
      {SECTIONS.map(([id, title], n) => (
        <a key={id} href={`#${id}`} className="hover:underline">
          {title} <kbd className="small">{n + 1}</kbd>
        </a>
      ))}
      <a href="#top" className="small ml-auto hover:underline">
        top <kbd>0</kbd>
      </a>
    </nav>
  );
}

function go(id: string): void {
  const heading = document.getElementById(id);
  if (!heading) return;
  heading.scrollIntoView();
  heading.focus({ preventScroll: true });
}
