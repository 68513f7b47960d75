import type { ReactNode } from 'react';

interface Titled {
  id: string;
  title: string;
  /** Where it comes from and how old it is. */
  origin?: string;
  children: ReactNode;
}

/** A part of the page that can be gone to: its title, and below it what belongs there, in columns where there is room. */
export function Part({ id, title, origin, children }: Titled) {
  return (
    <section aria-labelledby={id} className="mt-7 scroll-mt-10 border-t border-ink pt-2">
      <h2 id={id} tabIndex={-1} className="scroll-mt-12 font-serif text-title leading-tight outline-none">
        {title} {origin && <span className="small ml-1.5 font-sans font-normal">{origin}</span>}
      </h2>
      <div className="mt-2">{children}</div>
    </section>
  );
}

export function Section({ id, title, origin, children }: Titled) {
  return (
    <section aria-labelledby={id} className="min-w-0">
      <h3 id={id} className="font-semibold">
        {title} {origin && <span className="small ml-1.5 font-normal">{origin}</span>}
      </h3>
      <div className="mt-1.5">{children}</div>
    </section>
  );
}

export function Line({ label, children }: { label: string; children: ReactNode }) {
  return (
    <div className="flex gap-4 border-t border-rule py-1">
      <dt className="w-36 shrink-0 text-muted">{label}</dt>
      <dd className="min-w-0 break-words">{children}</dd>
    </div>
  );
}

/** Sections one below the other in two columns, or three where the window is wide; none is torn apart. */
export function Columns({ children }: { children: ReactNode }) {
  return (
    <div className="columns-2 gap-x-12 *:mb-6 *:break-inside-avoid *:last:mb-0 min-[1700px]:columns-3">{children}</div>
  );
}
