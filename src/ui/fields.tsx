'use client';

import { type ReactNode, useRef, useState } from 'react';

/** A field under its label. */
export function Labelled({ label, hint, children }: { label: string; hint?: string; children: ReactNode }) {
  return (
    // biome-ignore lint/a11y/noLabelWithoutControl: the field is given as the child
    <label className="block">
      <span className="font-semibold">{label}</span>
      {hint && <span className="small ml-2">{hint}</span>}
      <span className="mt-1 block">{children}</span>
    </label>
  );
}

/** A file, chosen or dropped. */
export function FileDrop({ label, hint, onFile }: { label: string; hint: string; onFile(file: File): void }) {
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: the file field inside does the same by keyboard
    <div
      className="rounded border border-dashed border-muted px-4 py-5 text-center"
      onDragOver={(event) => event.preventDefault()}
      onDrop={(event) => {
        event.preventDefault();
        const file = event.dataTransfer.files[0];
        if (file) onFile(file);
      }}
    >
      <label className="set cursor-pointer focus-within:outline-2 focus-within:outline-damson">
        {label}
        <input
          type="file"
          className="sr-only"
          onChange={(event) => event.target.files?.[0] && onFile(event.target.files[0])}
        />
      </label>{' '}
      or drop it here. <span className="small block">{hint}</span>
    </div>
  );
}

/** A problem, where it came up. */
export function Problem({ text }: { text: string | null }) {
  if (!text) return null;
  return (
    <p role="alert" className="bg-quince px-3 py-2 whitespace-pre-line">
      {text}
    </p>
  );
}

/** What is under way, on a line that is always there: nothing moves when it begins or ends. */
export function Status({ text }: { text: string | null }) {
  return (
    <p role="status" className="h-6 truncate leading-6">
      {text}
    </p>
  );
}

/** A label that gives way to another without changing its button's size. */
export function SteadyLabel({ label, busyLabel, isBusy }: { label: ReactNode; busyLabel: string; isBusy: boolean }) {
  return (
    <span className="grid">
      <span className={`col-start-1 row-start-1 ${isBusy ? 'invisible' : ''}`}>{label}</span>
      <span className={`col-start-1 row-start-1 ${isBusy ? '' : 'invisible'}`}>{busyLabel}</span>
    </span>
  );
}

/** Does things one after another, in the order in which they were asked for; says what is under way and what went wrong. */
export function useAttempt() {
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState<string | null>(null);
  const last = useRef<Promise<void>>(Promise.resolve());
  const waiting = useRef<string[]>([]);
  /** `once`: nothing happens when the same is under way already, as when a button is pressed twice. */
  const attempt = (what: string, act: () => Promise<void>, { once = false } = {}): Promise<void> => {
    if (once && waiting.current.includes(what)) return Promise.resolve();
    waiting.current.push(what);
    const turn = last.current.then(async () => {
      setBusy(what);
      setProblem(null);
      try {
        await act();
      } catch (error) {
        setProblem((error as Error).message);
      } finally {
        waiting.current.shift();
        if (waiting.current.length === 0) setBusy(null);
      }
    });
    last.current = turn;
    return turn;
  };
  return { problem, busy, attempt };
}
