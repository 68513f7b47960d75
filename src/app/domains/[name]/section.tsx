import type { ReactNode } from 'react';

export function Section({
  id,
  title,
  origin,
  children,
}: {
  id: string;
  title: string;
  origin?: string;
  children: ReactNode;
}) {
  return (
    <section aria-labelledby={id}>
      <h2 id={id}>
        {title} {origin && <span className="small ml-1.5 font-normal">{origin}</span>}
      </h2>
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
